/** The pin strip: one labelled tab a pin, its key before it; reordered by drag or by Alt and the arrows. */
import { useRef } from 'react';
import { useDroppable } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { PinView } from '@rellin/contract';
import { usePins, useSettings, useShortcuts } from '../api/queries';
import { useDo } from '../acts/useDo';
import { useDesk } from '../frame/desk';
import { KeyCap } from '../parts/KeyCap';
import { Tether } from '../parts/Tether';
import './PinStrip.css';

/** Up to this many pins the strip shows each tether; beyond it those that are ready give their room to the names. */
const ROOMY = 7;

function Pin({ pin, count }: { pin: PinView; count: number }) {
  const d = useDo();
  const { select, openMenu } = useDesk();
  const shortcuts = useShortcuts();
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({
    id: pin.id,
    data: { kind: 'pin', pin },
  });
  const move = (slot: number) => void d.movePin(pin, Math.max(1, Math.min(count, slot)));
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={isDragging ? 'dragged' : ''}
    >
      <button
        type="button"
        {...listeners}
        className={`pin ${pin.state}`}
        data-pin={pin.slot}
        aria-keyshortcuts={pin.key ?? undefined}
        title={`${pin.name}${pin.key ? ` · key ${pin.key}` : ''} · Alt and the arrows move it`}
        onClick={() => void d.open({ shortcutId: pin.shortcutId, route: 'pin-click' })}
        onFocus={() => select({ type: 'shortcut', id: pin.shortcutId })}
        onContextMenu={(event) => {
          const shortcut = shortcuts.data?.find((s) => s.id === pin.shortcutId);
          if (!shortcut) return;
          event.preventDefault();
          openMenu({ type: 'shortcut', shortcut }, { x: event.clientX, y: event.clientY });
        }}
        onKeyDown={(event) => {
          if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) {
            event.preventDefault();
            move(pin.slot + (event.key === 'ArrowLeft' ? -1 : 1));
          } else if (event.key === 'Delete') {
            event.preventDefault();
            void d.unpin(pin.id, pin.name);
          }
        }}
      >
        {pin.key && <KeyCap>{pin.key}</KeyCap>}
        <Tether state={pin.state} />
        <span className="cut">{pin.name}</span>
      </button>
    </li>
  );
}

export function PinStrip() {
  const pins = usePins();
  const limit = useSettings().data?.pinLimit ?? 9;
  const { openDialog } = useDesk();
  const { setNodeRef, isOver } = useDroppable({ id: 'strip', data: { kind: 'strip' } });
  const list = pins.data ?? [];
  const bar = useRef<HTMLElement | null>(null);
  return (
    <nav
      aria-label="Pin strip"
      className={`pin-strip${isOver ? ' over' : ''}${list.length > ROOMY ? ' crowded' : ''}`}
      ref={(node) => {
        bar.current = node;
        setNodeRef(node);
      }}
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes('text/uri-list')) event.preventDefault();
      }}
      onDrop={(event) => {
        // an address dragged in from elsewhere
        const typed = event.dataTransfer
          .getData('text/uri-list')
          .split(/\r?\n/)
          .find((line) => line && !line.startsWith('#'));
        if (!typed) return;
        event.preventDefault();
        openDialog({ kind: 'add', typed, slot: list.length + 1 });
      }}
    >
      <SortableContext items={list.map((p) => p.id)} strategy={horizontalListSortingStrategy}>
        <ol>
          {list.map((pin) => (
            <Pin key={pin.id} pin={pin} count={list.length} />
          ))}
        </ol>
      </SortableContext>
      {pins.isSuccess && list.length === 0 && (
        <span className="small strip-hint">Drag a row up here, or press P on one: it is then one key away.</span>
      )}
      {list.length > 0 && list.length < limit && <span className="hidden-text">{limit - list.length} free</span>}
    </nav>
  );
}
