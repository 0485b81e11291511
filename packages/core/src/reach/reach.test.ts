import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import {
  bestRoute,
  byAlias,
  byBoard,
  byCommand,
  byEntry,
  byFindLine,
  byGroup,
  byOwnEntry,
  byOwnKey,
  byPinClick,
  byPinKey,
  byFolderRoute,
  choosing,
  indexOfDifficulty,
  layStrip,
  pointing,
  REACH_CONSTANTS as C,
  through,
  totalSeconds,
  wayByEntry,
  wayByPin,
  wayByView,
  withComing,
} from './index.js';

const parts = (...p: [number, number][]) =>
  totalSeconds(p.map(([n, seconds]) => ({ label: '', seconds: n * seconds })));

describe('worked values', () => {
  it('adds up the Keystroke-Level Model (Card, Moran and Newell 1980, from memory)', () => {
    expect(parts([3, C.M], [8, C.K])).toBeCloseTo(6.29, 9);
    expect(parts([1, C.H], [3, C.M + C.P + C.K])).toBeCloseTo(8.59, 9);
  });
  it('calculates Fitts’ index in Shannon form: D 256, W 32 is 3.1699 bits', () => {
    expect(indexOfDifficulty(256, 32)).toBeCloseTo(3.1699, 4);
  });
});

describe('choosing among n', () => {
  it('falls with practice and rises with length, as published menu models do', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 400 }), fc.double({ min: 0, max: 500, noNaN: true }), (n, uses) => {
        expect(choosing(n, uses + 5, C)).toBeLessThanOrEqual(choosing(n, uses, C) + 1e-12);
        expect(choosing(n + 1, uses, C)).toBeGreaterThan(choosing(n, uses, C));
      }),
      { seed: 31 },
    );
  });
  it('is searching alone for what was never used', () => {
    expect(choosing(10, 0, C)).toBeCloseTo(0.3 + 0.8, 12);
  });
});

describe('routes', () => {
  it('prices a pin by key as M + K, one step', () => {
    const route = byPinKey(1, C);
    expect(route.seconds).toBeCloseTo(1.63, 9);
    expect(route.steps).toBe(1);
    expect(byPinKey(2, C).seconds).toBeCloseTo(3.26, 9);
  });
  it('makes a pin slower to click the more labels there are', () => {
    const few = layStrip(['Log', 'Tides']);
    const many = layStrip(Array.from({ length: 9 }, (_, i) => `Pin ${i}`));
    expect(byPinClick(0, many, 0, C).seconds).toBeGreaterThan(byPinClick(0, few, 0, C).seconds);
  });
  it('makes a far slot slower to point at than a near one of the same width', () => {
    const strip = layStrip(Array.from({ length: 12 }, () => 'Same name'));
    const at = strip.map((label) => pointing(Math.hypot(label.centreX - 554, label.centreY - 433), 38, C));
    expect(at[11]).toBeGreaterThan(at[4]!);
  });
  it('lets labels follow each other without touching', () => {
    const strip = layStrip(['One', 'Another', 'A third one']);
    for (let i = 1; i < strip.length; i++)
      expect(strip[i]!.centreX - strip[i]!.width / 2).toBeGreaterThan(strip[i - 1]!.centreX + strip[i - 1]!.width / 2);
  });
  it('walks one step a level, and slower through fuller folders', () => {
    const walk = byFolderRoute(3, [14, 9, 31], 0, C);
    expect(walk.steps).toBe(5);
    expect(byFolderRoute(3, [14, 9, 310], 0, C).seconds).toBeGreaterThan(walk.seconds);
    expect(walk.operators.reduce((s, o) => s + o.seconds, 0)).toBeCloseTo(walk.seconds, 12);
  });
  it('never adds M to a priced choice for the same decision', () => {
    expect(byFolderRoute(3, [4], 0, C).operators.some((o) => o.label === 'M')).toBe(false);
    expect(byFindLine(3, 1, 0, C).operators.filter((o) => o.label === 'M')).toHaveLength(1);
  });
  it('adds a choice, a pointing and a click for each level of a menu, and prices longer ones higher', () => {
    const strip = layStrip(['Today', 'Tools']);
    const way = wayByPin(0, 1, strip, 0, C);
    const flat = byGroup('collection', way, 8, 0, C);
    expect(flat.steps).toBe(2);
    expect(flat.operators.map((o) => o.label)).toEqual(['M', 'K', 'choice of 8', 'pointing', '2B']);
    const nested = byGroup('collection', through(way, 8, 0, C), 8, 0, C);
    expect(nested.steps).toBe(3);
    expect(nested.seconds - flat.seconds).toBeCloseTo(0.3 + 0.64 + pointing(136, 34, C) + 0.2, 9);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 399 }), (n) =>
        expect(byGroup('tag', way, n + 1, 0, C).seconds).toBeGreaterThan(byGroup('tag', way, n, 0, C).seconds),
      ),
      { seed: 32 },
    );
    // by a click where a key takes longer
    expect(wayByPin(0, 3, strip, 1000, C).operators.some((o) => o.label === 'pointing')).toBe(true);
    expect(wayByView(12, 0, C).steps).toBe(2);
  });
  it('counts the way to Rellin before every route within it, and not before those beside it', () => {
    const key = byPinKey(1, C);
    expect(withComing(key, 'here', C)).toBe(key);
    expect(withComing(key, 'window', C)).toMatchObject({ steps: 2, seconds: expect.closeTo(key.seconds + 1.91, 9) });
    expect(withComing(key, 'entry', C).seconds).toBeCloseTo(key.seconds + 0.4 + 1.1 + 0.2, 9);
    // a key or an entry that opens the find line spares the line's own key, and is made up one's mind for once
    const find = byFindLine(2, 1, 0, C);
    expect(withComing(find, 'key', C).seconds).toBeCloseTo(find.seconds + 2 * C.K - C.K, 9);
    expect(withComing(find, 'key', C).operators.filter((o) => o.label === 'M')).toHaveLength(1);
    for (const outside of [byAlias([4, 9], 0, C), byEntry(12, 0, C), byCommand(3, C)])
      expect(withComing(outside, 'key', C)).toBe(outside);
  });
  it('prices what lies outside: a link in a folder, an entry in a menu, the command', () => {
    expect(byAlias([5], 0, C).seconds).toBeCloseTo(0.4 + (0.3 + 0.4) + 1.1 + 0.4, 9);
    expect(byEntry(10, 0, C).seconds).toBeCloseTo(0.4 + 1.1 + 0.2 + 1.1 + 1.1 + 0.2, 9);
    // "rellin open " is twelve keys
    expect(byCommand(3, C).seconds).toBeCloseTo(1.35 + 15 * 0.28 + 0.28, 9);
    expect(byOwnEntry('here', C)).toMatchObject({ kind: 'entry', steps: 1, seconds: expect.closeTo(1.7, 9) });
    expect(byOwnEntry('key', C).seconds).toBeCloseTo(1.35 + 2 * 0.28, 9);
    expect(byGroup('entry', wayByEntry('here', C), 5, 0, C).steps).toBe(2);
    expect(byOwnKey('j t', C)).toMatchObject({ kind: 'own-key', steps: 1, seconds: expect.closeTo(3.26, 9) });
    expect(byOwnKey('alt+shift+t', C).seconds).toBeCloseTo(1.35 + 3 * 0.28, 9);
  });
  it('prices a board by where the thing lies: the board, the region, the thing; a bundle by its list besides', () => {
    const on = { boards: 1, regions: 1, members: 6, distance: 300, bundled: 0 };
    const first = byBoard(on, 0, C);
    expect(first.steps).toBe(2);
    expect(first.seconds).toBeCloseTo(0.4 + 1.1 + 0.2 + (0.3 + 0.48) + pointing(300, 40, C) + 0.4, 9);
    const second = byBoard({ ...on, boards: 3 }, 0, C);
    expect(second.steps).toBe(3);
    expect(second.seconds - first.seconds).toBeCloseTo(0.3 + 0.24 + 1.1 + 0.2, 9);
    const bundled = byBoard({ ...on, bundled: 5 }, 0, C);
    expect(bundled.steps).toBe(3);
    // a click opens its list where a double click would have opened the thing
    expect(bundled.seconds - first.seconds).toBeCloseTo(-0.2 + (0.3 + 0.4) + pointing(85, 34, C) + 0.2, 9);
    expect(bundled.operators.reduce((sum, o) => sum + o.seconds, 0)).toBeCloseTo(bundled.seconds, 12);
    for (const more of [{ regions: 4 }, { members: 20 }, { distance: 900 }])
      expect(byBoard({ ...on, ...more }, 3, C).seconds).toBeGreaterThan(byBoard(on, 3, C).seconds);
    expect(byBoard(on, 40, C).seconds).toBeLessThan(first.seconds);
  });
  it('takes the quickest, the fewer steps where equal, none from none', () => {
    const a = byPinKey(1, C);
    const b = { ...a, steps: 3, kind: 'find' as const };
    expect(bestRoute([b, a])).toBe(a);
    expect(bestRoute([byFolderRoute(2, [5], 0, C), a])).toBe(a);
    expect(bestRoute([])).toBeUndefined();
  });
});
