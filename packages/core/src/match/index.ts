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
export {
  FIELD_WEIGHT,
  Finder,
  nameRanges,
  queryWords,
  readTyped,
  usageFactor,
  type FindAnswer,
  type FindItem,
  type Ranked,
  type Typed,
} from './finder.js';
export { Fewest, type FewestCharacters } from './fewest.js';
