/** Dragging within the page: rows onto the strip, pins along it. A label at the pointer says what the drop will do. */
import { useState, type ReactNode } from 'react';
import {
  DndContext,
  DragOverlay,
  pointerWithin,
  PointerSensor,
  useSensor,
  useSensors,
  type CollisionDetection,
  type DragEndEvent,
  type DragMoveEvent,
  type DragOverEvent,
  type DragStartEvent,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import type { PinView } from '@rellin/contract';
import { usePins, useSettings } from '../api/queries';
import { useDo } from '../acts/useDo';
import type { Item } from './desk';

type Dragged = { kind: 'pin'; pin: PinView } | { kind: 'item'; item: Item };

const nameOf = (dragged: Dragged): string => {
  if (dragged.kind === 'pin') return dragged.pin.name;
  const { item } = dragged;
  return item.type === 'shortcut' ? item.shortcut.name : item.type === 'original' ? item.entry.name : item.program.name;
};

/** The pointer decides whether it is on the strip; there the pin nearest to it counts, not the dragged label's middle. */
const collide: CollisionDetection = (args) => {
  const within = pointerWithin(args);
  const pointer = args.pointerCoordinates;
  if (within.length === 0 || !pointer) return [];
  const distance = (id: UniqueIdentifier) => {
    const rect = args.droppableRects.get(id);
    return rect ? Math.abs(rect.left + rect.width / 2 - pointer.x) : Infinity;
  };
  const pins = args.droppableContainers
    .filter((c) => (c.data.current as Dragged | undefined)?.kind === 'pin')
    .map((c) => ({ id: c.id, data: { droppableContainer: c, value: distance(c.id) } }))
    .sort((a, b) => a.data.value - b.data.value);
  return pins.length > 0 ? pins : within;
};

/** The slot (from 1) that a drop here means: before the pin under the pointer, or after it past its middle. */
function slotAt(event: DragMoveEvent | DragOverEvent | DragEndEvent, pins: readonly PinView[]): number | undefined {
  const { over, active, activatorEvent, delta } = event;
  if (!over) return undefined;
  const overPin = over.data.current as Dragged | undefined;
  if (overPin?.kind !== 'pin') return pins.length + 1;
  const own = (active.data.current as Dragged | undefined)?.kind === 'pin';
  if (own) return overPin.pin.slot;
  const x = (activatorEvent as PointerEvent).clientX + delta.x;
  return overPin.pin.slot + (x > over.rect.left + over.rect.width / 2 ? 1 : 0);
}

export function DragLayer({ children }: { children: ReactNode }) {
  const pins = usePins().data ?? [];
  const limit = useSettings().data?.pinLimit ?? 9;
  const d = useDo();
  const [dragged, setDragged] = useState<Dragged>();
  const [slot, setSlot] = useState<number>();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));

  const already = dragged?.kind === 'item' && dragged.item.type === 'shortcut' ? dragged.item.shortcut.pinSlot : null;
  const full = dragged?.kind === 'item' && already === null && pins.length >= limit;
  const label = (): string => {
    if (!dragged || slot === undefined) return '';
    const name = `“${nameOf(dragged)}”`;
    if (dragged.kind === 'pin') return `Move the pin ${name} to ${slot}`;
    if (already !== null) return `${name} is pinned already, as ${already}`;
    if (full) return `The strip is full (${limit})`;
    return dragged.item.type === 'shortcut'
      ? `Pin ${name} as ${slot}`
      : `Add a shortcut to ${name} and pin it as ${slot}`;
  };

  const end = (event: DragEndEvent) => {
    const at = slotAt(event, pins);
    const what = dragged;
    setDragged(undefined);
    setSlot(undefined);
    if (!what || at === undefined) return;
    if (what.kind === 'pin') {
      if (at !== what.pin.slot) void d.movePin(what.pin, at);
      return;
    }
    if (full || already !== null) return;
    const { item } = what;
    if (item.type === 'shortcut') void d.pin(item.shortcut.id, item.shortcut.name, at);
    else if (item.type === 'original')
      void d.addShortcut({ placeId: item.entry.placeId, originalId: Number(item.entry.id), pin: true, slot: at });
    else void d.addShortcut({ programId: item.program.id, pin: true, slot: at });
  };

  return (
    <DndContext
      sensors={sensors}
      collisionDetection={collide}
      onDragStart={(event: DragStartEvent) => setDragged(event.active.data.current as Dragged)}
      onDragMove={(event) => setSlot(slotAt(event, pins))}
      // the move that enters the strip still tells of what was under the pointer before it
      onDragOver={(event) => setSlot(slotAt(event, pins))}
      onDragCancel={() => {
        setDragged(undefined);
        setSlot(undefined);
      }}
      onDragEnd={end}
    >
      {children}
      <DragOverlay dropAnimation={null} style={{ width: 'auto', zIndex: 1400 }}>
        {dragged && (
          <div className="drag-label" role="status">
            <b>{label() || nameOf(dragged)}</b>
            <span>{slot === undefined ? 'The original stays where it is' : 'undo afterwards'}</span>
          </div>
        )}
      </DragOverlay>
    </DndContext>
  );
}
