import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import { seeded, type Random } from '../random/index.js';
import { dailyCounts, ratesNow } from './index.js';

/** Of one thing alone. */
const rateNow = (counts: readonly number[]) => ratesNow([counts])[0]!;

const poisson = (random: Random, mean: number) => {
  let n = 0;
  for (let p = random.next(), k = Math.exp(-mean); p > k; p *= random.next()) n++;
  return n;
};
const days = (random: Random, count: number, perWeek: number) =>
  Array.from({ length: count }, () => poisson(random, perWeek / 7));

/** By the definition: every way to cut the days into habits, weighed by prior and fit. */
function byDefinition(counts: readonly number[]): number {
  const [shape, b, hazard] = [0.2, 2, 1 / 28];
  const gamma = (x: number): number => {
    // Stirling's series far out, the recurrence before it
    if (x < 12) return gamma(x + 1) - Math.log(x);
    return (x - 0.5) * Math.log(x) - x + 0.5 * Math.log(2 * Math.PI) + 1 / (12 * x) - 1 / (360 * x ** 3);
  };
  /** Log likelihood of days under one unknown rate. */
  const fit = (some: readonly number[]) => {
    const sum = some.reduce((s, n) => s + n, 0);
    const known = shape * Math.log(b) - gamma(shape) - some.reduce((s, n) => s + gamma(n + 1), 0);
    return known + gamma(shape + sum) - (shape + sum) * Math.log(b + some.length);
  };
  let [all, mean] = [0, 0];
  const n = counts.length;
  // a bit for each day: a new habit begins after it
  for (let cut = 0; cut < 1 << n; cut++) {
    let [weight, from] = [0, 0];
    for (let i = 0; i < n; i++) {
      const ends = (cut >> i) & 1;
      weight += Math.log(ends ? hazard : 1 - hazard);
      if (ends) {
        weight += fit(counts.slice(from, i + 1));
        from = i + 1;
      }
    }
    const last = counts.slice(from);
    const p = Math.exp(weight + fit(last));
    all += p;
    mean += (p * (shape + last.reduce((s, x) => s + x, 0))) / (b + last.length);
  }
  return (7 * mean) / all;
}

describe('the rate now', () => {
  it('is the mean over all ways to cut the days into habits', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 6 }), { minLength: 1, maxLength: 9 }), (counts) => {
        fc.pre(counts.some((n) => n > 0));
        expect(rateNow(counts)).toBeCloseTo(byDefinition(counts), 6);
      }),
      { seed: 81, numRuns: 150 },
    );
  });
  it('is near the true one where nothing changes, and nothing of what was never opened', () => {
    const errors = Array.from({ length: 40 }, (_, seed) => Math.abs(rateNow(days(seeded(seed), 56, 7)) - 7));
    expect(errors.reduce((sum, e) => sum + e, 0) / 40).toBeLessThan(1.5);
    expect(rateNow(new Array<number>(56).fill(0))).toBe(0);
    expect(rateNow([])).toBe(0);
    expect(rateNow([1, ...new Array<number>(55).fill(0)])).toBeLessThan(0.2);
  });
  it('follows a change within days, where a mean over weeks tells of what was', () => {
    let [own, plain] = [0, 0];
    for (let seed = 1; seed <= 40; seed++) {
      const random = seeded(seed);
      const counts = [...days(random, 49, 12), ...days(random, 7, 1)];
      own += Math.abs(rateNow(counts) - 1) / 40;
      plain += Math.abs(counts.slice(-28).reduce((s, n) => s + n, 0) / 4 - 1) / 40;
    }
    expect(own).toBeLessThan(1.5);
    expect(plain).toBeGreaterThan(7);
  });
  it('of things that change together is known sooner than of each alone; of those that do not, as well', () => {
    const errors = { alone: 0, together: 0, apart: 0, apartAlone: 0 };
    for (let seed = 1; seed <= 10; seed++) {
      const random = seeded(seed);
      const rates = Array.from({ length: 30 }, () => [20 * random.next() ** 2, 20 * random.next() ** 2] as const);
      const error = (found: readonly number[]) =>
        found.reduce((sum, rate, i) => sum + Math.abs(rate - rates[i]![1]), 0) / found.length / 10;
      const together = rates.map(([old, fresh]) => [...days(random, 51, old), ...days(random, 5, fresh)]);
      errors.together += error(ratesNow(together));
      errors.alone += error(together.map((counts) => rateNow(counts)));
      const apart = rates.map(([old, fresh]) => {
        const changed = random.int(5, 50);
        return [...days(random, changed, old), ...days(random, 56 - changed, fresh)];
      });
      errors.apart += error(ratesNow(apart));
      errors.apartAlone += error(apart.map((counts) => rateNow(counts)));
    }
    expect(errors.together).toBeLessThan(errors.alone * 0.9);
    expect(errors.apart).toBeLessThan(errors.apartAlone * 1.05);
  });
  it('of one thing among things that are never opened is that of the thing alone', () => {
    const counts = days(seeded(5), 56, 5);
    expect(ratesNow([counts, new Array<number>(56).fill(0)])).toEqual([rateNow(counts), 0]);
    expect(ratesNow([])).toEqual([]);
  });
  it('holds what is opened once a week at about once a week, on whichever day one looks', () => {
    for (let day = 0; day < 7; day++) {
      const rate = rateNow(Array.from({ length: 56 }, (_, i) => ((i + day) % 7 === 0 ? 1 : 0)));
      expect(rate).toBeGreaterThan(0.7);
      expect(rate).toBeLessThan(1.2);
    }
  });
  it('stays finite where one thing is opened a million times in a day', () => {
    const rate = rateNow([0, 0, 3, 0, 100_000, 0]);
    expect(rate).toBeGreaterThan(0);
    expect(Number.isFinite(rate)).toBe(true);
    expect(Number.isFinite(rateNow([1_000_000]))).toBe(true);
  });
  it('counts by days that end now; what lies in the future or too far back is left out', () => {
    const now = 100 * 86_400_000;
    expect(dailyCounts([now, now - 1, now - 86_400_000, now + 1, 0], now, 3)).toEqual([0, 1, 2]);
  });
});
