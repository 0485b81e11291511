export { fold, foldWithMap } from './fold.js';
export {
  fuzzyMatch,
  isLetter,
  LEAST_RUN,
  matchWord,
  orderWeight,
  RUN_BONUS,
  runQuality,
  SLIP_FROM,
  slipWeight,
  withinOneSlip,
  wordStarts,
  type WordMatch,
} from './wordMatch.js';
export { FIELD_WEIGHT, queryWords, readTyped, usageFactor, type FindItem, type Typed } from './entries.js';
export { Finder, nameRanges, type FindAnswer, type Ranked } from './finder.js';
export { ShortestQueries, type ShortestQuery } from './shortestQuery.js';
