import { useDraggable } from '@dnd-kit/core';
import type { Item, Within } from '../workspace/workspace';

/** The name cell of a row as a handle: dragging it carries the item. */
export function DragHandle({
  id,
  item,
  within,
  children,
}: {
  id: string;
  item: Item;
  within?: Within;
  children: React.ReactNode;
}) {
  const { setNodeRef, listeners } = useDraggable({ id, data: { kind: 'item', item, within } });
  return (
    <span ref={setNodeRef} {...listeners} className="drag-handle">
      {children}
    </span>
  );
}
