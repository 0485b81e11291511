export {
  HALF_LIFE_DAYS,
  NO_WEIGHT,
  openingsPerWeek,
  weeklyCounts,
  weightAt,
  WEEK,
  withOpening,
  type Weight,
} from './weight.js';
export {
  fitLikely,
  LikelyNext,
  likelyNext,
  partOfWeek,
  PARTS,
  SITTING_MS,
  USUAL_MIXTURE,
  type Likely,
  type LikelyFit,
  type LikelyReason,
  type Mixture,
  type Opened,
} from './likely.js';
export { PARTS_OF_DAY, weeksOfUse, type OpeningSaved, type WeekOfUse } from './weeks.js';
export { dailyCounts, RATE_DAYS, ratesNow } from './rate.js';
