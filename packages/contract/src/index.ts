/** The types that cross the wire between server, page and command. Types only. */
export type * from './places.js';
export type * from './originals.js';
export type * from './reach.js';
export type * from './shortcuts.js';
export type * from './acts.js';
export type * from './boards.js';
export type * from './collections.js';
export type * from './tags.js';
export type * from './filing.js';
export type * from './searches.js';
export type * from './checkUp.js';
export type * from './aliases.js';
export type * from './plan.js';
