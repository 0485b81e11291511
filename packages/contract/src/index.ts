/**
 * What crosses the wire between server, page, command and tests: types, and the list of endpoints that they speak by.
 */
export type * from './ids.js';
export type * from './places.js';
export type * from './originals.js';
export type * from './reach.js';
export type * from './shortcuts.js';
export type * from './acts.js';
export type * from './boards.js';
export type * from './collections.js';
export type * from './tags.js';
export type * from './filing.js';
export type * from './deleted.js';
export type * from './belongs.js';
export type * from './sweeps.js';
export type * from './searches.js';
export type * from './checkUp.js';
export type * from './aliases.js';
export type * from './plan.js';
export type * from './setUp.js';
export type * from './example.js';
export type * from './choose.js';
export type * from './endpoints.js';
export { withQuery } from './withQuery.js';
export { CHANGED_HEADER, PAGE_HEADER } from './acts.js';
