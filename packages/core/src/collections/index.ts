export { descendantsOf, wouldCycle, type Edge } from './nesting.js';
export { crowded, spread } from './ownOrder.js';
export { orderMembers, type MemberLike } from './memberOrder.js';
export { menuShape, MENU_COLUMNS, type MenuShape } from './menuShape.js';
export { renamedBy, type RenamePattern, type RenameSource } from './renaming.js';
