import { describe, expect, it } from '@jest/globals';
import { REACH_CONSTANTS as C } from '../reach/index.js';
import { suggest, type PlanInput, type PlanItem } from './index.js';

const item = (id: string, rate: number, more: Partial<PlanItem> = {}): PlanItem => ({
  id,
  name: id,
  rate,
  mean: rate,
  uses: rate * 2.9,
  without: 3,
  now: more.slot === undefined || more.slot === null ? 3 : 1.63,
  byFolders: 11,
  slot: null,
  locked: false,
  keys: null,
  weeksThere: 20,
  width: 120,
  isNew: false,
  wasPinned: false,
  turns: 0,
  idle: null,
  ...more,
});
const input = (items: PlanItem[], more: Partial<PlanInput> = {}): PlanInput => ({
  items,
  otherSlots: [],
  menus: [],
  withoutShortcut: [],
  same: [],
  keys: [],
  rules: { constants: C, limit: 3, keys: 9, movePenalty: 4, before: 0 },
  worth: 1,
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
    expect(plan.byFolders).toBeCloseTo(9.3 * 11, 9);
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
  it('go by what the person says a pin is worth', () => {
    const items = [item('a', 3, { slot: 0 }), item('b', 3)];
    expect(said(input(items))).toEqual(['pin b']);
    expect(said(input(items, { worth: 3 }))).toEqual([]);
    expect(said(input(items, { worth: 5 }))).toEqual(['unpin a']);
  });
  it('do not pin again what was taken off the strip by hand a while ago', () => {
    expect(said(input([item('back', 9, { wasPinned: true })]))).toEqual([]);
  });
  it('turn back once in four weeks, and no more', () => {
    const [out, on] = [
      (turns: number) => item('a', 9, { turns }),
      (turns: number) => item('b', 0.2, { slot: 0, turns }),
    ];
    expect(said(input([out(1), on(1)]))).toEqual(['pin a', 'unpin b']);
    expect(said(input([out(2), on(2)]))).toEqual([]);
  });
  it('exchange what is opened about once a week where the strip is full and another saves more', () => {
    const full = [item('a', 1, { slot: 0 }), item('b', 8, { slot: 1 }), item('c', 9, { slot: 2 })];
    expect(said(input([...full, item('new', 12)]))).toEqual(['exchange new a']);
    expect(said(input([...full.slice(0, 2), item('new', 12)]))).toEqual(['pin new']);
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
    const withoutShortcut = [
      { placeId: 1, originalId: 5, name: 'hours.csv', times: 8, rate: 4, byFolders: 12, after: 3, steps: 6 },
      { placeId: 1, originalId: 6, name: 'once.csv', times: 1, rate: 0.5, byFolders: 12, after: 3, steps: 6 },
    ];
    const items = [item('a', 0.1), item('b', 0.1), item('gone', 0, { idle: 'long-lost' })];
    const plan = suggest(input(items, { withoutShortcut, same: [['a', 'b']] }));
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
