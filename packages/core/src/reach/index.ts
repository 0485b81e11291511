export { REACH_CONSTANTS, REACH_SOURCES, REACH_WORDS, type ReachConstants } from './constants.js';
export { indexOfDifficulty, pointing, choiceBits, choosing, totalSeconds, type Operator } from './operators.js';
export {
  byPinKey,
  byPinClick,
  byFindLine,
  byWalk,
  bestRoute,
  layStrip,
  FRAME,
  type Route,
  type RouteKind,
  type StripLabel,
} from './routes.js';
