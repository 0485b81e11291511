/** Dragging within the page. A label at the pointer says what the drop will do before it is done. */
import { useEffect, useEffectEvent, useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { useStateFor } from '../parts/useStateFor';
import {
  DndContext,
  DragOverlay,
  pointerWithin,
  PointerSensor,
  useSensor,
  useSensors,
  type Active,
  type Announcements,
  type CollisionDetection,
  type DragEndEvent,
  type DragMoveEvent,
  type DragOverEvent,
  type DragStartEvent,
  type Modifier,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import type { OriginalRef, PinView } from '@rellin/contract';
import { useQueryClient } from '@tanstack/react-query';
import { entriesRead } from '../api/entriesRead';
import { usePins, useSettings, useShortcuts } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { useGather } from '../acts/useGather';
import { useFiling } from '../filing/useFiling';
import { useSelection, useWorkspaceActions, type Gathered } from '../workspace/workspace';
import {
  dropAct,
  draggedName,
  itemId,
  dropHint,
  dropLabel,
  type DropAct,
  type Dragged,
  type DropTarget,
  type Hover,
} from '../workspace/dropAct';
import { DropSlotContext } from '../workspace/dropSlot';
import { spotUnder } from '../workspace/spotUnder';
import { LikelyTargets } from './LikelyTargets';

/** How long the pointer rests before *on* counts, and before a collection on the strip opens under it. */
const REST_MS = 350;
const OPEN_MS = 750;

/** What may lie within something else that takes drops. */
const INNERMOST: readonly string[] = ['into', 'before', 'beside', 'bundle'];

/** The innermost thing under the pointer; on the strip itself the pin nearest to it. */
const collide: CollisionDetection = (args) => {
  const within = pointerWithin(args);
  const pointer = args.pointerCoordinates;
  if (within.length === 0 || !pointer) return [];
  const kindOf = (id: UniqueIdentifier) =>
    (args.droppableContainers.find((c) => c.id === id)?.data.current as DropTarget | undefined)?.kind;
  for (const kinds of [INNERMOST, ['region']]) {
    const inner = within.filter(({ id }) => kinds.includes(kindOf(id) ?? ''));
    if (inner.length > 0) return inner;
  }
  const distance = (id: UniqueIdentifier) => {
    const rect = args.droppableRects.get(id);
    return rect ? Math.abs(rect.left + rect.width / 2 - pointer.x) : Infinity;
  };
  const pins = args.droppableContainers
    .filter((c) => (c.data.current as DropTarget | undefined)?.kind === 'pin')
    .map((c) => ({ id: c.id, data: { droppableContainer: c, value: distance(c.id) } }))
    .sort((a, b) => a.data.value - b.data.value);
  return pins.length > 0 ? pins : within;
};

/** The label stands beside the pointer, so that it never covers what it is about. */
const BESIDE_POINTER: Modifier[] = [
  ({ activatorEvent, draggingNodeRect, transform }) => {
    if (!draggingNodeRect || !(activatorEvent instanceof PointerEvent)) return transform;
    return {
      ...transform,
      x: transform.x + activatorEvent.clientX - draggingNodeRect.left + 16,
      y: transform.y + activatorEvent.clientY - draggingNodeRect.top + 18,
    };
  },
];

const HOW_TO_DRAG = {
  draggable: 'Every move by dragging has an act as well: the menu key lists what can be done with it.',
};
const nameOfDragged = (active: Active) => {
  const dragged = active.data.current as Dragged | undefined;
  return dragged?.kind === undefined ? 'it' : `“${draggedName(dragged)}”`;
};
/** What a screen reader is told; the label at the pointer says the rest. */
const announcements: Announcements = {
  onDragStart: ({ active }) => `Picked up ${nameOfDragged(active)}.`,
  onDragOver: () => undefined,
  onDragEnd: ({ active }) => `Dropped ${nameOfDragged(active)}.`,
  onDragCancel: ({ active }) => `Put ${nameOfDragged(active)} back.`,
};

/** Where the pointer stands over the target: which slot a drop means, and whether it is on the middle. */
function standing(
  event: DragMoveEvent | DragOverEvent | DragEndEvent,
  pins: readonly PinView[],
): Omit<Hover, 'rested'> {
  const { over, active, activatorEvent, delta } = event;
  const target = over?.data.current as DropTarget | undefined;
  if (!over || target?.kind !== 'pin')
    return { slot: pins.length + 1, middle: true, ...(target?.kind === 'region' && { at: spotUnder(event) }) };
  const x = (activatorEvent as PointerEvent).clientX + delta.x;
  const part = (x - over.rect.left) / over.rect.width;
  const own = (active.data.current as Dragged | undefined)?.kind === 'pin';
  return { slot: own ? target.pin.slot : target.pin.slot + (part > 0.5 ? 1 : 0), middle: part > 0.25 && part < 0.75 };
}

const NO_REFS: readonly OriginalRef[] = [];
/** More are not asked about: they are of many sorts, and belong nowhere together. */
const MOST_ASKED = 50;

const refsOf = ({ originals = [] }: Gathered): readonly OriginalRef[] =>
  originals.length > MOST_ASKED ? NO_REFS : originals.map(({ placeId, originalId }) => ({ placeId, originalId }));

export function DragLayer({ children }: { children: ReactNode }) {
  const pins = usePins().data ?? [];
  const shortcuts = useShortcuts().data;
  const limit = useSettings().data?.pinLimit ?? 9;
  const d = useCommands();
  const gather = useGather();
  const filing = useFiling();
  const [copy, setCopy] = useState(false);
  const [exact, setExact] = useState(false);
  const { chosen } = useSelection();
  const client = useQueryClient();
  const { openPin } = useWorkspaceActions();
  const [dragged, setDragged] = useState<Dragged>();
  const [target, setTarget] = useState<DropTarget>();
  const [isLasting, setLasting] = useState(false);
  const [overId, setOverId] = useState<UniqueIdentifier>();
  const [stand, setStand] = useState<Omit<Hover, 'rested'>>({ slot: 0, middle: false });
  // a move within the same target does not begin the rest anew
  const [rested, setRested] = useStateFor(`${stand.middle} ${overId}`, false);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const latest = useRef<DropAct | undefined>(undefined);

  const openTarget = useEffectEvent(() => {
    const pin = target?.kind === 'pin' && target.pin.target !== 'shortcut' ? target.pin : undefined;
    if (pin && stand.middle) openPin(pin.id);
    else if (target?.kind === 'into' || target?.kind === 'before') target.open?.();
  });
  useEffect(() => {
    if (overId === undefined) return;
    const rest = setTimeout(() => setRested(true), REST_MS);
    const open = setTimeout(openTarget, OPEN_MS);
    return () => {
      clearTimeout(rest);
      clearTimeout(open);
    };
  }, [overId, stand.middle, setRested]);

  useEffect(() => {
    if (!dragged) return;
    const onKey = (event: KeyboardEvent) => {
      setCopy(event.ctrlKey);
      setExact(event.altKey);
    };
    for (const type of ['keydown', 'keyup'] as const) window.addEventListener(type, onKey);
    return () => {
      for (const type of ['keydown', 'keyup'] as const) window.removeEventListener(type, onKey);
      setCopy(false);
      setExact(false);
    };
  }, [dragged]);

  // what is dropped at once needs no help
  useEffect(() => {
    if (!dragged) return;
    const lasting = setTimeout(() => setLasting(true), REST_MS);
    return () => {
      clearTimeout(lasting);
      setLasting(false);
    };
  }, [dragged]);

  const many =
    dragged?.kind === 'item' && /^(shortcut|original)$/.test(dragged.item.type) && chosen.includes(itemId(dragged.item))
      ? chosen.length
      : 1;
  const act = dragged ? dropAct(dragged, target, { ...stand, rested }, { pins, limit, copy, exact }) : undefined;
  // what the label says is what a drop does, from the moment the label says it
  useLayoutEffect(() => {
    latest.current = act;
  });

  const gathered = (): Gathered => {
    if (!dragged || dragged.kind === 'bundle') return { shortcuts: [] };
    if (dragged.kind === 'pin') {
      const { target: type, targetId: id, name } = dragged.pin;
      if (type === 'collection') return { shortcuts: [], collections: [{ id, name }] };
      if (type === 'search') return { shortcuts: [], searches: [{ id, name }] };
      return { shortcuts: [{ id, name }] };
    }
    const { item } = dragged;
    switch (item.type) {
      case 'shortcut':
        return {
          // the one that is held first: what lies beside it keeps how it lies to it
          shortcuts: [
            item.shortcut,
            ...(many > 1 ? (shortcuts ?? []) : []).filter((s) => s.id !== item.shortcut.id && chosen.includes(s.id)),
          ],
        };
      case 'original':
        return {
          shortcuts: [],
          originals: [
            item.entry,
            ...((many > 1 && entriesRead(client, chosen)) || []).filter((e) => e.id !== item.entry.id),
          ].map((e) => ({ placeId: e.placeId, originalId: e.id, name: e.name })),
        };
      case 'program':
        return { shortcuts: [], programs: [{ programId: item.program.id, name: item.program.name }] };
      case 'collection':
        return { shortcuts: [], collections: [item.collection] };
      case 'search':
        return { shortcuts: [], searches: [item.search] };
      case 'tag':
        return { shortcuts: [] };
    }
  };

  const pinDragged = (slot: number) => {
    if (dragged?.kind !== 'item') return;
    const { item } = dragged;
    switch (item.type) {
      case 'shortcut':
        return void d.pin('shortcut', item.shortcut.id, item.shortcut.name, slot);
      case 'collection':
        return void d.pin('collection', item.collection.id, item.collection.name, slot);
      case 'tag':
        return void d.pin('tag', item.tag.id, item.tag.name, slot);
      case 'search':
        return void d.pin('search', item.search.id, item.search.name, slot);
      case 'original':
        return void d.addShortcut({
          placeId: item.entry.placeId,
          originalId: item.entry.id,
          pin: true,
          slot,
        });
      case 'program':
        return void d.addShortcut({ programId: item.program.id, pin: true, slot });
    }
  };

  const carryOut = (what: DropAct) => {
    switch (what.act) {
      case 'none':
        return;
      case 'move-pin':
        return void d.movePin(what.pin, what.slot);
      case 'unpin':
        return void d.unpin(what.pin.id, what.pin.name);
      case 'pin':
        return pinDragged(what.slot);
      case 'add-to':
        return void gather.addTo(what.collection, gathered(), what.before?.id);
      case 'move-member':
        return void gather.move(what.collection, [what.memberId], what.before.id);
      case 'lay': {
        const { region, at, exact, before, bundle } = what.where;
        const where = {
          ...(region && { regionId: region.id }),
          ...at,
          ...(exact && { exact }),
          ...(before && { before: before.id }),
          ...(bundle && { bundleId: bundle.id }),
        };
        const [held, things] = [dragged?.kind === 'bundle' ? dragged.bundle : undefined, gathered()];
        return void import('../acts/useBoardActs').then(({ boardActs }) => {
          const acts = boardActs(d);
          return held ? acts.changeBundle(what.board, held, where) : acts.put(what.board, things, where, what.moving);
        });
      }
      case 'file': {
        const { originals } = gathered();
        return void filing.file({ originals, into: what.into, how: what.how });
      }
      case 'open-with': {
        const { shortcutId, programId } = what.program;
        const files = gathered().originals?.map(({ placeId, originalId }) => ({ placeId, originalId }));
        return void d.open({ shortcutId, programId, files, route: 'drop' });
      }
      case 'tag':
        return void gather.putTag({ ...what.tag, colour: '', count: 0, pinned: false }, gathered());
    }
  };

  const hover = (event: DragMoveEvent | DragOverEvent) => {
    setTarget(event.over?.data.current as DropTarget | undefined);
    setOverId(event.over?.id);
    setStand(standing(event, pins));
  };
  const clear = () => {
    setDragged(undefined);
    setTarget(undefined);
    setOverId(undefined);
  };

  return (
    <DndContext
      sensors={sensors}
      collisionDetection={collide}
      accessibility={{ announcements, screenReaderInstructions: HOW_TO_DRAG }}
      onDragStart={(event: DragStartEvent) => setDragged(event.active.data.current as Dragged)}
      onDragMove={hover}
      // the move that enters a target still tells of what was under the pointer before it
      onDragOver={hover}
      onDragCancel={clear}
      onDragEnd={() => {
        const what = latest.current;
        clear();
        // a menu that opened below what was held has served
        openPin(undefined);
        if (what) carryOut(what);
      }}
    >
      {isLasting && dragged?.kind === 'item' && dragged.item.type === 'original' && (
        <LikelyTargets originals={refsOf(gathered())} />
      )}
      <DropSlotContext value={act?.act === 'pin' ? act.slot : undefined}>{children}</DropSlotContext>
      <DragOverlay dropAnimation={null} modifiers={BESIDE_POINTER} style={{ width: 'auto', zIndex: 1400 }}>
        {dragged && (
          <div className="drag-label" role="status">
            <b>{act ? dropLabel(dragged, act, many) : many > 1 ? `${many} things` : draggedName(dragged)}</b>
            <span>{dropHint(act)}</span>
          </div>
        )}
      </DragOverlay>
    </DndContext>
  );
}
