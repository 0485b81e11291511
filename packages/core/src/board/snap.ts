/** Into the cells, with the least movement (docs/models.md 7). */
import { assign } from '../assignment/index.js';
import { Occupied, type Lying, type Spot } from './cells.js';

/** So many are put exactly; more of them in portions. */
const MOST_EXACT = 400;
const PORTION = 200;

const squared = (a: Spot, b: Spot) => (a.x - b.x) ** 2 + (a.y - b.y) ** 2;

/**
 * A free cell for each of `things`, so that the sum of squared displacements is least; `fixed` stays where it is, and
 * nothing overlaps it. No thing lies above or left of the board, which is `columns` cells wide and as deep as it must
 * be.
 *
 * What is one cell high is assigned exactly up to 400. Of more, portions are assigned from the top down, and then again
 * in portions that lie half over two of these, all others staying, twice. What is higher comes before, first what moves
 * least. Cost: that of assigning n things to the free cells nearest to each, as many as there are things; n − 1 others
 * can take no more than n − 1 of them.
 */
export function snap(things: readonly Lying[], columns: number, fixed: readonly Lying[] = []): Map<string, Spot> {
  const spots = new Map<string, Spot>();
  const lying = [...fixed];
  for (const high of things.filter((t) => t.height > 1).sort((a, b) => offGrid(a) - offGrid(b))) {
    const spot = nearestCell(high, columns, new Occupied(lying));
    spots.set(high.id, spot);
    lying.push({ ...high, ...spot });
  }
  const single = things.filter((t) => t.height === 1).sort((a, b) => a.y - b.y || a.x - b.x);
  const portion = single.length <= MOST_EXACT ? single.length : PORTION;
  const placeFrom = (from: number) => {
    const some = single.slice(from, from + portion);
    const others = single.flatMap((t, i) => {
      const spot = spots.get(t.id);
      return spot && (i < from || i >= from + portion) ? [{ ...t, ...spot }] : [];
    });
    for (const [id, spot] of exactly(some, columns, new Occupied([...lying, ...others]))) spots.set(id, spot);
  };
  for (let from = 0; from < single.length; from += portion) placeFrom(from);
  for (let again = 0; portion < single.length && again < 2; again++)
    for (let from = portion / 2; from < single.length; from += portion / 2) placeFrom(from);
  return spots;
}

/** Things one cell high, each in a free cell, exactly. */
function exactly(things: readonly Lying[], columns: number, taken: Occupied): Map<string, Spot> {
  const cells = cellsFor(things, columns, taken);
  const costs = new Float64Array(things.length * cells.length);
  things.forEach((t, i) => cells.forEach((cell, j) => (costs[i * cells.length + j] = squared(t, cell))));
  const chosen = assign(things.length, cells.length, costs)!;
  return new Map(things.map((t, i) => [t.id, cells[chosen[i]!]!]));
}

const offGrid = (t: Lying) => squared(t, { x: Math.round(t.x), y: Math.round(t.y) });

/** The rows so many rows off, above and below. */
function rowsAway(thing: Spot, away: number): number[] {
  const row = Math.round(thing.y);
  return (away === 0 ? [row] : [row - away, row + away]).filter((y) => y >= 0);
}

/** The nearest whole place for one of any height. */
function nearestCell(thing: Lying, columns: number, taken: Occupied): Spot {
  let best: Spot | undefined;
  let least = Infinity;
  // outward row by row, until no row further off can be nearer
  for (let away = 0; ; away++) {
    for (const y of rowsAway(thing, away))
      for (let x = 0; x < columns; x++) {
        const far = squared(thing, { x, y });
        if (far < least && taken.isFree({ x, y, height: thing.height })) [best, least] = [{ x, y }, far];
      }
    if (best && (away + 0.5) ** 2 > least) return best;
  }
}

/** The free cells that may be the best for one of these: of each the nearest, as many as there are things. */
function cellsFor(things: readonly Lying[], columns: number, taken: Occupied): Spot[] {
  const cells = new Map<string, Spot>();
  const free = new Map<string, boolean>();
  const isFree = (x: number, y: number) => {
    const key = `${x} ${y}`;
    let is = free.get(key);
    if (is === undefined) free.set(key, (is = taken.isFree({ x, y, height: 1 })));
    return is;
  };
  for (const thing of things) {
    const near: { spot: Spot; far: number }[] = [];
    const beside = Math.max(0, thing.x - columns + 1) ** 2;
    for (let away = 0; ; away++) {
      for (const y of rowsAway(thing, away))
        for (let x = 0; x < columns; x++)
          if (isFree(x, y)) near.push({ spot: { x, y }, far: squared(thing, { x, y }) });
      if (near.length < things.length) continue;
      near.sort((a, b) => a.far - b.far);
      near.length = Math.min(near.length, things.length);
      // a row further off has nothing nearer than the last of them
      if ((away + 0.5) ** 2 + beside > near[near.length - 1]!.far) break;
    }
    for (const { spot } of near) cells.set(`${spot.x} ${spot.y}`, spot);
  }
  return [...cells.values()].sort((a, b) => a.y - b.y || a.x - b.x);
}
