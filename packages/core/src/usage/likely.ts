/**
 * What is likely opened next (docs/models.md 1): three ways to guess, each a share of exponentially decayed counts,
 * mixed by interpolation — how often a thing is opened at all, how often in this part of the week, how often right
 * after what was opened last (a first-order Markov chain). The weights of the mixture are fitted on the person's own
 * history by deleted interpolation (Jelinek and Mercer 1980, from memory): each opening is guessed from what came
 * before it alone.
 *
 * Counts decay forward: an opening at `t` adds 2^((t − landmark)/h), so that shares need no decay when they are read.
 */
import type { Zone } from '../query/index.js';

const DAY = 86_400_000;
/** Up to here an exponent may grow before all counts are moved to a later landmark. */
const LARGEST_EXPONENT = 400;
/** What was opened longer ago does not lead to what comes now. */
export const SITTING_MS = 4 * 3_600_000;

export interface Opened {
  item: string;
  /** Epoch milliseconds. */
  at: number;
}

/** Parts of a week: work day or weekend, by quarters of the day from midnight. */
export const PARTS = 8;

/** 0 to 3 the quarters of a work day, 4 to 7 those of a Saturday or Sunday. */
export function partOfWeek(at: number, zone: Zone): number {
  const { year, month, day, weekday } = zone.dayOf(at);
  const quarter = Math.min(3, Math.floor((at - zone.startOf(year, month, day)) / (6 * 3_600_000)));
  return (weekday >= 6 ? 4 : 0) + quarter;
}

/** Shares of the three ways to guess; they add up to 1. */
export interface Mixture {
  rate: number;
  part: number;
  after: number;
}

export const USUAL_MIXTURE: Mixture = { rate: 0.4, part: 0.3, after: 0.3 };

/** Decayed counts of things, and their sum. */
class Shares {
  readonly of = new Map<string, number>();
  total = 0;
  add(item: string, amount: number): void {
    this.of.set(item, (this.of.get(item) ?? 0) + amount);
    this.total += amount;
  }
  share(item: string): number {
    return this.total > 0 ? (this.of.get(item) ?? 0) / this.total : 0;
  }
  scale(factor: number): void {
    for (const [item, value] of this.of) this.of.set(item, value * factor);
    this.total *= factor;
  }
}

/** What led to a guess, for the sentence beside it. */
export type LikelyReason =
  | { kind: 'after'; item: string; times: number }
  /** On so many of the last so many days of this weekday. */
  | { kind: 'weekday'; weekday: number; times: number; of: number }
  | { kind: 'part'; part: number; share: number }
  | { kind: 'rate' };

export interface Likely {
  item: string;
  /** 0 to 1. */
  probability: number;
  reason: LikelyReason;
}

const WEEKDAYS_LOOKED_AT = 10;
/** From so many times on "after X" is a reason, and on so many of the last weekdays "on Tuesdays" is. */
const TOLD_TIMES = 3;
const TOLD_WEEKDAYS = 0.6;

/**
 * The history of openings as the three guesses need it. An opening costs O(1); a guess is linear in the things known.
 */
export class LikelyNext {
  private readonly rates = new Shares();
  private readonly parts = Array.from({ length: PARTS }, () => new Shares());
  private readonly afters = new Map<string, Shares>();
  /** Plain numbers of times an item came after another. */
  private readonly times = new Map<string, Map<string, number>>();
  private readonly counts = new Map<string, number>();
  /** Item → the days it was opened on, as numbers of days, the latest last. */
  private readonly days = new Map<string, number[]>();
  private readonly recent: string[] = [];
  private landmark: number | undefined;
  private last: Opened | undefined;

  constructor(
    private readonly zone: Zone,
    private readonly halfLifeDays: number,
  ) {}

  /** Openings in the order of their times; one that is earlier than the last (a clock set back) counts as now. */
  add({ item, at: given }: Opened): void {
    const at = Math.max(given, this.last?.at ?? given);
    const amount = this.amountAt(at);
    this.rates.add(item, amount);
    this.parts[partOfWeek(at, this.zone)]!.add(item, amount);
    const previous = this.previousAt(at);
    if (previous !== undefined) {
      let shares = this.afters.get(previous);
      if (!shares) this.afters.set(previous, (shares = new Shares()));
      shares.add(item, amount);
      let times = this.times.get(previous);
      if (!times) this.times.set(previous, (times = new Map()));
      times.set(item, (times.get(item) ?? 0) + 1);
    }
    this.counts.set(item, (this.counts.get(item) ?? 0) + 1);
    const day = this.dayNumber(at);
    const days = this.days.get(item);
    if (!days) this.days.set(item, [day]);
    else if (days[days.length - 1] !== day) days.push(day);
    const known = this.recent.indexOf(item);
    if (known >= 0) this.recent.splice(known, 1);
    this.recent.unshift(item);
    this.last = { item, at };
  }

  private amountAt(at: number): number {
    this.landmark ??= at;
    const exponent = (at - this.landmark) / (this.halfLifeDays * DAY);
    if (exponent <= LARGEST_EXPONENT) return 2 ** exponent;
    const factor = 2 ** -exponent;
    for (const shares of [this.rates, ...this.parts, ...this.afters.values()]) shares.scale(factor);
    this.landmark = at;
    return 1;
  }

  private dayNumber(at: number): number {
    const { year, month, day } = this.zone.dayOf(at);
    return Math.round(Date.UTC(year, month - 1, day) / DAY);
  }

  /** What was opened last, where that was lately. */
  previousAt(now: number): string | undefined {
    return this.last && now - this.last.at <= SITTING_MS ? this.last.item : undefined;
  }

  /** The share each of the three gives an item. */
  shares(item: string, now: number): Mixture {
    const previous = this.previousAt(now);
    return {
      rate: this.rates.share(item),
      part: this.parts[partOfWeek(now, this.zone)]!.share(item),
      after: (previous !== undefined && this.afters.get(previous)?.share(item)) || 0,
    };
  }

  /** The likeliest, first the likeliest; equal ones by name, so that the order does not change by itself. */
  guess(now: number, mixture: Mixture, most: number): Likely[] {
    const part = this.parts[partOfWeek(now, this.zone)]!;
    const previous = this.previousAt(now);
    const after = previous === undefined ? undefined : this.afters.get(previous);
    // a way that knows nothing now leaves its share to the others
    const known = mixture.rate + (part.total > 0 ? mixture.part : 0) + (after ? mixture.after : 0);
    const best: { item: string; probability: number }[] = [];
    for (const item of this.rates.of.keys()) {
      const probability =
        known > 0
          ? (mixture.rate * this.rates.share(item) +
              mixture.part * part.share(item) +
              mixture.after * (after?.share(item) ?? 0)) /
            known
          : this.rates.share(item);
      insertBest(best, { item, probability }, most);
    }
    return best.map((b) => ({ ...b, reason: this.reasonOf(b.item, now, mixture) }));
  }

  /** The latest things, each once. */
  mostRecent(most: number): string[] {
    return this.recent.slice(0, most);
  }

  mostFrequent(most: number): string[] {
    const best: { item: string; probability: number }[] = [];
    for (const [item, probability] of this.counts) insertBest(best, { item, probability }, most);
    return best.map((b) => b.item);
  }

  /** The part of the guess that says most, where it can be said in numbers one can count. */
  private reasonOf(item: string, now: number, mixture: Mixture): LikelyReason {
    const shares = this.shares(item, now);
    const previous = this.previousAt(now);
    const times = previous === undefined ? 0 : (this.times.get(previous)?.get(item) ?? 0);
    const byAfter = mixture.after * shares.after;
    const byPart = mixture.part * shares.part;
    if (previous !== undefined && times >= TOLD_TIMES && byAfter >= byPart)
      return { kind: 'after', item: previous, times };
    const weekday = this.weekdayReason(item, now);
    if (weekday.times / weekday.of >= TOLD_WEEKDAYS && weekday.times >= TOLD_TIMES) return weekday;
    if (byPart >= mixture.rate * shares.rate)
      return { kind: 'part', part: partOfWeek(now, this.zone), share: this.partShare(item, now) };
    return { kind: 'rate' };
  }

  private weekdayReason(item: string, now: number): Extract<LikelyReason, { kind: 'weekday' }> {
    const today = this.dayNumber(now);
    const days = new Set((this.days.get(item) ?? []).slice(-200));
    let times = 0;
    for (let week = 1; week <= WEEKDAYS_LOOKED_AT; week++) if (days.has(today - 7 * week)) times++;
    return { kind: 'weekday', weekday: this.zone.dayOf(now).weekday, times, of: WEEKDAYS_LOOKED_AT };
  }

  /** How much of an item's own use falls into this part of the week. */
  private partShare(item: string, now: number): number {
    const all = this.rates.of.get(item) ?? 0;
    return all > 0 ? (this.parts[partOfWeek(now, this.zone)]!.of.get(item) ?? 0) / all : 0;
  }
}

function insertBest<T extends { item: string; probability: number }>(best: T[], one: T, most: number): void {
  const isBefore = (a: T, b: T) =>
    a.probability > b.probability || (a.probability === b.probability && a.item < b.item);
  const last = best[best.length - 1];
  if (best.length === most && last && !isBefore(one, last)) return;
  let i = best.length;
  while (i > 0 && isBefore(one, best[i - 1]!)) i--;
  best.splice(i, 0, one);
  if (best.length > most) best.pop();
}

export interface LikelyFit {
  mixture: Mixture;
  /** Share of the tested openings that were among the first five guesses. */
  hit5: { model: number; recent: number; frequent: number };
  /** How many openings were guessed for that. */
  tested: number;
  /** The mixture, or the simpler one where that was no worse. */
  use: 'model' | 'recent' | 'frequent';
}

const FIRST = 5;
/** Of a history at most so many of its last openings are guessed. */
const MOST_GUESSED = 900;
/** With fewer there is nothing to be learned. */
const FEWEST_GUESSED = 30;
const EM_ROUNDS = 40;

/**
 * Fits the mixture on the first two thirds of the openings that are guessed, and tests it on the last third beside the
 * most recent and the most frequent. `openings` in the order of time. Cost: linear in the openings, and for each one
 * guessed linear in the things.
 */
export function fitLikely(openings: readonly Opened[], zone: Zone, halfLifeDays: number): LikelyFit {
  const guessed = Math.min(MOST_GUESSED, Math.floor(openings.length * 0.6));
  const nothing: LikelyFit = {
    mixture: USUAL_MIXTURE,
    hit5: { model: 0, recent: 0, frequent: 0 },
    tested: 0,
    use: 'frequent',
  };
  if (guessed < FEWEST_GUESSED) return nothing;
  const from = openings.length - guessed;
  const testFrom = openings.length - Math.floor(guessed / 3);
  const history = new LikelyNext(zone, halfLifeDays);
  const evidence: Mixture[] = [];
  let mixture = USUAL_MIXTURE;
  const hits = { model: 0, recent: 0, frequent: 0 };
  openings.forEach((opened, i) => {
    if (i === testFrom) mixture = expectationMaximised(evidence);
    if (i >= testFrom) {
      if (history.guess(opened.at, mixture, FIRST).some((g) => g.item === opened.item)) hits.model++;
      if (history.mostRecent(FIRST).includes(opened.item)) hits.recent++;
      if (history.mostFrequent(FIRST).includes(opened.item)) hits.frequent++;
    }
    if (i >= from) evidence.push(history.shares(opened.item, opened.at));
    history.add(opened);
  });
  const tested = openings.length - testFrom;
  const hit5 = { model: hits.model / tested, recent: hits.recent / tested, frequent: hits.frequent / tested };
  const simpler = hit5.recent > hit5.frequent ? 'recent' : 'frequent';
  return {
    mixture: expectationMaximised(evidence),
    hit5,
    tested,
    use: hit5.model > hit5[simpler] ? 'model' : simpler,
  };
}

/**
 * The mixture under which what was really opened was likeliest: expectation–maximisation over the three shares of each
 * opening. What none of them expected says nothing.
 */
function expectationMaximised(evidence: readonly Mixture[]): Mixture {
  let mixture = USUAL_MIXTURE;
  const told = evidence.filter((e) => e.rate + e.part + e.after > 0);
  if (told.length < FEWEST_GUESSED) return mixture;
  for (let round = 0; round < EM_ROUNDS; round++) {
    const sum: Mixture = { rate: 0, part: 0, after: 0 };
    for (const e of told) {
      const all = mixture.rate * e.rate + mixture.part * e.part + mixture.after * e.after;
      if (all === 0) continue;
      sum.rate += (mixture.rate * e.rate) / all;
      sum.part += (mixture.part * e.part) / all;
      sum.after += (mixture.after * e.after) / all;
    }
    const total = sum.rate + sum.part + sum.after;
    mixture = { rate: sum.rate / total, part: sum.part / total, after: sum.after / total };
  }
  return mixture;
}

/** What is likely next by a fit: the mixture, or the simpler way where that guessed no worse. */
export function likelyNext(history: LikelyNext, now: number, fit: LikelyFit, most: number): Likely[] {
  if (fit.use === 'model') return history.guess(now, fit.mixture, most);
  const items = fit.use === 'recent' ? history.mostRecent(most) : history.mostFrequent(most);
  const all = new Map(
    history.guess(now, { rate: 1, part: 0, after: 0 }, Number.MAX_SAFE_INTEGER).map((g) => [g.item, g]),
  );
  return items.flatMap((item) => all.get(item) ?? []);
}
