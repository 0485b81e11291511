/** Where what lies on a board comes to be on screen, at the test width of 1280 pixels. */
import { CELL } from './cellSize.js';
import type { Lying, Spot } from './cells.js';
import { regionRows, type RegionOrder } from './region.js';

/**
 * The board's upper left cell, the space between two regions' cells, the link to the view, the first board's tab;
 * pixels.
 */
const SCREEN = { left: 336, top: 160, between: 24, link: { x: 88, y: 290 }, tab: { x: 330, y: 126 } } as const;

/** Pixels from where the pointer was last (the link to the view, or the board's tab) to the middle of a label. */
export function pointerWay(
  regions: readonly { order: RegionOrder; lying: readonly Lying[] }[],
  isFirst: boolean,
): Map<string, number> {
  const from: Spot = isFirst ? SCREEN.link : SCREEN.tab;
  const ways = new Map<string, number>();
  let top: number = SCREEN.top;
  for (const { order, lying } of regions) {
    for (const { id, x, y } of lying) {
      const middle = { x: SCREEN.left + (x + 0.5) * CELL.width, y: top + (y + 0.5) * CELL.height };
      ways.set(id, Math.hypot(middle.x - from.x, middle.y - from.y));
    }
    top += regionRows(lying, order) * CELL.height + SCREEN.between;
  }
  return ways;
}
