import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import { seeded } from '../random/index.js';
import { Finder, ShortestQueries } from '../match/index.js';
import { costOfPins, planPins } from '../plan/index.js';
import { byFindLine, comingBy, labelWidth, REACH_CONSTANTS, totalSeconds } from '../reach/index.js';
import { NO_WEIGHT, weightAt, withOpening } from '../usage/index.js';
import { KINDS } from '../kinds/index.js';
import { estimateUse, firstStrip, tasksOf, weightOfSpan, type Starter, type Trace } from './index.js';

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 10, 30);
const SOURCES = ['recent', 'desktop', 'bookmark', 'program'] as const;

describe('the weight of openings of which only the number and the span are told', () => {
  it('is that of so many openings spread evenly, one by one', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 300 }),
        fc.integer({ min: 0, max: 200 }),
        fc.integer({ min: 0, max: 200 }),
        fc.integer({ min: 1, max: 90 }),
        (count, a, b, halfLife) => {
          const [first, last] = [NOW - Math.max(a, b) * DAY, NOW - Math.min(a, b) * DAY];
          let one = NO_WEIGHT;
          for (let i = 0; i < count; i++)
            one = withOpening(one, count === 1 ? last : first + ((last - first) * i) / (count - 1), halfLife);
          const told = weightOfSpan(count, first, last, NOW, halfLife);
          expect(told).toBeCloseTo(weightAt(one, NOW, halfLife), 8);
        },
      ),
      { seed: 161, numRuns: 300 },
    );
  });
  it('takes what is no number for one opening, and a span turned round for no span', () => {
    for (const odd of [0, -3, Number.NaN, Infinity]) expect(weightOfSpan(odd, NOW, NOW, NOW, 14)).toBe(1);
    expect(weightOfSpan(4, NOW, NOW - DAY, NOW, 1)).toBeCloseTo(2);
  });
});

describe('what somebody uses', () => {
  const traces = fc.array(
    fc.record({
      key: fc.constantFrom('a', 'b', 'c', 'd', 'e'),
      source: fc.constantFrom(...SOURCES),
      weight: fc.double({ min: 0, max: 50, noNaN: true }),
    }),
    { maxLength: 40 },
  );
  it('is each thing once, the one opened most first, with all the places where it was found', () => {
    fc.assert(
      fc.property(traces, (list: Trace[]) => {
        const all = estimateUse(list);
        expect(all.map((u) => u.key).sort()).toEqual([...new Set(list.map((t) => t.key))].sort());
        for (const [i, one] of all.entries()) {
          const own = list.filter((t) => t.key === one.key);
          expect(new Set(one.sources)).toEqual(new Set(own.map((t) => t.source)));
          expect(one.sources).toHaveLength(new Set(one.sources).size);
          expect(one.likelihood).toBeGreaterThanOrEqual(0);
          expect(one.likelihood).toBeLessThanOrEqual(1);
          if (i > 0) expect(one.rate).toBeLessThanOrEqual(all[i - 1]!.rate);
          // nothing less likely is proposed before it
          if (one.proposed && i > 0) expect(all[i - 1]!.proposed).toBe(true);
        }
      }),
      { seed: 162, numRuns: 300 },
    );
  });
  it('is opened no less often where one more trace was found', () => {
    fc.assert(
      fc.property(traces, fc.constantFrom(...SOURCES), (list: Trace[], source) => {
        const rateOf = (all: readonly Trace[]) => estimateUse(all).find((u) => u.key === 'a')?.rate ?? 0;
        expect(rateOf([...list, { key: 'a', source, weight: 1 }])).toBeGreaterThan(rateOf(list));
      }),
      { seed: 163, numRuns: 200 },
    );
  });
  it('is proposed up to thirty things, and never what was not opened and lies nowhere', () => {
    const many = Array.from({ length: 80 }, (_, i): Trace => ({ key: `${i}`, source: 'recent', weight: 80 - i }));
    expect(estimateUse(many).filter((u) => u.proposed)).toHaveLength(30);
    expect(estimateUse([{ key: 'never', source: 'recent', weight: 0 }])[0]!.proposed).toBe(false);
  });
});

describe('the first strip', () => {
  const constants = { ...REACH_CONSTANTS };
  const rules = {
    constants,
    limit: 9,
    keys: 9,
    movePenalty: 0,
    before: totalSeconds(comingBy('here', constants)),
  };
  const some = (seed: number, n: number): Starter[] => {
    const random = seeded(seed);
    return Array.from({ length: n }, (_, i) => ({
      id: `${i}`,
      name: `${['tide', 'ring', 'boat', 'moth', 'log'][i % 5]} ${i}`,
      trail: 'Documents',
      rate: random.next() * 8,
      uses: random.next() * 10,
    }));
  };
  it('costs as little as the plan’s own, and begins with what is opened most', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const things = some(seed, 4 + (seed % 20));
      const { pins } = firstStrip(things, rules, [], 1);
      const finder = new Finder();
      for (const t of things) finder.put({ id: t.id, group: 'shortcut', name: t.name, trail: t.trail, weight: t.uses });
      const shortest = new ShortestQueries(finder);
      const candidates = things.map((t) => {
        const { characters, rank } = shortest.of(t.id)!;
        const without = rules.before + byFindLine(characters, rank, t.uses, constants).seconds;
        return { ...t, without, slot: null, eligible: true, width: labelWidth(t.name) };
      });
      expect(costOfPins(candidates, pins, rules).cost).toBeCloseTo(planPins(candidates, rules).cost, 8);
      expect(pins).toHaveLength(Math.min(9, things.length));
      const rates = pins.map((id) => things.find((t) => t.id === id)!.rate);
      expect(rates).toEqual([...rates].sort((a, b) => b - a));
    }
  });
  it('gives letters to what got no digit and is opened often enough, each once', () => {
    const free = [...'abcdefghijklmnopqrstuvwxyz'].map((letter) => ({ letter, keys: letter, seconds: 1.6 }));
    const things = some(7, 30);
    const { pins, keys } = firstStrip(things, rules, free, 1);
    expect(keys.length).toBeGreaterThan(0);
    expect(new Set(keys.map((k) => k.key.keys)).size).toBe(keys.length);
    for (const { id } of keys) {
      expect(pins).not.toContain(id);
      expect(things.find((t) => t.id === id)!.rate).toBeGreaterThanOrEqual(1);
    }
  });
  it('is empty where nothing is opened, and where there is no room', () => {
    expect(firstStrip([{ ...some(1, 1)[0]!, rate: 0 }], rules, [], 1)).toEqual({ pins: [], keys: [] });
    expect(firstStrip(some(2, 5), { ...rules, limit: 0, keys: 0 }, [], 99).pins).toEqual([]);
  });
});

describe('tasks', () => {
  it('hold each thing once, none is empty, and what belongs nowhere comes last', () => {
    const thing = fc.record({
      kind: fc.constantFrom(...KINDS),
      folder: fc.constantFrom('', 'Survey', 'Programs', 'Anything', 'Web', 'rest'),
    });
    fc.assert(
      fc.property(fc.array(thing, { maxLength: 30 }), (list) => {
        const things = list.map((t, i) => ({ ...t, id: `${i}` }));
        const tasks = tasksOf(things);
        expect(tasks.flatMap((t) => t.ids).sort()).toEqual(things.map((t) => t.id).sort());
        for (const task of tasks) expect(task.ids.length).toBeGreaterThan(0);
      }),
      { seed: 164, numRuns: 300 },
    );
  });
  it('are folders with two things or more, and what is no file by what it is', () => {
    const thing = (id: string, kind: (typeof KINDS)[number], folder: string) => ({ id, kind, folder });
    expect(
      tasksOf([
        thing('1', 'text', 'Alone'),
        thing('2', 'table', 'Survey'),
        thing('3', 'program', ''),
        thing('4', 'map', 'Survey'),
        thing('5', 'folder', 'Survey'),
        thing('6', 'web', ''),
      ]),
    ).toEqual([
      { name: 'Survey', ids: ['2', '4'] },
      { name: 'Programs', ids: ['3'] },
      { name: 'Folders', ids: ['5'] },
      { name: 'Web', ids: ['6'] },
      { name: 'Anything', ids: ['1'] },
    ]);
  });
});
