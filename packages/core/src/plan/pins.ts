/**
 * Which shortcuts are pinned, and where on the strip (docs/models.md 3): least expected seconds a week. For each number
 * of pins it is an assignment of shortcuts to slots, since slots differ, and so does what each shortcut falls back on;
 * all numbers are tried. Exact for the model below.
 */
import { assign } from '../assignment/index.js';
import { byPinKey, choosing, FRAME, pointing, type ReachConstants } from '../reach/index.js';

export interface PinCandidate {
  id: string;
  /** Openings a week. */
  rate: number;
  /** Seconds by its next-best route, without a pin. */
  without: number;
  /** Usage weight, which makes choosing quicker. */
  uses: number;
  /** Where it is pinned now, from 0; null where it is not. */
  slot: number | null;
  /** Stays where it is. */
  locked?: boolean;
  /** May be pinned; what is pinned already may always stay. */
  eligible: boolean;
  /** How well the hand knows its slot, 0 to 1; 1 where it lay there for long. */
  known?: number;
  /** Width of its label, pixels. */
  width: number;
}

export interface PinRules {
  constants: ReachConstants;
  /** So many pins at most. */
  limit: number;
  /** The first so many slots have a key. */
  keys: number;
  /** Seconds in the first week for moving a pin, or taking one away, that the hand knows. */
  movePenalty: number;
  /** Seconds that come before every pin: the way to Rellin. */
  before: number;
}

export interface PinPlan {
  /** Ids by slot. */
  slots: string[];
  /** Expected seconds a week of all candidates, penalties counted. */
  cost: number;
  /** The same without the penalties: what it takes once the hand knows it. */
  seconds: number;
  /** Seconds an opening of each pinned thing takes, by slot. */
  times: number[];
}

/** The strip as it is, by the same model. */
export function costOfPins(candidates: readonly PinCandidate[], slots: readonly string[], rules: PinRules): PinPlan {
  const slotOf = new Map(slots.map((id, slot) => [id, slot]));
  const times = new SlotTimes(slots.length, candidates, rules);
  let [cost, seconds] = [0, 0];
  const taken = new Array<number>(slots.length).fill(0);
  for (const item of candidates) {
    const slot = slotOf.get(item.id) ?? null;
    const one = slot === null ? item.without : times.seconds(item, slot);
    if (slot !== null) taken[slot] = one;
    const own = item.rate * one;
    seconds += own;
    cost += own + penaltyOf(item, slot, rules);
  }
  return { slots: [...slots], cost, seconds, times: taken };
}

function penaltyOf(item: PinCandidate, slot: number | null, { movePenalty }: PinRules): number {
  return item.slot === null || item.slot === slot ? 0 : movePenalty * (item.known ?? 1);
}

/** Seconds to a pin in a slot among so many: by key, or by a click where that is quicker or there is no key. */
class SlotTimes {
  private readonly reaching: Float64Array;
  private readonly byKey: number;

  constructor(
    private readonly n: number,
    candidates: readonly PinCandidate[],
    private readonly rules: PinRules,
  ) {
    const { constants: c } = rules;
    // labels before a slot are taken as of the mean width: which they are is what is asked
    const width = candidates.reduce((sum, item) => sum + item.width, 0) / Math.max(1, candidates.length);
    this.byKey = rules.before + byPinKey(1, c).seconds;
    this.reaching = Float64Array.from({ length: n }, (_, slot) => {
      const x = FRAME.left + slot * (width + FRAME.gap) + width / 2;
      const distance = Math.hypot(x - FRAME.restX, FRAME.top + FRAME.height / 2 - FRAME.restY);
      return rules.before + c.H + pointing(distance, Math.min(width, FRAME.height), c) + 2 * c.B;
    });
  }

  /** To choose this one among the labels. */
  choice(item: PinCandidate): number {
    return choosing(this.n, item.uses, this.rules.constants);
  }

  seconds(item: PinCandidate, slot: number): number {
    return this.at(slot, this.choice(item));
  }

  /** After a choice that takes so long. */
  at(slot: number, choice: number): number {
    const click = choice + this.reaching[slot]!;
    return slot < this.rules.keys ? Math.min(this.byKey, click) : click;
  }

  /** For a choice that takes so long, the seconds in the quickest and the slowest of some slots. */
  range(slots: readonly number[]): (choice: number) => [number, number] {
    const keyed = slots.filter((slot) => slot < this.rules.keys).map((slot) => this.reaching[slot]!);
    const plain = slots.filter((slot) => slot >= this.rules.keys).map((slot) => this.reaching[slot]!);
    const [nearKeyed, farKeyed] = [Math.min(...keyed), Math.max(...keyed)];
    const [nearPlain, farPlain] = [Math.min(...plain), Math.max(...plain)];
    const hasKeyed = keyed.length > 0;
    return (choice) => [
      Math.min(choice + nearPlain, hasKeyed ? Math.min(this.byKey, choice + nearKeyed) : Infinity),
      Math.max(choice + farPlain, hasKeyed ? Math.min(this.byKey, choice + farKeyed) : 0),
    ];
  }

  /** With a label that needs no choice, in the best slot. */
  least(): number {
    const click = this.rules.constants.knownA + Math.min(...this.reaching);
    return this.rules.keys > 0 ? Math.min(this.byKey, click) : click;
  }
}

/**
 * The best plan; of equal ones that with fewer pins. Cost: linear in the candidates for each number of pins, then
 * small.
 */
export function planPins(candidates: readonly PinCandidate[], rules: PinRules): PinPlan {
  const isLocked = (item: PinCandidate) => item.locked === true && item.slot !== null;
  const locked = candidates.filter(isLocked);
  const filling = new Filling(
    candidates.filter((item) => !isLocked(item) && (item.slot !== null || item.eligible)),
    rules,
  );
  const fewest = locked.reduce((most, item) => Math.max(most, item.slot! + 1), 0);
  const most = Math.max(fewest, Math.min(rules.limit, locked.length + filling.size));
  let best: { slots: string[]; gain: number } | undefined;
  for (let n = fewest; n <= most; n++) {
    const times = new SlotTimes(n, candidates, rules);
    const taken = new Map(locked.map((item) => [item.slot!, item]));
    const open = Array.from({ length: n }, (_, slot) => slot).filter((slot) => !taken.has(slot));
    if (open.length > filling.size) break;
    const chosen = filling.fill(open, times);
    if (!chosen) continue;
    open.forEach((slot, i) => taken.set(slot, chosen[i]!));
    let gain = 0;
    for (const [slot, item] of taken) gain += gainOf(item, slot, times, rules);
    if (best && gain <= best.gain + 1e-9) continue;
    best = { slots: Array.from({ length: n }, (_, slot) => taken.get(slot)!.id), gain };
  }
  return costOfPins(candidates, best?.slots ?? [], rules);
}

/** What a pin in a slot saves beside none, seconds a week; less than nothing where it costs. */
function gainOf(item: PinCandidate, slot: number, times: SlotTimes, rules: PinRules): number {
  const saved = item.rate * (item.without - times.seconds(item, slot));
  return saved + penaltyOf(item, null, rules) - penaltyOf(item, slot, rules);
}

/** Fills slots with those that save most there. */
class Filling {
  /** Pinned ones come into question always, the others by what they save. */
  private readonly pinned: PinCandidate[];
  private readonly others: PinCandidate[];
  private readonly rates: Float64Array;
  private readonly withouts: Float64Array;
  private readonly most: Float64Array;
  private readonly least: Float64Array;

  constructor(
    may: readonly PinCandidate[],
    private readonly rules: PinRules,
  ) {
    this.pinned = may.filter((item) => item.slot !== null);
    this.others = may.filter((item) => item.slot === null);
    this.rates = Float64Array.from(this.others, (item) => item.rate);
    this.withouts = Float64Array.from(this.others, (item) => item.without);
    this.most = new Float64Array(this.others.length);
    this.least = new Float64Array(this.others.length);
  }

  get size(): number {
    return this.pinned.length + this.others.length;
  }

  /**
   * Who comes into each of the open slots. Who saves less in its best slot than so many others in their worst as there
   * are slots cannot come into question: in any plan with it, one of these is free to take its place for no less.
   */
  fill(open: readonly number[], times: SlotTimes): PinCandidate[] | undefined {
    if (open.length === 0) return [];
    const { others, rates, withouts, most, least } = this;
    const range = times.range(open);
    for (let i = 0; i < others.length; i++) {
      const [quick, slow] = range(times.choice(others[i]!));
      most[i] = rates[i]! * (withouts[i]! - quick);
      least[i] = rates[i]! * (withouts[i]! - slow);
    }
    const bar = nthLargest(least, open.length);
    const near = [...this.pinned];
    for (let i = 0; i < others.length; i++) if (most[i]! >= bar) near.push(others[i]!);
    const costs = new Float64Array(open.length * near.length);
    near.forEach((item, column) => {
      const choice = times.choice(item);
      const none = penaltyOf(item, null, this.rules);
      open.forEach((slot, row) => {
        const more = item.rate * (times.at(slot, choice) - item.without);
        costs[row * near.length + column] = more + penaltyOf(item, slot, this.rules) - none;
      });
    });
    const chosen = assign(open.length, near.length, costs);
    return chosen && [...chosen].map((column) => near[column]!);
  }
}

/** The `n`th largest of some values; less than any where there are fewer. */
function nthLargest(values: Float64Array, n: number): number {
  if (n > values.length) return -Infinity;
  // a heap of the n largest, the smallest of them on top
  const heap = values.slice(0, n).sort();
  for (let i = n; i < values.length; i++) {
    const value = values[i]!;
    if (value <= heap[0]!) continue;
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= n) break;
      if (child + 1 < n && heap[child + 1]! < heap[child]!) child++;
      if (heap[child]! >= value) break;
      heap[at] = heap[child]!;
      at = child;
    }
    heap[at] = value;
  }
  return heap[0]!;
}

/** What no plan can beat: each thing by the cheapest conceivable pin, alone on the strip in its best slot. */
export function boundOf(candidates: readonly PinCandidate[], rules: PinRules): number {
  const least = new SlotTimes(Math.max(1, rules.limit), candidates, rules).least();
  return candidates.reduce((sum, item) => sum + item.rate * Math.min(item.without, least), 0);
}
