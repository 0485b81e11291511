import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from '@jest/globals';
import type { Zone } from '../query/index.js';
import { seeded, type Random } from '../random/index.js';
import { fitLikely, LikelyNext, likelyNext, partOfWeek, type Opened } from './index.js';

const DAY = 86_400_000;
const HOUR = 3_600_000;
const UTC: Zone = {
  startOf: (year, month, day) => Date.UTC(year, month - 1, day),
  dayOf: (instant) => {
    const d = new Date(instant);
    return {
      year: d.getUTCFullYear(),
      month: d.getUTCMonth() + 1,
      day: d.getUTCDate(),
      weekday: d.getUTCDay() || 7,
    };
  },
};
const MONDAY = Date.UTC(2026, 7, 3);

let generatedOpenings: (random: Random, days: number) => Opened[];
beforeAll(async () => {
  const path = join(import.meta.dirname, '../../../../bench/habits.mjs');
  ({ generatedOpenings } = (await import(pathToFileURL(path).href)) as { generatedOpenings: typeof generatedOpenings });
});

const historyOf = (openings: readonly Opened[]) => {
  const history = new LikelyNext(UTC, 14);
  for (const o of openings) history.add(o);
  return history;
};

describe('parts of the week', () => {
  it('are quarters of work days and of weekends', () => {
    expect(partOfWeek(MONDAY, UTC)).toBe(0);
    expect(partOfWeek(MONDAY + 11.9 * HOUR, UTC)).toBe(1);
    expect(partOfWeek(MONDAY + 4 * DAY + 23.9 * HOUR, UTC)).toBe(3);
    expect(partOfWeek(MONDAY + 5 * DAY + 12 * HOUR, UTC)).toBe(6);
  });
});

describe('likely next', () => {
  it('beats the most recent and the most frequent on histories whose law is known, and is used there', () => {
    for (const seed of [1, 2, 3]) {
      const fit = fitLikely(generatedOpenings(seeded(seed), 120), UTC, 14);
      expect(fit.use).toBe('model');
      expect(fit.hit5.model).toBeGreaterThan(fit.hit5.recent);
      expect(fit.hit5.model).toBeGreaterThan(fit.hit5.frequent);
    }
  });
  it('weighs most what tells most: chains where things follow each other, the rate where nothing else does', () => {
    const chain = Array.from({ length: 400 }, (_, i) => ({ item: `i${i % 10}`, at: MONDAY + i * HOUR }));
    expect(fitLikely(chain, UTC, 14).mixture.after).toBeGreaterThan(0.9);
    const random = seeded(5);
    const same = Array.from({ length: 600 }, (_, i) => ({
      item: random.next() < 0.5 ? 'often' : `i${random.int(0, 60)}`,
      at: MONDAY + i * 9 * HOUR,
    }));
    expect(fitLikely(same, UTC, 14).mixture.rate).toBeGreaterThan(0.5);
  });
  it('uses the simpler way where it guesses no worse, and with little history', () => {
    const random = seeded(9);
    // one after another of ever the same few: the most recent five are always right
    const few = Array.from({ length: 300 }, (_, i) => ({ item: `i${random.int(0, 4)}`, at: MONDAY + i * HOUR }));
    const fit = fitLikely(few, UTC, 14);
    expect(fit.use).not.toBe('model');
    expect(fitLikely(few.slice(0, 20), UTC, 14)).toMatchObject({ use: 'frequent', tested: 0 });
    expect(likelyNext(historyOf(few), MONDAY + 301 * HOUR, fit, 5)).toHaveLength(5);
  });
  it('shares add up to no more than one and probabilities fall, whatever the history', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ item: fc.constantFrom('a', 'b', 'c', 'd', 'e'), at: fc.integer({ min: 0, max: 4000 }) }), {
          minLength: 1,
          maxLength: 60,
        }),
        fc.integer({ min: 0, max: 5000 }),
        (events, now) => {
          const openings = events.map((e) => ({ item: e.item, at: MONDAY + e.at * HOUR }));
          const history = historyOf(openings);
          const guesses = history.guess(MONDAY + now * HOUR, { rate: 0.4, part: 0.3, after: 0.3 }, 5);
          const sum = guesses.reduce((s, g) => s + g.probability, 0);
          expect(sum).toBeCloseTo(1, 9);
          guesses.slice(1).forEach((g, i) => expect(g.probability).toBeLessThanOrEqual(guesses[i]!.probability));
          expect(new Set(guesses.map((g) => g.item)).size).toBe(new Set(events.map((e) => e.item)).size);
        },
      ),
      { seed: 41, numRuns: 200 },
    );
  });
  it('says why: after what, on which weekday, in which part of the week', () => {
    const tuesdays = Array.from({ length: 10 }, (_, week) => ({
      item: 'log',
      at: MONDAY + (week * 7 + 1) * DAY + 8 * HOUR,
    }));
    const other = Array.from({ length: 60 }, (_, day) => ({
      item: `other ${day % 6}`,
      at: MONDAY + day * DAY + 15 * HOUR,
    }));
    const all = [...tuesdays, ...other].sort((a, b) => a.at - b.at);
    const [first] = historyOf(all).guess(MONDAY + 71 * DAY + 8 * HOUR, { rate: 0.2, part: 0.6, after: 0.2 }, 5);
    expect(first).toMatchObject({ item: 'log', reason: { kind: 'weekday', weekday: 2, times: 10, of: 10 } });
    const pairs = Array.from({ length: 8 }, (_, day) => [
      { item: 'tides', at: MONDAY + day * DAY + 7 * HOUR },
      { item: 'nets', at: MONDAY + day * DAY + 7 * HOUR + 60_000 },
    ]).flat();
    const now = MONDAY + 8 * DAY + 7 * HOUR;
    const history = historyOf([...pairs, { item: 'tides', at: now }]);
    const guess = history.guess(now + 1000, { rate: 0.2, part: 0.2, after: 0.6 }, 5);
    expect(guess[0]).toMatchObject({ item: 'nets', reason: { kind: 'after', item: 'tides', times: 8 } });
  });
  it('is sensible for a person who never opens anything, one item a hundred thousand times, and a clock set back', () => {
    expect(historyOf([]).guess(MONDAY, { rate: 1, part: 0, after: 0 }, 5)).toEqual([]);
    const one = Array.from({ length: 100_000 }, (_, i) => ({ item: 'one', at: MONDAY + i * 1000 }));
    expect(historyOf(one).guess(MONDAY + 200_000_000, { rate: 1, part: 0, after: 0 }, 5)).toMatchObject([
      { item: 'one', probability: 1 },
    ]);
    const back = historyOf([
      { item: 'a', at: MONDAY + 100 * DAY },
      { item: 'b', at: MONDAY },
    ]);
    expect(back.guess(MONDAY + 100 * DAY, { rate: 1, part: 0, after: 0 }, 5).map((g) => g.probability)).toEqual([
      0.5, 0.5,
    ]);
  });
  it('stays finite over sixty years at a half-life of a day', () => {
    const long = Array.from({ length: 3000 }, (_, i) => ({ item: `i${i % 3}`, at: MONDAY + i * 7 * DAY }));
    const history = new LikelyNext(UTC, 1);
    for (const o of long) history.add(o);
    const guesses = history.guess(MONDAY + 3000 * 7 * DAY, { rate: 1, part: 0, after: 0 }, 3);
    expect(guesses.every((g) => Number.isFinite(g.probability))).toBe(true);
    expect(guesses[0]!.item).toBe('i2');
  });
});
