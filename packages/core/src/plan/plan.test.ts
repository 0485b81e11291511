import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { munkres } from 'munkres';
import loadHighs from 'highs';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { seeded, type Random } from '../random/index.js';
import { REACH_CONSTANTS as C } from '../reach/index.js';
import {
  assignKeys,
  bestGrouping,
  boundOf,
  costOfPins,
  flatSeconds,
  groupedSeconds,
  mnemonicFit,
  planPins,
  type MenuItem,
  type PinCandidate,
  type PinRules,
} from './index.js';

interface Milp {
  leastCost(highs: unknown, candidates: PinCandidate[], rules: PinRules): number;
  smallInstance(random: Random, constants: typeof C): { candidates: PinCandidate[]; rules: PinRules };
}
let milp: Milp;
let highs: unknown;
beforeAll(async () => {
  const path = join(import.meta.dirname, '../../../../bench/milp.mjs');
  milp = (await import(pathToFileURL(path).href)) as Milp;
  highs = await loadHighs();
});

const item = (id: string, rate: number, more: Partial<PinCandidate> = {}): PinCandidate => ({
  id,
  rate,
  without: 4,
  uses: rate * 2,
  slot: null,
  eligible: true,
  width: 120,
  ...more,
});
const RULES: PinRules = { constants: C, limit: 4, keys: 4, movePenalty: 4, before: 0 };

describe('pins', () => {
  it('are planned at the optimum of a general mixed-integer solver (HiGHS), on 300 random instances', () => {
    const random = seeded(71);
    for (let round = 0; round < 300; round++) {
      const { candidates, rules } = milp.smallInstance(random, C);
      const ours = planPins(candidates, rules);
      expect(ours.cost).toBeCloseTo(milp.leastCost(highs, candidates, rules), 6);
      // and what it says it costs is what it costs
      expect(costOfPins(candidates, ours.slots, rules).cost).toBeCloseTo(ours.cost, 9);
      for (const c of candidates) if (c.locked) expect(ours.slots[c.slot!]).toBe(c.id);
      expect(ours.cost).toBeGreaterThanOrEqual(boundOf(candidates, rules) - 1e-9);
    }
  }, 60_000);
  it('keep what the hand knows where it lies, though another slot were a little better', () => {
    const there = [item('a', 2, { slot: 1 }), item('b', 9, { slot: 0 }), item('c', 3)];
    expect(planPins(there, RULES).slots.slice(0, 2)).toEqual(['b', 'a']);
  });
  it('give the slots to what saves most, not to what is opened most', () => {
    const often = item('often', 9, { without: 1.7 });
    const far = item('far', 3, { without: 11 });
    expect(planPins([often, far], { ...RULES, limit: 1 }).slots).toEqual(['far']);
  });
  it('pin nothing where nothing is opened, and no more than there is', () => {
    expect(planPins([item('a', 0), item('b', 0)], RULES).slots).toEqual([]);
    expect(planPins([], RULES)).toEqual({ slots: [], cost: 0, seconds: 0, times: [] });
    expect(planPins([item('a', 5)], { ...RULES, limit: 50 }).slots).toEqual(['a']);
  });
  it('leave alone what is not to be pinned, and let it stay where it is', () => {
    const plan = planPins([item('new', 9, { eligible: false }), item('old', 2, { eligible: false, slot: 0 })], RULES);
    expect(plan.slots).toEqual(['old']);
  });
  it('are stable where all rates are equal: the same plan from the plan as it is', () => {
    const equal = Array.from({ length: 12 }, (_, i) => item(`i${i}`, 3));
    const first = planPins(equal, RULES);
    const then = equal.map((i) => ({ ...i, slot: first.slots.includes(i.id) ? first.slots.indexOf(i.id) : null }));
    expect(planPins(then, RULES).slots).toEqual(first.slots);
  });
});

describe('keys', () => {
  it('fit by first letter, another word’s, any letter', () => {
    expect(mnemonicFit('t', 'Tide table')).toBe(1);
    expect(mnemonicFit('n', 'Volunteer Notes')).toBe(0.7);
    expect(mnemonicFit('l', 'Tide table')).toBe(0.35);
    expect(mnemonicFit('x', 'Tide table')).toBe(0);
    expect(mnemonicFit('e', 'Été')).toBe(1);
  });
  it('are a matching of the greatest weight, as the reference (package munkres) finds it', () => {
    const random = seeded(72);
    const names = ['Tide table', 'Tideplotter', 'Net positions', 'Notes', 'Log', 'Engine hours', 'Xylophone'];
    for (let round = 0; round < 100; round++) {
      const things = names.slice(0, random.int(1, 7)).map((name, i) => ({
        id: `${i}`,
        name,
        rate: random.int(0, 9),
        seconds: 1 + random.next() * 4,
      }));
      const letters = [...'tnlex'].slice(0, random.int(1, 5)).map((letter) => ({
        letter,
        keys: letter,
        seconds: random.pick([1.63, 2.19]),
      }));
      const gain = (key: (typeof letters)[number], t: (typeof things)[number]) =>
        mnemonicFit(key.letter, t.name) * t.rate * Math.max(0, t.seconds - key.seconds);
      const matrix = letters.map((l) => [...things.map((t) => -gain(l, t)), ...letters.map(() => 0)]);
      const best = -munkres(matrix).reduce((sum, [r, c]) => sum + matrix[r]![c]!, 0);
      const ours = assignKeys(things, letters);
      expect(ours.reduce((sum, k) => sum + gain(k.key, things[Number(k.id)]!), 0)).toBeCloseTo(best, 9);
      expect(new Set(ours.map((k) => k.id)).size).toBe(ours.length);
      expect(ours.every((k) => k.fit > 0)).toBe(true);
    }
  });
});

describe('splits', () => {
  const menu = (count: number, groups: (i: number) => Record<string, string>, uses = 0): MenuItem[] =>
    Array.from({ length: count }, (_, i) => ({ id: `${i}`, rate: 1, uses, groups: groups(i) }));

  it('are made where a long list is quicker in groups, and not of a short one', () => {
    const long = menu(60, (i) => ({ tag: `t${i % 6}`, kind: 'text' }));
    const found = bestGrouping(long, ['tag', 'kind'], C)!;
    expect(found.by).toBe('tag');
    expect(found.seconds).toBeLessThan(flatSeconds(long, C));
    expect([...found.groups.values()].flat().length + found.rest.length).toBe(60);
    expect(
      bestGrouping(
        menu(6, (i) => ({ tag: `t${i % 2}` })),
        ['tag'],
        C,
      ),
    ).toBeUndefined();
  });
  it('are those that brute force over all choices of groups finds', () => {
    const random = seeded(73);
    for (let round = 0; round < 60; round++) {
      const items: MenuItem[] = Array.from({ length: random.int(4, 40) }, (_, i) => ({
        id: `${i}`,
        rate: random.int(0, 9),
        uses: random.int(0, 20),
        groups: { tag: random.next() < 0.8 ? `t${random.int(0, 4)}` : undefined, first: `f${random.int(0, 3)}` },
      }));
      let least = flatSeconds(items, C);
      for (const by of ['tag', 'first']) {
        const names = [...new Set(items.flatMap((i) => i.groups[by] ?? []))];
        for (let mask = 1; mask < 1 << names.length; mask++) {
          const groups = names
            .filter((_, i) => (mask >> i) & 1)
            .map((name) => items.filter((i) => i.groups[by] === name));
          if (groups.some((g) => g.length < 2)) continue;
          const inGroup = new Set(groups.flat());
          least = Math.min(
            least,
            groupedSeconds(
              groups,
              items.filter((i) => !inGroup.has(i)),
              C,
            ),
          );
        }
      }
      expect(bestGrouping(items, ['tag', 'first'], C)?.seconds ?? flatSeconds(items, C)).toBeCloseTo(least, 9);
    }
  });
  it('time falls with practice and rises with length, as published menu models do', () => {
    expect(
      flatSeconds(
        menu(20, () => ({}), 50),
        C,
      ),
    ).toBeLessThan(
      flatSeconds(
        menu(20, () => ({}), 0),
        C,
      ),
    );
    expect(
      flatSeconds(
        menu(40, () => ({})),
        C,
      ),
    ).toBeGreaterThan(
      flatSeconds(
        menu(20, () => ({})),
        C,
      ),
    );
    expect(flatSeconds([], C)).toBe(0);
  });
});
