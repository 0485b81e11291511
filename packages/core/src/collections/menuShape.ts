/** How a collection opens as a menu: a list of lines, or a grid of small labels where there are many. */

export type MenuShape = 'list' | 'grid';

/** Columns of a grid menu. */
export const MENU_COLUMNS = 3;

/** Beyond this many lines a list no longer fits the test size (800 px high, 36 px a line) without scrolling. */
const LIST_MOST = 16;

/** The person's choice, or by the number of members. */
export function menuShape(chosen: MenuShape | 'auto', count: number): MenuShape {
  return chosen === 'auto' ? (count > LIST_MOST ? 'grid' : 'list') : chosen;
}
