import { describe, expect, it } from '@jest/globals';
import { seeded, type Random } from '../random/index.js';
import { REACH_CONSTANTS as C } from '../reach/index.js';
import { dailyCounts, NO_WEIGHT, ratesNow, weightAt, WEEK, withOpening } from '../usage/index.js';
import { costOfPins, planPins, suggest, type PlanItem, type PinRules } from './index.js';

const DAY = WEEK / 7;
const MONTH = 28;

/** A person by how many things they open, how often each, and how many pins they have. */
interface Person {
  things: number;
  pins: number;
  perWeek: (random: Random) => number;
}
/** Some 70 openings a day, most of them of a few things. */
const MUCH: Person = { things: 44, pins: 9, perWeek: (random) => 70 * random.next() ** 5 };
/** Some 12 a day. */
const LITTLE: Person = { things: 24, pins: 6, perWeek: (random) => 14 * random.next() ** 3 };

type Rates = (counts: readonly number[][], daysSince: number) => number[];
const meanOf = (counts: readonly number[], days: number) => (7 * counts.slice(-days).reduce((s, n) => s + n, 0)) / days;
const byMean: Rates = (counts) => counts.map((c) => meanOf(c, MONTH));
/** Who is told on which day all rates changed, and counts the days since. */
const told: Rates = (counts, daysSince) => counts.map((c) => meanOf(c, daysSince + 1));

/**
 * A year in which each thing's rate is drawn anew once in four weeks, of all on one day or of each on its own; what is
 * suggested is applied each day. Gives how often each thing was put on the strip or taken off in each month, and how
 * much longer the week's openings take than with the best strip for the true rates, by the days since all rates
 * changed.
 */
function year(seed: number, person: Person, { together = true, ratesBy = ratesNow as Rates } = {}) {
  const random = seeded(seed);
  const rules: PinRules = { constants: C, limit: person.pins, keys: 9, movePenalty: 4, before: 0 };
  const draw = () => ({ perWeek: person.perWeek(random) });
  const things = Array.from({ length: person.things }, (_, id) => ({
    id,
    ...draw(),
    without: 2.4 + 1.2 * random.next(),
    first: together ? 0 : random.int(0, MONTH - 1),
    openings: [] as number[],
    weight: NO_WEIGHT,
    turns: [] as number[],
  }));
  const strip: { id: number; since: number }[] = [];
  const longer = new Map<number, number[]>();
  for (let day = 0; day < 365; day++) {
    const now = (day + 1) * DAY;
    for (const thing of things) {
      if (day > 0 && (day - thing.first) % MONTH === 0) Object.assign(thing, draw());
      for (let p = random.next(), k = Math.exp(-thing.perWeek / 7); p > k; p *= random.next()) {
        const at = now - random.next() * DAY;
        thing.openings.push(at);
        thing.weight = withOpening(thing.weight, at);
      }
      thing.openings = thing.openings.filter((at) => at > now - 56 * DAY);
    }
    if (day < MONTH) continue;
    const counts = things.map((thing) => dailyCounts(thing.openings, now));
    const rates = ratesBy(counts, day % MONTH);
    const items = things.map((thing, i): PlanItem => {
      const slot = strip.findIndex((p) => p.id === thing.id);
      const onStrip = slot >= 0;
      const days = onStrip ? day - strip[slot]!.since : 0;
      return {
        id: `${thing.id}`,
        name: `${thing.id}`,
        rate: rates[i]!,
        mean: meanOf(counts[i]!, MONTH),
        uses: weightAt(thing.weight, now),
        without: thing.without,
        now: onStrip ? C.M + C.K : thing.without,
        byFolders: 11,
        slot: onStrip ? slot : null,
        locked: false,
        keys: null,
        weeksThere: days / 7,
        width: 120,
        isNew: onStrip && days < 7,
        wasPinned: false,
        turns: thing.turns.filter((turn) => day - turn < MONTH).length,
        idle: null,
      };
    });
    const none = { otherSlots: [], menus: [], withoutShortcut: [], same: [], keys: [] };
    for (const s of suggest({ items, ...none, rules, worth: 1 }).suggestions) {
      const [first, second] = s.ids.map(Number);
      for (const id of s.ids) things[Number(id)]!.turns.push(day);
      const going = s.kind === 'unpin' ? first : second;
      if (going !== undefined)
        strip.splice(
          strip.findIndex((p) => p.id === going),
          1,
        );
      if (s.kind !== 'unpin') strip.push({ id: first!, since: day });
    }
    const free = { ...rules, movePenalty: 0 };
    const truth = things.map(({ id, perWeek, without, weight }) => {
      const fixed = { slot: null, eligible: true, width: 120 };
      return { id: `${id}`, rate: perWeek, without, uses: weightAt(weight, now), ...fixed };
    });
    const slots = strip.map((p) => `${p.id}`);
    const list = longer.get(day % MONTH) ?? [];
    list.push(costOfPins(truth, slots, free).seconds / planPins(truth, free).seconds - 1);
    longer.set(day % MONTH, list);
  }
  return { turns: things.map((thing) => thing.turns), longer };
}

const years = new Map<string, ReturnType<typeof year>>();
/** Each is simulated once. */
function known(seed: number, person: Person, options: Parameters<typeof year>[2] = {}) {
  const key = `${seed} ${person.things} ${options.together} ${options.ratesBy?.name}`;
  let one = years.get(key);
  if (!one) years.set(key, (one = year(seed, person, options)));
  return one;
}

/**
 * How much longer than with the best strip, so many days after all rates changed; a mean over the months of some years.
 */
const longer =
  (person: Person, seeds: readonly number[], ratesBy: Rates = ratesNow) =>
  (days: number) => {
    const values = seeds.flatMap((seed) => known(seed, person, { ratesBy }).longer.get(days)!);
    return values.reduce((sum, x) => sum + x, 0) / values.length;
  };

describe('over a year', () => {
  it('a week after all rates changed the strip is within 3 % of the best one, for who opens much', () => {
    const own = longer(MUCH, [1]);
    for (const days of [7, 14, 27]) expect(own(days)).toBeLessThan(0.03);
  });
  it('for who opens little it takes longer, but not much more than for who is told the day; a mean over four weeks takes most of the month', () => {
    const own = longer(LITTLE, [1, 2]);
    expect(own(7)).toBeLessThan(0.06);
    expect(own(7)).toBeLessThan(longer(LITTLE, [1, 2], told)(7) + 0.03);
    expect(own(7)).toBeLessThan(longer(LITTLE, [1, 2], byMean)(7) / 2);
    expect(own(14)).toBeLessThan(0.04);
    expect(own(27)).toBeLessThan(0.03);
  });
  it('no suggestion flips back and forth: at most one reversal of each thing in a month', () => {
    const all = [known(1, MUCH, { ratesBy: ratesNow }), known(1, LITTLE, { ratesBy: ratesNow })];
    for (const { turns } of [...all, known(3, LITTLE, { together: false })])
      for (const days of turns)
        for (const day of days)
          expect(days.filter((other) => other >= day && other < day + MONTH).length).toBeLessThanOrEqual(2);
  });
});
