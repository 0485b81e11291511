import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import {
  bestRoute,
  byFindLine,
  byPinClick,
  byPinKey,
  byWalk,
  choiceBits,
  choosing,
  indexOfDifficulty,
  layStrip,
  pointing,
  REACH_CONSTANTS as C,
  totalSeconds,
} from './index.js';

const parts = (...p: [number, number][]) =>
  totalSeconds(p.map(([n, seconds]) => ({ label: '', seconds: n * seconds })));

describe('worked values', () => {
  it('adds up the Keystroke-Level Model (Card, Moran and Newell 1980, from memory)', () => {
    expect(parts([3, C.M], [8, C.K])).toBeCloseTo(6.29, 9);
    expect(parts([1, C.H], [3, C.M + C.P + C.K])).toBeCloseTo(8.59, 9);
  });
  it('reckons Fitts’ index in Shannon form: D 256, W 32 is 3.1699 bits', () => {
    expect(indexOfDifficulty(256, 32)).toBeCloseTo(3.1699, 4);
  });
  it('reckons choices by Hick and Hyman: seven equal 2.807 bits, eight equal 3, {.5,.25,.125,.125} 1.75', () => {
    expect(choiceBits(Array(8).fill(1 / 8))).toBeCloseTo(3, 12);
    expect(choiceBits(Array(7).fill(1 / 7)) + Math.log2(8 / 7)).toBeCloseTo(3, 12);
    expect(choiceBits([0.5, 0.25, 0.125, 0.125])).toBe(1.75);
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
    const walk = byWalk(3, [14, 9, 31], 0, C);
    expect(walk.steps).toBe(5);
    expect(byWalk(3, [14, 9, 310], 0, C).seconds).toBeGreaterThan(walk.seconds);
    expect(walk.operators.reduce((s, o) => s + o.seconds, 0)).toBeCloseTo(walk.seconds, 12);
  });
  it('never adds M to a priced choice for the same decision', () => {
    expect(byWalk(3, [4], 0, C).operators.some((o) => o.label === 'M')).toBe(false);
    expect(byFindLine(3, 1, 0, C).operators.filter((o) => o.label === 'M')).toHaveLength(1);
  });
  it('takes the quickest, the fewer steps where equal, none from none', () => {
    const a = byPinKey(1, C);
    const b = { ...a, steps: 3, kind: 'find' as const };
    expect(bestRoute([b, a])).toBe(a);
    expect(bestRoute([byWalk(2, [5], 0, C), a])).toBe(a);
    expect(bestRoute([])).toBeUndefined();
  });
});
