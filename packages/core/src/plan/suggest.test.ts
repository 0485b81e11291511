import { describe, expect, it } from '@jest/globals';
import { seeded } from '../random/index.js';
import { REACH_CONSTANTS as C } from '../reach/index.js';
import { NO_WEIGHT, openingsPerWeek, weightAt, WEEK, withOpening, type Weight } from '../usage/index.js';
import { suggest, type PlanInput, type PlanItem } from './index.js';

const item = (id: string, rate: number, more: Partial<PlanItem> = {}): PlanItem => ({
  id,
  name: id,
  rate,
  mean: rate,
  uses: rate * 2.9,
  without: 3,
  now: more.slot === undefined || more.slot === null ? 3 : 1.63,
  walk: 11,
  slot: null,
  locked: false,
  keys: null,
  weeksThere: 20,
  width: 120,
  isNew: false,
  idle: null,
  ...more,
});
const input = (items: PlanItem[], more: Partial<PlanInput> = {}): PlanInput => ({
  items,
  otherSlots: [],
  menus: [],
  onFoot: [],
  same: [],
  keys: [],
  rules: { constants: C, limit: 3, keys: 9, movePenalty: 4, before: 0 },
  ...more,
});
const said = (i: PlanInput) => suggest(i).suggestions.map((s) => [s.kind, ...s.ids].join(' '));

describe('suggestions', () => {
  it('pin what is opened often, while there is room, and say what it saves', () => {
    const plan = suggest(input([item('log', 9), item('rare', 0.3)]));
    expect(plan.suggestions).toMatchObject([{ kind: 'pin', ids: ['log'], slot: 0, before: 3 }]);
    const [pin] = plan.suggestions;
    expect(pin!.after).toBeLessThanOrEqual(C.M + C.K);
    expect(pin!.gain).toBeCloseTo(9 * (3 - pin!.after!), 9);
    expect(plan.onFoot).toBeCloseTo(9.3 * 11, 9);
    expect(plan.now).toBeCloseTo(9.3 * 3, 9);
    expect(plan.planned).toBeCloseTo(plan.now - plan.suggestions[0]!.gain, 9);
    expect(plan.bound).toBeLessThanOrEqual(plan.planned);
  });
  it('leave an item opened exactly once a week where it is, pinned or not', () => {
    expect(said(input([item('a', 1, { slot: 0 }), item('b', 1)]))).toEqual([]);
    expect(said(input([item('a', 1.18, { mean: 1, slot: 0 }), item('b', 0.84, { mean: 1 })]))).toEqual([]);
  });
  it('unpin what was opened less than once a week for four weeks, but not what was pinned a moment ago', () => {
    expect(said(input([item('old', 0.2, { slot: 0 })]))).toEqual(['unpin old']);
    expect(said(input([item('old', 0.2, { slot: 0, isNew: true })]))).toEqual([]);
    expect(said(input([item('old', 0.2, { slot: 0, locked: true })]))).toEqual([]);
  });
  it('exchange on a full strip only for what saves more than it costs the hand', () => {
    const full = [item('a', 2, { slot: 0 }), item('b', 8, { slot: 1 }), item('c', 9, { slot: 2 })];
    expect(said(input([...full, item('new', 12)]))).toEqual(['exchange new a']);
    expect(said(input([...full, item('new', 2.5)]))).toEqual([]);
  });
  it('never move what is kept, nor what is no single shortcut', () => {
    const plan = suggest(input([item('a', 3, { slot: 1 }), item('b', 9)], { otherSlots: [0] }));
    expect(plan.suggestions).toMatchObject([{ kind: 'pin', ids: ['b'], slot: 2 }]);
  });
  it('give a key of its own to what is not pinned, each key once', () => {
    const keys = [
      { letter: 't', keys: 'alt+shift+t', seconds: 2.19 },
      { letter: 'x', keys: 'x', seconds: 1.63 },
    ];
    const pinned = ['a', 'b', 'c'].map((id, slot) => item(id, 20, { slot }));
    const plan = suggest(input([...pinned, item('Tideplotter', 3), item('Tracks', 2)], { keys }));
    expect(plan.suggestions).toMatchObject([{ kind: 'key', ids: ['Tideplotter'], key: { keys: 'alt+shift+t' } }]);
  });
  it('add what is walked to, merge what points to one original, drop what is idle', () => {
    const onFoot = [
      { placeId: 1, originalId: 5, name: 'hours.csv', times: 8, walk: 12, after: 3, steps: 6 },
      { placeId: 1, originalId: 6, name: 'once.csv', times: 1, walk: 12, after: 3, steps: 6 },
    ];
    const items = [item('a', 0.1), item('b', 0.1), item('gone', 0, { idle: 'long-lost' })];
    const plan = suggest(input(items, { onFoot, same: [['a', 'b']] }));
    expect(plan.suggestions.map((s) => s.id)).toEqual(['add 1/5', 'drop gone', 'merge a b']);
    expect(plan.suggestions[0]!.gain).toBeCloseTo(4 * 9, 9);
    expect(plan.now).toBeGreaterThan(plan.suggestions[0]!.gain);
  });
  it('split a crowded collection through which much is opened', () => {
    const items = Array.from({ length: 40 }, (_, i) => ({
      id: `${i}`,
      rate: 0.5,
      uses: 1,
      groups: { tag: `t${i % 5}` },
    }));
    const plan = suggest(input([item('a', 1)], { menus: [{ id: 'c', name: 'Tools', items, ways: ['tag'] }] }));
    expect(plan.suggestions).toMatchObject([{ kind: 'split', ids: ['c'], grouping: { by: 'tag' } }]);
  });
  it('say nothing to a person who never opens anything, and stay finite where one thing is opened a million times', () => {
    expect(suggest(input([item('a', 0), item('b', 0)]))).toMatchObject({
      suggestions: [],
      now: 0,
      planned: 0,
      bound: 0,
    });
    const plan = suggest(input([item('a', 1e6, { uses: 1e6 })], { rules: { ...input([]).rules, limit: 50 } }));
    expect(said(input([item('a', 1e6)]))).toEqual(['pin a']);
    expect(Number.isFinite(plan.planned)).toBe(true);
  });
});

describe('over a year', () => {
  /** Rates drawn anew for each item once a month; what is suggested is applied each day. */
  function year(seed: number) {
    const random = seeded(seed);
    const DAY = WEEK / 7;
    const count = 24;
    const limit = 6;
    const draw = () => 14 * random.next() ** 3;
    const rates = Array.from({ length: count }, draw);
    const day0 = Array.from({ length: count }, () => random.int(0, 27));
    const weights: Weight[] = rates.map(() => NO_WEIGHT);
    const openings: number[][] = rates.map(() => []);
    const strip: { id: number; since: number }[] = [];
    const turns = new Map<string, number>();
    const rules = { constants: C, limit, keys: 9, movePenalty: 4, before: 0 };
    for (let day = 0; day < 365; day++) {
      const now = day * DAY;
      const month = Math.floor(day / 28);
      for (let i = 0; i < count; i++) if (day > 0 && (day - day0[i]!) % 28 === 0) rates[i] = draw();
      rates.forEach((rate, i) => {
        for (let p = random.next(), k = Math.exp(-rate / 7); p > k; p *= random.next()) {
          const at = now + random.next() * DAY;
          weights[i] = withOpening(weights[i]!, at);
          openings[i]!.push(at);
        }
      });
      if (day < 28) continue;
      const items = rates.map((_, i): PlanItem => {
        const slot = strip.findIndex((p) => p.id === i);
        const since = slot < 0 ? 0 : strip[slot]!.since;
        const weight = weightAt(weights[i]!, now + DAY);
        return item(`${i}`, openingsPerWeek(weight), {
          mean: openings[i]!.filter((t) => t > now + DAY - 4 * WEEK).length / 4,
          uses: weight,
          slot: slot < 0 ? null : slot,
          now: slot < 0 ? 3 : 1.63,
          weeksThere: (day - since) / 7,
          isNew: slot >= 0 && day - since < 28,
        });
      });
      for (const s of suggest(input(items, { rules })).suggestions) {
        const turn = (id: string) => turns.set(`${id} ${month}`, (turns.get(`${id} ${month}`) ?? 0) + 1);
        const put = (id: string) => strip.push({ id: Number(id), since: day });
        const take = (id: string) =>
          strip.splice(
            strip.findIndex((p) => p.id === Number(id)),
            1,
          );
        s.ids.forEach(turn);
        if (s.kind === 'unpin') take(s.ids[0]!);
        if (s.kind === 'exchange') take(s.ids[1]!);
        if (s.kind !== 'unpin') put(s.ids[0]!);
      }
    }
    return turns;
  }

  it('no suggestion flips back and forth: at most one reversal for each item and month', () => {
    for (const seed of [1, 2, 3]) for (const [, count] of year(seed)) expect(count).toBeLessThanOrEqual(2);
  });
});
