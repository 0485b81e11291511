/**
 * The first pins and keys, by the plan's own computation: what is proposed has no place yet, and its next-best route is
 * the find line among all that is proposed with it.
 */
import { Finder, ShortestQueries } from '../match/index.js';
import {
  assignKeys,
  costOfPins,
  planPins,
  type FreeKey,
  type KeyChoice,
  type PinCandidate,
  type PinPlan,
  type PinRules,
} from '../plan/index.js';
import { byFindLine, labelWidth } from '../reach/index.js';

export interface Starter {
  id: string;
  name: string;
  /** The folders it lies in, as the find line shows them. */
  trail: string;
  /** Openings a week, by estimate. */
  rate: number;
  /** Usage weight, as far as openings are known. */
  uses: number;
}

export interface FirstStrip {
  /** Ids in the order of the strip. */
  pins: string[];
  /** Keys for what got no digit. */
  keys: KeyChoice[];
}

/** What nobody finds by typing costs as much as ten letters. */
const NO_QUERY = { characters: 10, rank: 3 } as const;

/**
 * Pins by least expected seconds a week (exact, see `planPins`); letters for what is left and opened about once a week
 * or more. `worth` is in openings a week. Cost: that of the plan, and a finder over the things.
 */
export function firstStrip(
  things: readonly Starter[],
  rules: PinRules,
  free: readonly FreeKey[],
  worth: number,
): FirstStrip {
  const finder = new Finder();
  for (const { id, name, trail, uses } of things) finder.put({ id, group: 'shortcut', name, trail, weight: uses });
  const shortest = new ShortestQueries(finder);
  const without = new Map(
    things.map(({ id, uses }) => {
      const { characters, rank } = shortest.of(id) ?? NO_QUERY;
      return [id, rules.before + byFindLine(characters, rank, uses, rules.constants).seconds];
    }),
  );
  const candidates = things.map(({ id, name, rate, uses }) => ({
    id,
    rate,
    uses,
    without: without.get(id)!,
    slot: null,
    // a strip that is empty has room for what is opened more rarely than the plan would pin it later
    eligible: rate > 0,
    width: labelWidth(name),
  }));
  const pins = inOrderOfUse(candidates, planPins(candidates, rules), rules);
  const digits = new Set(pins.slice(0, rules.keys));
  const rest = things.filter(({ id, rate }) => !digits.has(id) && rate >= worth);
  const keys = assignKeys(
    rest.map(({ id, name, rate }) => ({ id, name, rate, seconds: without.get(id)! })),
    free,
  );
  return { pins, keys };
}

/** Of plans that cost the same the one that begins with what is opened most, as one would lay it by hand. */
function inOrderOfUse(candidates: readonly PinCandidate[], plan: PinPlan, rules: PinRules): string[] {
  const rateOf = new Map(candidates.map((c) => [c.id, c.rate]));
  const slots = [...plan.slots].sort((a, b) => rateOf.get(b)! - rateOf.get(a)!);
  return costOfPins(candidates, slots, rules).cost <= plan.cost + 1e-9 ? slots : plan.slots;
}
