/** The index in memory: all originals in columns, what find and saved searches ask, and what a change means to them. */
export { Bits } from './bits.js';
export { PlaceIndex, type IndexRow } from './placeIndex.js';
export { rankNames, type RankedRow } from './rankNames.js';
export { askColumns, recordOf, NO_FACTS, type AskContext, type PlaceFacts } from './askColumns.js';
export { firstAnswers, ANSWER_ORDERS, type Answer, type AnswerOrder, type AnswerPart } from './order.js';
export { toByteText } from './utf8.js';
export { LiveSearches, needsOf, type SearchedPlace, type LiveSearch, type Moved, type Needs } from './liveSearches.js';
export { countRows, type RowCount } from './rowCounts.js';
