import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import { SYSTEM_ZONE } from '../query/index.js';
import { NO_WEIGHT, openingsPerWeek, weeklyCounts, weeksOfUse, weightAt, WEEK, withOpening } from './index.js';

const DAY = 86_400_000;
const from = (times: readonly number[], h = 14) => times.reduce((w, t) => withOpening(w, t, h), NO_WEIGHT);

describe('usage weight', () => {
  it('halves after one half-life, and reads 0.371499 after ten days at a half-life of seven', () => {
    const w = withOpening(NO_WEIGHT, 0, 14);
    expect(weightAt(w, 14 * DAY, 14)).toBeCloseTo(0.5, 12);
    // worked value of the half-life law: 2^(-10/7)
    expect(weightAt(withOpening(NO_WEIGHT, 0, 7), 10 * DAY, 7)).toBeCloseTo(0.371499, 6);
  });
  it('approaches 1 / (1 − 2^(−1/h)) at one opening a day', () => {
    const w = from(Array.from({ length: 1000 }, (_, d) => d * DAY));
    expect(weightAt(w, 999 * DAY)).toBeCloseTo(1 / (1 - 2 ** (-1 / 14)), 9);
  });
  it('reads 1.18 just after and 0.84 just before a weekly opening, as openings a week', () => {
    const w = from(Array.from({ length: 200 }, (_, k) => k * WEEK));
    const last = 199 * WEEK;
    expect(openingsPerWeek(weightAt(w, last))).toBeCloseTo(1.18, 2);
    expect(openingsPerWeek(weightAt(w, last + WEEK))).toBeCloseTo(0.84, 2);
  });
  it('equals the sum it stands for, whatever the order of arrival', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 400 * DAY }), { minLength: 1, maxLength: 40 }),
        fc.integer({ min: 1, max: 90 }),
        fc.infiniteStream(fc.nat()),
        (times, h, order) => {
          const now = 401 * DAY;
          const sum = times.reduce((s, t) => s + 2 ** (-(now - t) / (h * DAY)), 0);
          const shuffled = times
            .map((t) => [order.next().value as number, t] as const)
            .sort((a, b) => a[0] - b[0])
            .map(([, t]) => t);
          expect(weightAt(from(times, h), now, h)).toBeCloseTo(sum, 9);
          expect(weightAt(from(shuffled, h), now, h)).toBeCloseTo(sum, 9);
        },
      ),
      { seed: 21, numRuns: 300 },
    );
  });
  it('accepts a future opening and a clock set back without growing by waiting', () => {
    const w = from([100 * DAY, 50 * DAY]);
    expect(weightAt(w, 0)).toBe(w.w0);
    expect(weightAt(w, 0)).toBeGreaterThanOrEqual(weightAt(w, 200 * DAY));
  });
  it('stays finite over a million openings at once', () => {
    let w = NO_WEIGHT;
    for (let i = 0; i < 1_000_000; i++) w = withOpening(w, 1000);
    expect(w.w0).toBe(1_000_000);
  });
});

describe('weekly counts', () => {
  it('counts each of the last weeks, oldest first, and leaves out what is older or to come', () => {
    const now = 100 * WEEK;
    expect(weeklyCounts([now - 1, now - WEEK + 1, now - WEEK - 1, now - 12 * WEEK, now + 1], now, 3)).toEqual([
      0, 1, 2,
    ]);
  });
});

describe('weeks of use', () => {
  const now = new Date(2026, 10, 26, 12).getTime();
  it('puts each opening into its week and part of the day, and adds up what was saved', () => {
    const at = (day: number, hour: number) => new Date(2026, 10, day, hour).getTime();
    const weeks = weeksOfUse(
      [
        { at: at(26, 3), saved: 1 },
        { at: at(26, 8), saved: 2 },
        { at: at(20, 19), saved: 4 },
        { at: at(18, 13), saved: 8 },
        { at: at(1, 1), saved: 16 },
        { at: now + 1, saved: 32 },
      ],
      now,
      2,
      SYSTEM_ZONE,
    );
    expect(weeks).toEqual([
      { start: now - 2 * WEEK, parts: [0, 0, 1, 0], saved: 8 },
      { start: now - WEEK, parts: [1, 1, 0, 1], saved: 7 },
    ]);
  });
  it('counts the same as the weekly counts', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: now - 14 * WEEK, max: now }), { maxLength: 60 }), (times) => {
        const weeks = weeksOfUse(
          times.map((at) => ({ at, saved: 1 })),
          now,
          12,
          SYSTEM_ZONE,
        );
        const counts = weeklyCounts(times, now, 12);
        expect(weeks.map((w) => w.parts.reduce((a, b) => a + b, 0))).toEqual(counts);
        expect(weeks.map((w) => w.saved)).toEqual(counts);
      }),
      { seed: 27, numRuns: 100 },
    );
  });
});
