import fc from 'fast-check';
import { linearRegression, linearRegressionLine, rSquared } from 'simple-statistics';
import { describe, expect, it } from '@jest/globals';
import { seeded } from '../random/index.js';
import { indexOfDifficulty, pointing, REACH_CONSTANTS } from '../reach/index.js';
import {
  CHOICE_LENGTHS,
  choicesOf,
  fitExercise,
  fittedConstants,
  leastSquares,
  targetsIn,
  type Done,
} from './index.js';

const C = REACH_CONSTANTS;

describe('least squares', () => {
  // outside reference: simple-statistics
  it('gives the line of simple-statistics, and what it explains', () => {
    const value = fc.double({ min: -1000, max: 1000, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(value, value), { minLength: 3, maxLength: 40 }), (pairs) => {
        const xs = pairs.map(([x]) => x);
        fc.pre(Math.max(...xs) - Math.min(...xs) > 1e-3);
        const { m, b } = linearRegression(pairs);
        const line = leastSquares(pairs.map(([x, y]) => ({ x, y })))!;
        const near = (a: number, e: number) => expect(Math.abs(a - e)).toBeLessThanOrEqual(1e-6 * (1 + Math.abs(e)));
        near(line.slope, m);
        near(line.intercept, b);
        const explained = rSquared(pairs, linearRegressionLine({ m, b }));
        if (Number.isFinite(explained)) near(line.explained, Math.max(0, explained));
      }),
      { seed: 61, numRuns: 300 },
    );
  });
  it('has none through a single point, or points above each other', () => {
    expect(leastSquares([{ x: 1, y: 2 }])).toBeUndefined();
    expect(leastSquares([{ x: 1, y: 2 }, { x: 1, y: 3 }])).toBeUndefined(); // prettier-ignore
  });
});

describe('what is asked', () => {
  it('are targets that lie in the field, of a spread of difficulties', () => {
    for (let seed = 0; seed < 40; seed++) {
      const targets = targetsIn(seeded(seed), 620, 340, 25);
      for (const { x, y, size } of targets) {
        expect(Math.min(x, y) - size / 2).toBeGreaterThanOrEqual(0);
        expect(x + size / 2).toBeLessThanOrEqual(620);
        expect(y + size / 2).toBeLessThanOrEqual(340);
      }
      const bits = targets
        .slice(1)
        .map((t, i) => indexOfDifficulty(Math.hypot(t.x - targets[i]!.x, t.y - targets[i]!.y), t.size));
      expect(Math.max(...bits) - Math.min(...bits)).toBeGreaterThan(2);
    }
  });
  it('are lists of the lengths wanted, without a word twice', () => {
    for (const [i, { words, asked }] of choicesOf(seeded(3), CHOICE_LENGTHS).entries()) {
      expect(words).toHaveLength(CHOICE_LENGTHS[i]!);
      expect(new Set(words).size).toBe(words.length);
      expect(words[asked]).toBeDefined();
    }
  });
});

describe('the fit', () => {
  /** What a person of these constants does, with some scatter. */
  function person(seed: number, c: typeof C, scatter: number): Done {
    const random = seeded(seed);
    const noisy = (seconds: number) => Math.max(0.01, seconds * (1 + scatter * random.normal()));
    const targets = targetsIn(random, 620, 340, 41);
    let at = 0;
    return {
      taps: targets.slice(1).map((t, i) => {
        const distance = Math.hypot(t.x - targets[i]!.x, t.y - targets[i]!.y);
        return { distance, width: t.size, seconds: noisy(pointing(distance, t.size, c) + 2 * c.B) };
      }),
      choices: [...CHOICE_LENGTHS, ...CHOICE_LENGTHS].map((length) => {
        const [distance, width] = [40 + random.next() * 300, 30];
        const seconds = noisy(c.searchA + c.searchB * length) + pointing(distance, width, c) + 2 * c.B;
        return { length, distance, width, seconds };
      }),
      typed: Array.from({ length: 40 }, () => (at += noisy(c.K))),
    };
  }

  it('finds the constants of whoever did it', () => {
    const own = { ...C, fittsA: 0.2, fittsB: 0.23, searchA: 0.5, searchB: 0.11, K: 0.17 };
    const exact = fittedConstants(fitExercise(person(1, own, 0), C));
    expect(exact).toEqual({ fittsA: 0.2, fittsB: 0.23, searchA: 0.5, searchB: 0.11, K: 0.17 });
    for (let seed = 1; seed <= 20; seed++) {
      const fits = fitExercise(person(seed, own, 0.1), C);
      const found = { ...C, ...fittedConstants(fits) };
      expect(fits.map((f) => f.reason)).toEqual(['ok', 'ok', 'ok']);
      expect(Math.abs(pointing(300, 40, found) - pointing(300, 40, own))).toBeLessThan(0.06);
      expect(Math.abs(found.searchA + 10 * found.searchB - 1.6)).toBeLessThan(0.2);
      expect(Math.abs(found.K - own.K)).toBeLessThan(0.02);
    }
  });
  it('is not led astray by who looked away in between', () => {
    const done = person(4, C, 0.05);
    const away: Done = {
      taps: done.taps.map((t, i) => (i === 7 ? { ...t, seconds: 30 } : t)),
      choices: done.choices.map((c, i) => (i === 3 ? { ...c, seconds: 45 } : c)),
      typed: done.typed.map((at, i) => (i > 20 ? at + 60 : at)),
    };
    const [calm, disturbed] = [done, away].map((d) => fittedConstants(fitExercise(d, C)));
    for (const name of ['fittsB', 'searchB', 'K'] as const)
      expect(Math.abs(disturbed![name]! - calm![name]!)).toBeLessThan(0.02);
  });
  it('leaves what was skipped, or shows no law, as it was', () => {
    const nothing = fitExercise({ taps: [], choices: [], typed: [] }, C);
    expect(nothing.map((f) => f.reason)).toEqual(['too-few', 'too-few', 'too-few']);
    expect(fittedConstants(nothing)).toEqual({});
    const random = seeded(2);
    const same = Array.from({ length: 20 }, () => ({ distance: 100 + 300 * random.next(), width: 30, seconds: 0.5 }));
    const [taps] = fitExercise({ taps: same, choices: [], typed: [] }, C);
    // the same time whatever the distance: no law of pointing
    expect(taps).toMatchObject({ reason: 'no-law', constants: {} });
    expect(taps!.points).toHaveLength(20);
  });
});
