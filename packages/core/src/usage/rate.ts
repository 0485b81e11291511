/**
 * How often things are opened now, where that may have changed on any day: Bayesian online change-point detection
 * (Adams and MacKay 2007, from memory) on counts a day, Poisson with a Gamma prior. A mean over weeks goes on telling
 * of what was; this follows a change within days, and is as steady as the whole history where there was none.
 *
 * Habits change together: when a season or a job begins, many things are opened more or less often from one day on. So
 * how likely a change is on each day is told from all things (empirical Bayes, by expectation and maximisation:
 * Dempster, Laird and Rubin 1977, from memory), and a day on which much changed is known sooner for each.
 */

/**
 * What is taken of a habit before a day of it is seen: a fifth of an opening over two days. Chosen on simulated years
 * (plan/year.test.ts): with less a new habit is believed too soon, with more what is hardly opened counts for too much.
 */
const PRIOR = { shape: 0.2, days: 2 } as const;
/** Once in four weeks one's habits change, by prior belief. */
const HAZARD = 1 / 28;
/** Longer ago than this nothing tells of now. */
export const RATE_DAYS = 56;
/** The days of change are told from so many of the things most opened, in so many rounds: more tell no better. */
const TELLING = 100;
const ROUNDS = 3;

/**
 * Openings a week of each thing, from its counts of the last days, oldest first and as many of each. Cost: O(days²) for
 * each thing that was opened, and some more for a hundred of them; only days count, not openings.
 */
export function ratesNow(things: readonly (readonly number[])[]): number[] {
  const seen = things.map((counts) => counts.slice(-RATE_DAYS));
  const hazards = hazardsOf(seen);
  return seen.map((counts) => rateOf(counts, hazards));
}

/** Each length that the present habit may have counts by its probability. */
function rateOf(counts: readonly number[], hazards: Float64Array | undefined): number {
  // of what was not opened in all that time nothing is expected
  if (!counts.some((count) => count > 0)) return 0;
  const { chance, shapes } = habits(counts, hazards);
  let rate = 0;
  for (let began = 0; began <= counts.length; began++)
    rate += (chance[began]! * shapes[began]!) / (PRIOR.days + counts.length - began);
  return 7 * rate;
}

/** For each day, how likely it is that a habit begins with it. */
function hazardsOf(things: readonly (readonly number[])[]): Float64Array | undefined {
  const days = things[0]?.length ?? 0;
  const telling = things
    .map((counts) => ({ counts, sum: counts.reduce((sum, n) => sum + n, 0) }))
    .filter(({ sum }) => sum > 0)
    .sort((a, b) => b.sum - a.sum)
    .slice(0, TELLING);
  let hazards: Float64Array | undefined;
  for (let round = 0; round < ROUNDS && telling.length > 1; round++) {
    const begun = new Float64Array(days + 1);
    for (const { counts } of telling) {
      const { chance } = habits(counts, hazards);
      for (let day = 0; day <= days; day++) begun[day]! += chance[day]!;
    }
    // of those whose habit did not begin later, the share whose habit began on the day; with one more as by prior
    // belief
    hazards = new Float64Array(days + 1);
    let notLater = begun[0]!;
    for (let day = 1; day <= days; day++) {
      notLater += begun[day]!;
      hazards[day] = (HAZARD + begun[day]!) / (1 + notLater);
    }
  }
  return hazards;
}

/**
 * Each day on which the present habit may have begun, with its chance and the shape of what is known of its rate since;
 * the last one is today, of which nothing is seen.
 */
function habits(counts: readonly number[], hazards: Float64Array | undefined) {
  const chance = new Float64Array(counts.length + 1);
  const shapes = new Float64Array(counts.length + 1).fill(PRIOR.shape);
  chance[0] = 1;
  counts.forEach((count, today) => {
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
    const hazard = hazards?.[today + 1] ?? HAZARD;
    for (let began = 0; began <= today; began++) chance[began]! *= (1 - hazard) / all;
    chance[today + 1] = hazard;
  });
  return { chance, shapes };
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
