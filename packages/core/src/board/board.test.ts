import { describe, expect, it } from '@jest/globals';
import { munkres } from 'munkres';
import { seeded, type Random } from '../random/index.js';
import { arrange, depth, freeSpot, makeRoom, overlap, overlaps, snap, type Lying } from './index.js';

/** Sum of squared displacements, in cells². */
const displacement = (things: readonly Lying[], spots: ReadonlyMap<string, { x: number; y: number }>) =>
  things.reduce((sum, t) => sum + (t.x - spots.get(t.id)!.x) ** 2 + (t.y - spots.get(t.id)!.y) ** 2, 0);

const strewn = (random: Random, count: number, columns: number, rows: number, high = 0): Lying[] =>
  Array.from({ length: count }, (_, i) => ({
    id: `i${i}`,
    x: random.next() * (columns - 1),
    y: random.next() * rows,
    height: random.next() < high ? random.int(2, 4) : 1,
  }));
/** Things in cells, none over another. */
const inCells = (random: Random, count: number, columns: number, rows: number, high = 0): Lying[] => {
  const things = strewn(random, count, columns, rows, high);
  return at(things, snap(things, columns));
};
const at = (things: readonly Lying[], spots: ReadonlyMap<string, { x: number; y: number }>) =>
  things.map((t) => ({ ...t, ...spots.get(t.id)! }));
/** By looking at every pair. */
const plainOverlaps = (things: readonly Lying[]) =>
  things.flatMap((a, i) => things.slice(i + 1).flatMap((b) => (overlap(a, b) ? [`${a.id} ${b.id}`] : [])));

describe('overlaps', () => {
  it('are those that looking at every pair finds', () => {
    const random = seeded(71);
    for (let round = 0; round < 100; round++) {
      const things = strewn(random, random.int(0, 40), 6, 8, 0.3);
      const found = overlaps(things).map(([a, b]) => `${a.id} ${b.id}`);
      expect(found.sort()).toEqual(plainOverlaps(things).sort());
    }
  });
  it('are none where edges only touch', () => {
    const a = { id: 'a', x: 0.25, y: 0, height: 2 };
    expect(overlaps([a, { id: 'b', x: 1.25, y: 0, height: 1 }, { id: 'c', x: 0.25, y: 2, height: 1 }])).toEqual([]);
  });
});

describe('snap', () => {
  it('moves no more in all than the reference solver (package munkres) on every cell', () => {
    const random = seeded(72);
    for (let round = 0; round < 60; round++) {
      const columns = random.int(2, 5);
      const things = strewn(random, random.int(1, 12), columns, 4);
      const fixed = [{ id: 'f', x: random.int(0, columns - 1), y: random.int(0, 3), height: random.int(1, 3) }];
      const spots = snap(things, columns, fixed);
      const cells = Array.from({ length: columns * 18 }, (_, i) => ({
        x: i % columns,
        y: Math.floor(i / columns),
      })).filter((cell) => !overlap({ ...cell, height: 1 }, fixed[0]!));
      const costs = things.map((t) => cells.map((c) => (t.x - c.x) ** 2 + (t.y - c.y) ** 2));
      const best = munkres(costs).reduce((sum, [row, column]) => sum + costs[row]![column]!, 0);
      expect(displacement(things, spots)).toBeCloseTo(best, 9);
      expect(plainOverlaps([...at(things, spots), ...fixed])).toEqual([]);
    }
  });
  it('is exact also for what lies beyond a board that was made narrower', () => {
    const things = [0, 1, 2, 3, 4].map((x) => ({ id: `i${x}`, x, y: 0, height: 1 }));
    const costs = things.map((t) =>
      Array.from({ length: 20 }, (_, i) => (t.x - (i % 2)) ** 2 + (t.y - Math.floor(i / 2)) ** 2),
    );
    const best = munkres(costs).reduce((sum, [row, column]) => sum + costs[row]![column]!, 0);
    expect(displacement(things, snap(things, 2))).toBeCloseTo(best, 9);
  });
  it('leaves what is in order as it is', () => {
    const things = [...Array(9).keys()].map((i) => ({ id: `i${i}`, x: i % 3, y: Math.floor(i / 3), height: 1 }));
    expect(displacement(things, snap(things, 3))).toBe(0);
  });
  it('puts bundles of several cells without overlap, and keeps to the board', () => {
    const random = seeded(73);
    for (let round = 0; round < 40; round++) {
      const columns = random.int(1, 6);
      const things = strewn(random, random.int(1, 30), columns, 6, 0.3);
      const lying = at(things, snap(things, columns));
      expect(plainOverlaps(lying)).toEqual([]);
      for (const { x, y } of lying) {
        expect(Number.isInteger(x) && Number.isInteger(y) && x >= 0 && y >= 0 && x < columns).toBe(true);
      }
    }
  });
  it('does well beyond the exact size too: within a hundredth of the exact solution', () => {
    const things = strewn(seeded(74), 500, 12, 60);
    const spots = snap(things, 12);
    expect(plainOverlaps(at(things, spots))).toEqual([]);
    const cells = Array.from({ length: 12 * 64 }, (_, i) => ({ x: i % 12, y: Math.floor(i / 12) }));
    const costs = things.map((t) => cells.map((c) => (t.x - c.x) ** 2 + (t.y - c.y) ** 2));
    const best = munkres(costs).reduce((sum, [row, column]) => sum + costs[row]![column]!, 0);
    expect(displacement(things, spots)).toBeLessThanOrEqual(best * 1.01);
  });
});

describe('a free spot', () => {
  it('is the nearest: none of a fine grid of spots is nearer', () => {
    const random = seeded(75);
    for (let round = 0; round < 25; round++) {
      const columns = 4;
      const others = inCells(random, 8, columns, 3, 0.2);
      const thing = { x: random.next() * 3, y: random.next() * 3, height: random.int(1, 2) };
      const spot = freeSpot(thing, columns, others);
      expect(others.some((o) => overlap({ ...spot, height: thing.height }, o))).toBe(false);
      const far = (s: { x: number; y: number }) => Math.hypot(s.x - thing.x, s.y - thing.y);
      for (let x = 0; x <= 3; x += 0.15)
        for (let y = 0; y <= 8; y += 0.15)
          if (!others.some((o) => overlap({ x, y, height: thing.height }, o)))
            expect(far(spot)).toBeLessThanOrEqual(far({ x, y }) + 1e-9);
    }
  });
  it('is what was wanted where that is free', () => {
    expect(freeSpot({ x: 0.3, y: 1.7, height: 1 }, 3, [{ id: 'a', x: 0.3, y: 0.7, height: 1 }])).toEqual({
      x: 0.3,
      y: 1.7,
    });
  });
});

describe('making room', () => {
  it('brings back exactly, and moves only what is in the way', () => {
    const random = seeded(76);
    for (let round = 0; round < 60; round++) {
      // what comes back lay in cells once; the others do now
      const coming = inCells(random, 8, 5, 3, 0.2).map((t) => ({ ...t, id: `back ${t.id}` }));
      const others = inCells(random, 16, 5, 5, 0.2);
      const moved = makeRoom(coming, others, 5);
      const now = others.map((o) => ({ ...o, ...moved.get(o.id) }));
      expect(plainOverlaps([...coming, ...now])).toEqual([]);
      for (const o of others) expect(moved.has(o.id)).toBe(coming.some((c) => overlap(c, o)));
    }
  });
});

describe('arranging', () => {
  it('fills rows in the order given, bundles after them, nothing over another', () => {
    const random = seeded(77);
    for (let round = 0; round < 40; round++) {
      const columns = random.int(1, 5);
      const things = strewn(random, random.int(0, 30), columns, 5, 0.3);
      const lying = at(things, arrange(things, columns));
      expect(plainOverlaps(lying)).toEqual([]);
      const single = lying.filter((t) => t.height === 1);
      single.forEach((t, i) => expect([t.x, t.y]).toEqual([i % columns, Math.floor(i / columns)]));
      expect(depth(lying)).toBeGreaterThanOrEqual(Math.ceil(single.length / columns));
    }
  });
});
