export { boundOf, costOfPins, planPins, type PinCandidate, type PinPlan, type PinRules } from './pins.js';
export { assignKeys, mnemonicFit, type FreeKey, type KeyCandidate, type KeyChoice } from './keys.js';
export { bestGrouping, flatSeconds, groupedSeconds, menuSeconds, type Grouping, type MenuItem } from './splits.js';
export {
  DEAD_BAND,
  suggest,
  type OriginalWithoutShortcut,
  type Plan,
  type PlanInput,
  type PlanItem,
  type PlanMenu,
  type Suggestion,
  type SuggestionKind,
} from './suggest.js';
