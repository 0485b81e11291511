/** Saved searches: the language, its tree, and what can be made of it. */
export {
  EVERYTHING,
  IS_WORDS,
  NAMED_TIMES,
  asksContent,
  conditionsOf,
  countConditions,
  textsOf,
  simplified,
  type Condition,
  type IsWord,
  type NamedTime,
  type QueryNode,
  type TimeField,
  type TimeOp,
  type TimeWord,
} from './tree.js';
export {
  parseQuery,
  nearest,
  FIELDS,
  DEEPEST,
  LONGEST,
  MOST_CONDITIONS,
  type Field,
  type ParseResult,
  type QueryError,
} from './parse.js';
export { formatQuery } from './format.js';
export { compileQuery, type QueryContext, type QueryRecord, type QueryTest } from './evaluate.js';
export { snippetOf } from './snippet.js';
export { rowsOf, treeOf, type Group, type GroupOf, type QueryRow } from './rows.js';
export { boundsOf, spanOf, SYSTEM_ZONE, type Span, type Zone } from './times.js';
export { parseSize, parseTime, writeSize, writeTime } from './values.js';
export { globBytesTest, globNeedles, globRegex, globTest, isGlob, parseGlob } from './glob.js';
