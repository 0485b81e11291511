/** Where on a region of a board the pointer stands, as the upper left corner of a cell held by its middle. */
import type { DragEndEvent, DragMoveEvent, DragOverEvent } from '@dnd-kit/core';
import { CELL } from '@rellin/core/board';

export function spotUnder({ over, activatorEvent, delta }: DragMoveEvent | DragOverEvent | DragEndEvent) {
  if (!over) return undefined;
  const { clientX, clientY } = activatorEvent as PointerEvent;
  return {
    x: Math.max(0, (clientX + delta.x - over.rect.left) / CELL.width - 0.5),
    y: Math.max(0, (clientY + delta.y - over.rect.top) / CELL.height - 0.5),
  };
}
