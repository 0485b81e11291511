/**
 * How often a thing is opened now, where that may have changed on any day: Bayesian online change-point detection (Adams
 * and MacKay 2007, from memory) on counts a day, Poisson with a Gamma prior. A mean over weeks goes on telling of what
 * was; this follows a change within days, and is as steady as the whole history where there was none.
 */

/**
 * What is taken of a habit before a day of it is seen: a fifth of an opening over two days. Chosen on simulated years
 * (plan/suggest.test.ts): with less a new habit is believed too soon, with more what is hardly opened counts for too much.
 */
const PRIOR = { shape: 0.2, days: 2 } as const;
/** Once in four weeks one's habits change, by prior belief. */
const HAZARD = 1 / 28;
/** Longer ago than this nothing tells of now. */
export const RATE_DAYS = 56;

/**
 * Openings a week, from the counts of the last days, oldest first. Each length that the present habit may have is kept
 * with its probability; the rate is the mean over them. Cost: O(days²), and only days count, not openings.
 */
export function rateNow(counts: readonly number[]): number {
  // of what was not opened in all that time nothing is expected
  if (!counts.some((count) => count > 0)) return 0;
  const seen = counts.slice(-RATE_DAYS);
  // by the day a habit began on: its chance, and the shape of what is known of its rate
  const chance = new Float64Array(seen.length + 1);
  const shapes = new Float64Array(seen.length + 1).fill(PRIOR.shape);
  chance[0] = 1;
  seen.forEach((count, today) => {
    let all = 0;
    for (let began = 0; began <= today; began++) {
      chance[began]! *= predicted(count, shapes[began]!, PRIOR.days + today - began);
      shapes[began]! += count;
      all += chance[began]!;
    }
    // so unlikely by every habit that nothing is left to compare: today one began
    if (!(all > 0)) {
      chance.fill(0);
      chance[today] = 1;
      all = 1;
    }
    for (let began = 0; began <= today; began++) chance[began]! *= (1 - HAZARD) / all;
    chance[today + 1] = HAZARD;
  });
  let rate = 0;
  for (let began = 0; began <= seen.length; began++)
    rate += (chance[began]! * shapes[began]!) / (PRIOR.days + seen.length - began);
  return 7 * rate;
}

const { exp } = Math;
/** Logarithms of days / (days + 1). */
const FADED = Float64Array.from({ length: PRIOR.days + RATE_DAYS + 1 }, (_, days) => Math.log(days / (days + 1)));

/** The chance of so many openings in a day: negative binomial, the Poisson law averaged over a Gamma. */
function predicted(count: number, shape: number, days: number): number {
  let p = exp(shape * FADED[days]!);
  for (let k = 0; k < count; k++) p *= (shape + k) / ((k + 1) * (days + 1));
  return p;
}

/** Counts of the last so many days, oldest first, the last one ending at `now`. */
export function dailyCounts(openings: readonly number[], now: number, days = RATE_DAYS): number[] {
  const counts = new Array<number>(days).fill(0);
  for (const at of openings) {
    const back = Math.floor((now - at) / 86_400_000);
    if (back >= 0 && back < days) counts[days - 1 - back]!++;
  }
  return counts;
}
