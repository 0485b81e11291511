/** What was opened, week by week (common practice: sums over windows of seven days that end now). */
import type { Zone } from '../query/index.js';
import { partOfWeek } from './likely.js';
import { WEEK } from './weight.js';

/** Parts of a day, by quarters from midnight. */
export const PARTS_OF_DAY = 4;

export interface OpeningSaved {
  /** Epoch milliseconds. */
  at: number;
  /** Seconds it took less than walking to the same thing. */
  saved: number;
}

export interface WeekOfUse {
  /** Epoch milliseconds; the week ends seven days later. */
  start: number;
  /** Openings by part of the day. */
  parts: number[];
  /** Seconds. */
  saved: number;
}

/**
 * The last so many weeks, oldest first, the last one ending at `now`. What lies before them or after `now` is left out.
 */
export function weeksOfUse(openings: readonly OpeningSaved[], now: number, weeks: number, zone: Zone): WeekOfUse[] {
  const out = Array.from({ length: weeks }, (_, i) => ({
    start: now - (weeks - i) * WEEK,
    parts: new Array<number>(PARTS_OF_DAY).fill(0),
    saved: 0,
  }));
  for (const { at, saved } of openings) {
    const week = out[weeks - 1 - Math.floor((now - at) / WEEK)];
    if (!week || at > now) continue;
    week.parts[partOfWeek(at, zone) % PARTS_OF_DAY]!++;
    week.saved += saved;
  }
  return out;
}
