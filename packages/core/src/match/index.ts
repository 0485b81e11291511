export { fold, foldWithMap } from './fold.js';
export { matchWord, withinOneSlip, wordStarts, type WordMatch } from './wordMatch.js';
export { Finder, queryWords, usageFactor, type FindAnswer, type FindItem } from './finder.js';
export { fewestCharacters, type FewestCharacters } from './fragments.js';
