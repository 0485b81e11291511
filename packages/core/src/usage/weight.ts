/**
 * Usage weight: an exponentially decayed count of openings, w(t) = Σ 2^(−(t−t_k)/h) (docs/models.md 1; exponential
 * decay is common practice). Kept as one pair (w0, t0), so that an opening costs O(1) and no history is needed.
 * Times are epoch milliseconds.
 */

export const WEEK = 7 * 86_400_000;
/** Half-life in days: default, least and most. */
export const HALF_LIFE_DAYS = { usual: 14, least: 1, most: 90 } as const;

export interface Weight {
  /** The decayed count at `t0`. */
  readonly w0: number;
  /** When `w0` holds, epoch milliseconds. */
  readonly t0: number;
}

export const NO_WEIGHT: Weight = { w0: 0, t0: 0 };

const decay = (elapsed: number, halfLifeDays: number) => 2 ** (-elapsed / (halfLifeDays * 86_400_000));

/** The weight at `t`. Before `t0` (a clock set back) it reads as at `t0`: a weight never grows by waiting. */
export function weightAt(weight: Weight, t: number, halfLifeDays: number = HALF_LIFE_DAYS.usual): number {
  return t <= weight.t0 ? weight.w0 : weight.w0 * decay(t - weight.t0, halfLifeDays);
}

/** The weight with one more opening at `at`. Openings may come in any order, and may lie in the future. */
export function withOpening(weight: Weight, at: number, halfLifeDays: number = HALF_LIFE_DAYS.usual): Weight {
  if (weight.w0 === 0) return { w0: 1, t0: at };
  if (at >= weight.t0) return { w0: weight.w0 * decay(at - weight.t0, halfLifeDays) + 1, t0: at };
  return { w0: weight.w0 + decay(weight.t0 - at, halfLifeDays), t0: weight.t0 };
}

/** Openings a week that would hold this weight in a steady state: 7·w·ln 2 / h. */
export function openingsPerWeek(weight: number, halfLifeDays: number = HALF_LIFE_DAYS.usual): number {
  return (7 * weight * Math.LN2) / halfLifeDays;
}

/** Openings in each of the last `weeks` weeks, oldest first, the last one ending at `now`. */
export function weeklyCounts(openings: readonly number[], now: number, weeks = 12): number[] {
  const counts = new Array<number>(weeks).fill(0);
  for (const at of openings) {
    const back = Math.floor((now - at) / WEEK);
    if (back >= 0 && back < weeks) counts[weeks - 1 - back]!++;
  }
  return counts;
}
