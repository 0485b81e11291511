/** What lies on a board, measured in cells from the upper left corner of its region. */

/** A shortcut (one cell) or a bundle (one cell wide, several high). It covers [x, x + 1) × [y, y + height). */
export interface Lying {
  id: string;
  /** From 0; whole where it lies in a cell, anything where it was put by hand between them. */
  x: number;
  y: number;
  /** Whole, from 1. */
  height: number;
}

/** Left upper corner. */
export interface Spot {
  x: number;
  y: number;
}

/** Less than this is no overlap: positions are kept as doubles. */
const TOUCH = 1e-9;

/** Whether two share more than an edge. */
export function overlap(a: Omit<Lying, 'id'>, b: Omit<Lying, 'id'>): boolean {
  return Math.abs(a.x - b.x) < 1 - TOUCH && a.y < b.y + b.height - TOUCH && b.y < a.y + a.height - TOUCH;
}

/** Things by the cells that they touch, so that what lies near is found without looking at all. */
export class Occupied {
  private readonly cells = new Map<string, Lying[]>();

  constructor(things: Iterable<Lying> = []) {
    for (const thing of things) this.add(thing);
  }

  add(thing: Lying): void {
    for (const key of keysOf(thing)) {
      const here = this.cells.get(key);
      if (here) here.push(thing);
      else this.cells.set(key, [thing]);
    }
  }

  /** What overlaps this, each once. O(cells touched + things there). */
  over(thing: Omit<Lying, 'id'>): Lying[] {
    const found = new Set<Lying>();
    for (const key of keysOf(thing))
      for (const other of this.cells.get(key) ?? []) if (overlap(thing, other)) found.add(other);
    return [...found];
  }

  isFree(thing: Omit<Lying, 'id'>): boolean {
    for (const key of keysOf(thing))
      for (const other of this.cells.get(key) ?? []) if (overlap(thing, other)) return false;
    return true;
  }
}

function* keysOf({ x, y, height }: Omit<Lying, 'id'>): Generator<string> {
  const right = Math.ceil(x + 1 - TOUCH);
  const bottom = Math.ceil(y + height - TOUCH);
  for (let row = Math.floor(y + TOUCH); row < bottom; row++)
    for (let column = Math.floor(x + TOUCH); column < right; column++) yield `${column} ${row}`;
}

/** All pairs that overlap, each once, in the order of `things`. O(n + pairs) where few lie in one cell. */
export function overlaps<T extends Lying>(things: readonly T[]): [T, T][] {
  const before = new Occupied();
  const pairs: [T, T][] = [];
  for (const thing of things) {
    for (const other of before.over(thing)) pairs.push([other as T, thing]);
    before.add(thing);
  }
  return pairs;
}

/** Lowest edge of all, in cells; 0 for nothing. */
export function depth(things: readonly Lying[]): number {
  return things.reduce((deepest, t) => Math.max(deepest, t.y + t.height), 0);
}
