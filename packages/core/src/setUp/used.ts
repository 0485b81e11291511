/**
 * What a person seems to use already, from traces that programs leave: each thing with an estimate of how often it is
 * opened, and whether it is proposed. Weights of openings are those of `usage`; the others are our own.
 */
import { openingsPerWeek } from '../usage/index.js';

/** Where a trace was found. */
export type UsedSource = 'recent' | 'desktop' | 'bookmark' | 'program';

export interface Trace {
  /** What it leads to; traces of one key are of one thing. */
  key: string;
  source: UsedSource;
  /** Usage weight now, where openings are told; 0 where it is only there. */
  weight: number;
}

export interface UsedEstimate {
  key: string;
  /** Each once, in the order of `SOURCES`. */
  sources: UsedSource[];
  /** Openings a week. */
  rate: number;
  /** Chance that it is opened within a week, 0 to 1. */
  likelihood: number;
  /** Whether it is proposed. */
  proposed: boolean;
}

const SOURCES: readonly UsedSource[] = ['recent', 'desktop', 'bookmark', 'program'];

/**
 * Openings a week that a trace stands for by being there (from memory: nobody has measured it for us): somebody who
 * puts a link on the desktop or among the bookmarks means to use it nearly once a week; a default program waits for its
 * files.
 */
const BY_BEING_THERE: Readonly<Record<UsedSource, number>> = {
  recent: 0,
  desktop: 0.8,
  bookmark: 0.7,
  program: 0.3,
};
/** From this chance on a thing is proposed. */
const LIKELY = 0.5;
/** So many at most: more than anybody reads through on a first visit. */
const MOST = 30;
/** So many in any case, where there are as many: the likeliest are better than none. */
const FEWEST = 6;

/**
 * Each thing once, the one opened most first; of equals in the order in which they came. O(traces · log things).
 *
 * @example estimateUse([{ key: 'a', source: 'desktop', weight: 0 }])[0].proposed // true
 */
export function estimateUse(traces: readonly Trace[], halfLifeDays?: number): UsedEstimate[] {
  const found = new Map<string, { sources: Set<UsedSource>; rate: number }>();
  for (const { key, source, weight } of traces) {
    const one = found.get(key) ?? { sources: new Set(), rate: 0 };
    found.set(key, one);
    one.rate += openingsPerWeek(weight, halfLifeDays);
    // twice among the bookmarks is once
    if (!one.sources.has(source)) one.rate += BY_BEING_THERE[source];
    one.sources.add(source);
  }
  const list = [...found].map(([key, { sources, rate }]) => ({
    key,
    sources: SOURCES.filter((source) => sources.has(source)),
    rate,
    // openings that come independently of each other (Poisson)
    likelihood: 1 - Math.exp(-rate),
  }));
  list.sort((a, b) => b.rate - a.rate);
  return list.map((one, i) => ({
    ...one,
    proposed: one.rate > 0 && i < MOST && (one.likelihood >= LIKELY || i < FEWEST),
  }));
}

/**
 * The usage weight of `count` openings spread evenly from `first` to `last` (epoch milliseconds), which is what
 * programs tell of them. O(1): the sum of a geometric series.
 *
 * @param count 1 or more; what is no such number counts as 1
 */
export function weightOfSpan(count: number, first: number, last: number, now: number, halfLifeDays: number): number {
  const n = Number.isFinite(count) && count >= 1 ? Math.floor(count) : 1;
  const halfLife = halfLifeDays * 86_400_000;
  const end = 2 ** (-Math.max(0, now - last) / halfLife);
  if (n === 1) return end;
  const between = Math.max(0, last - first) / (n - 1);
  const ratio = 2 ** (-between / halfLife);
  return ratio === 1 ? n * end : (end * (1 - ratio ** n)) / (1 - ratio);
}
