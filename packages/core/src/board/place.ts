/** Putting things where there is room, and making room for what comes back. */
import { Occupied, type Lying, type Spot } from './cells.js';

/**
 * The nearest spot to where a thing is wanted at which it overlaps nothing, cells or not: what is wanted, where it is
 * free. The nearest point outside of rectangles lies at their edges, grown by the thing's own size, or at what is
 * wanted; so only these are tried. O(k²) for k things on the board.
 */
export function freeSpot(thing: Omit<Lying, 'id'>, columns: number, others: readonly Lying[]): Spot {
  const taken = new Occupied(others);
  const wanted = { x: Math.min(Math.max(0, thing.x), columns - 1), y: Math.max(0, thing.y) };
  if (taken.isFree({ ...thing, ...wanted })) return wanted;
  const xs = new Set(
    [wanted.x, ...others.flatMap((o) => [o.x - 1, o.x + 1])].filter((x) => x >= 0 && x <= columns - 1),
  );
  const ys = new Set([wanted.y, ...others.flatMap((o) => [o.y - thing.height, o.y + o.height])].filter((y) => y >= 0));
  let best: Spot | undefined;
  let least = Infinity;
  for (const x of xs)
    for (const y of ys) {
      const far = (x - wanted.x) ** 2 + (y - wanted.y) ** 2;
      // of equal ones the upper, then the left
      const isBetter = far < least || (far === least && (y < best!.y || (y === best!.y && x < best!.x)));
      if (isBetter && taken.isFree({ x, y, height: thing.height })) [best, least] = [{ x, y }, far];
    }
  // below all the others there always is one
  return best!;
}

/**
 * `coming` get exactly the spots they have; of `others` only those in the way are moved, each as little as may be, the
 * upper ones first. Returns where those go. `coming` do not overlap each other.
 */
export function makeRoom(coming: readonly Lying[], others: readonly Lying[], columns: number): Map<string, Spot> {
  const arrived = new Occupied(coming);
  const inTheWay = others.filter((o) => !arrived.isFree(o)).sort((a, b) => a.y - b.y || a.x - b.x);
  const lying = [...coming, ...others.filter((o) => !inTheWay.includes(o))];
  const moved = new Map<string, Spot>();
  for (const thing of inTheWay) {
    const spot = freeSpot(thing, columns, lying);
    moved.set(thing.id, spot);
    lying.push({ ...thing, ...spot });
  }
  return moved;
}

/** The first free cells in reading order. */
export function firstFree(count: number, columns: number, others: readonly Lying[]): Spot[] {
  const taken = new Occupied(others);
  const spots: Spot[] = [];
  for (let i = 0; spots.length < count; i++) {
    const spot = { x: i % columns, y: Math.floor(i / columns) };
    if (taken.isFree({ ...spot, height: 1 })) spots.push(spot);
  }
  return spots;
}

/** The cells of `count` things in rows, from the upper left. */
export function flow(count: number, columns: number): Spot[] {
  return Array.from({ length: count }, (_, i) => ({ x: i % columns, y: Math.floor(i / columns) }));
}

/**
 * Rows in the order given; what is higher than a cell comes after the single ones, each row as deep as its deepest.
 */
export function arrange(things: readonly Lying[], columns: number): Map<string, Spot> {
  const single = things.filter((t) => t.height === 1);
  const spots = new Map<string, Spot>();
  flow(single.length, columns).forEach((spot, i) => spots.set(single[i]!.id, spot));
  let y = Math.ceil(single.length / columns);
  const high = things.filter((t) => t.height > 1);
  for (let i = 0; i < high.length; i += columns) {
    const row = high.slice(i, i + columns);
    row.forEach((t, x) => spots.set(t.id, { x, y }));
    y += Math.max(...row.map((t) => t.height));
  }
  return spots;
}
