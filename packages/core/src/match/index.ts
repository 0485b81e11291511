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
export { FIELD_WEIGHT, Finder, nameRanges, queryWords, usageFactor, type FindAnswer, type FindItem } from './finder.js';
export { fewestCharacters, type FewestCharacters } from './fragments.js';
