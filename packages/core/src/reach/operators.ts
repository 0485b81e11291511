/** The elementary times that routes are added up from. All return seconds ≥ 0. */
import type { ReachConstants } from './constants.js';

/** One part of a route's time, with the name it is shown under. */
export interface Operator {
  label: string;
  seconds: number;
}

/** Fitts' index of difficulty in bits, Shannon form. Distance and width in the same unit; width > 0. */
export function indexOfDifficulty(distance: number, width: number): number {
  return Math.log2(distance / width + 1);
}

/** Time to point at a target of `width` at `distance` (pixels). */
export function pointing(distance: number, width: number, c: ReachConstants): number {
  return c.fittsA + c.fittsB * indexOfDifficulty(distance, width);
}

/**
 * Time to choose one of `n` in a list: searching it through at first, going by memory with practice; the share of
 * memory is `uses / (uses + practiceHalf)`. `p` is how likely this one is (default 1/n). Stands in place of M, never
 * beside it.
 */
export function choosing(n: number, uses: number, c: ReachConstants, p: number = 1 / Math.max(1, n)): number {
  if (n <= 1) return c.knownA;
  const known = c.knownA + c.knownB * Math.log2(1 / Math.min(1, Math.max(p, 1e-6)));
  const searched = c.searchA + c.searchB * n;
  const expert = uses / (uses + c.practiceHalf);
  return expert * Math.min(known, searched) + (1 - expert) * searched;
}

export function totalSeconds(operators: readonly Operator[]): number {
  return operators.reduce((sum, o) => sum + o.seconds, 0);
}
