/** One band of a board: its name and order on the left, what lies in it on the right. */
import { useState } from 'react';
import { Link } from 'react-router';
import { useDndMonitor, useDraggable, useDroppable } from '@dnd-kit/core';
import { BUNDLE_SHOWN, CELL, REGION_ORDERS, snap, type RegionOrder, type Spot } from '@rellin/core/board';
import type { BoardView, RegionView } from '@rellin/contract';
import type { Act } from '../acts/acts';
import { MoreButton } from '../acts/MoreButton';
import type { DropTarget } from '../workspace/dropAct';
import { spotUnder } from '../workspace/spotUnder';
import { folderOf } from '../filing/folderOf';
import { useOutsideDrop } from '../filing/useFiling';
import { useWorkspaceActions, type Item } from '../workspace/workspace';
import { ChosenPicture } from '../parts/Picture';
import { hint } from '../parts/hint';
import { KeyCap } from '../parts/KeyCap';
import { Tether } from '../parts/Tether';
import { BUNDLE_LINE, type LaidRegion, type BoardSlot } from './layoutBoard';
import type { BoardHandlers } from './boardHandlers';
import { useBoardActs } from '../acts/useBoardActs';

const ORDER_WORDS: Record<RegionOrder, string> = {
  free: 'free',
  own: 'own order',
  name: 'always sorted by name',
  kind: 'always sorted by kind',
  size: 'always sorted by size',
  modified: 'always sorted by change',
  opened: 'always sorted by opening',
};
const BY: Record<Exclude<RegionOrder, 'free'>, string> = {
  own: 'own order',
  name: 'name',
  kind: 'kind',
  size: 'size',
  modified: 'change',
  opened: 'opening',
};

/** So many letters fit below a name. */
const TRAIL_FITS = 22;
/** The last two folders of where it is, or the last alone. */
function shortTrail(trail: readonly string[]): string {
  const two = trail.slice(-2).join(' › ');
  return two.length <= TRAIL_FITS ? two : (trail.at(-1) ?? '');
}

const place = ({ x, y }: Spot) => ({ left: x * CELL.width, top: y * CELL.height });

interface SlotProps {
  slot: BoardSlot;
  on: BoardHandlers;
  board: BoardView;
}

const events = ({ slot, on }: SlotProps) => ({
  'data-slot': slot.id,
  role: 'option',
  tabIndex: slot.id === on.tabbable ? 0 : -1,
  onFocus: () => on.focus(slot),
  onClick: (event: React.MouseEvent) => {
    event.stopPropagation();
    on.pick(slot, { ctrl: event.ctrlKey || event.metaKey });
  },
  onDoubleClick: (event: React.MouseEvent) => {
    event.stopPropagation();
    on.open(slot);
  },
  onContextMenu: (event: React.MouseEvent) => {
    event.preventDefault();
    event.stopPropagation();
    on.menu(slot, { x: event.clientX, y: event.clientY });
  },
});

function Laid(props: SlotProps & { own: boolean }) {
  const { slot, on, board, own } = props;
  const { shortcut: s, item } = slot.item!;
  const what: Item = { type: 'shortcut', shortcut: s };
  const drag = useDraggable({
    id: `laid-${item.id}`,
    data: { kind: 'item', item: what, within: { board, itemId: item.id } },
  });
  // a folder takes files from outside the page
  const outside = useOutsideDrop(folderOf(what));
  const target: DropTarget = { kind: 'beside', board, region: slot.region.region, itemId: item.id, name: s.name };
  const drop = useDroppable({ id: `beside-${item.id}`, data: target, disabled: !own });
  const isChosen = on.isChosen(s.id);
  return (
    <div
      ref={(node) => {
        drag.setNodeRef(node);
        drop.setNodeRef(node);
      }}
      {...drag.listeners}
      {...outside}
      {...events(props)}
      aria-selected={isChosen}
      className={`laid${isChosen ? ' selected' : ''}${drop.isOver ? ' before' : ''}`}
      style={place({ x: slot.x, y: slot.y - slot.region.top })}
      title={s.description === '' ? s.name : undefined}
      {...hint(s.description)}
    >
      <Tether state={s.state} />
      <ChosenPicture of={s} />
      <span className="laid-text">
        <span className="name cut">{s.name}</span>
        <span className="small cut">
          {s.pinSlot !== null && <KeyCap>{s.pinSlot}</KeyCap>}
          {s.target === 'original' ? shortTrail(s.trail) : s.target === 'web' ? 'web address' : 'program'}
        </span>
      </span>
    </div>
  );
}

function BundleHead(props: SlotProps & { slots: readonly BoardSlot[] }) {
  const { slot, on, board, slots } = props;
  const { bundle, members, height, spot } = slot.bundle!;
  const { setNodeRef, listeners } = useDraggable({
    id: `bundle-${bundle.id}`,
    data: { kind: 'bundle', board, bundle },
  });
  const target: DropTarget = { kind: 'bundle', board, bundle };
  const { setNodeRef: setDropRef, isOver } = useDroppable({ id: `into-${bundle.id}`, data: target });
  const rest = members.length - BUNDLE_SHOWN;
  return (
    <div
      ref={setDropRef}
      role="presentation"
      className={`bundle${isOver ? ' over' : ''}`}
      style={{ ...place(spot), height: height * CELL.height - 8 }}
    >
      <div ref={setNodeRef} {...listeners} {...events(props)} aria-selected={false} className="bundle-head">
        <span className="name cut">{bundle.name}</span>
        <span className="small">bundle of {members.length}</span>
      </div>
      {slots.map((s) => (
        <BundleLine key={s.id} slot={s} on={on} board={board} />
      ))}
      {rest > 0 && (
        <span className="small bundle-rest" aria-hidden onClick={() => on.open(slot)}>
          and {rest} more
        </span>
      )}
    </div>
  );
}

function BundleLine(props: SlotProps) {
  const { slot, on, board } = props;
  const { shortcut: s, item } = slot.item!;
  const { setNodeRef, listeners } = useDraggable({
    id: `laid-${item.id}`,
    data: { kind: 'item', item: { type: 'shortcut', shortcut: s }, within: { board, itemId: item.id } },
  });
  const isChosen = on.isChosen(s.id);
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      {...events(props)}
      aria-selected={isChosen}
      className={`bundle-line${isChosen ? ' selected' : ''}`}
      style={{ height: BUNDLE_LINE * CELL.height }}
      title={s.description === '' ? s.name : undefined}
      {...hint(s.description)}
    >
      <Tether state={s.state} />
      <span className="cut">{s.name}</span>
    </div>
  );
}

/** Where a drop would come to lie, while something is held over the region. */
function Ghost({ laid, board, dropId }: { laid: LaidRegion; board: BoardView; dropId: string }) {
  const [spot, setSpot] = useState<Spot>();
  useDndMonitor({
    onDragMove: (event) => {
      const at = event.over?.id === dropId ? spotUnder(event) : undefined;
      if (!at) return setSpot(undefined);
      const dragged = String(event.active.id).replace(/^(laid|bundle)-/, '');
      const others = [
        ...laid.items.flatMap((i) => (i.item.id === dragged ? [] : [{ id: i.item.id, ...i.spot, height: 1 }])),
        ...laid.bundles.flatMap((b) =>
          b.bundle.id === dragged ? [] : [{ id: b.bundle.id, ...b.spot, height: b.height }],
        ),
      ];
      const { height } = laid.bundles.find((b) => b.bundle.id === dragged) ?? { height: 1 };
      setSpot(snap([{ id: 'dragged', ...at, height }], board.columns, others).get('dragged'));
    },
    onDragEnd: () => setSpot(undefined),
    onDragCancel: () => setSpot(undefined),
  });
  return spot ? <div className="board-ghost" style={place(spot)} aria-hidden /> : null;
}

/** A small corner for each cell that things may be put into. */
function CellMarks({ id }: { id: string }) {
  return (
    <svg className="cell-marks" aria-hidden>
      <defs>
        <pattern id={id} width={CELL.width} height={CELL.height} patternUnits="userSpaceOnUse">
          <path d="M0 5V0H5" />
        </pattern>
      </defs>
      <rect width="100%" height="100%" fill={`url(#${id})`} />
    </svg>
  );
}

export function Region({
  board,
  laid,
  neighbours,
  slots,
  on,
  isOnly,
}: {
  board: BoardView;
  laid: LaidRegion;
  /** The one above, the one below, and the one below that. */
  neighbours: readonly (RegionView | undefined)[];
  slots: readonly BoardSlot[];
  on: BoardHandlers;
  isOnly: boolean;
}) {
  const { region, rows, items, bundles } = laid;
  const acts = useBoardActs();
  const { openDialog } = useWorkspaceActions();
  const dropId = `region-${region.id}`;
  const target: DropTarget = { kind: 'region', board, region };
  const { setNodeRef, isOver } = useDroppable({ id: dropId, data: target });
  const count = items.length + bundles.reduce((sum, b) => sum + b.members.length, 0);
  const [above, below, afterBelow] = neighbours;
  const arranged: Act[] =
    region.order === 'free' || region.order === 'own'
      ? REGION_ORDERS.flatMap((by): Act[] =>
          by === 'free' || by === region.order
            ? []
            : [
                {
                  id: `arrange-${by}`,
                  label: `Arrange by ${BY[by]} once`,
                  run: () => void acts.arrange(board, region, by),
                },
              ],
        )
      : [];
  const more: Act[] = [
    { id: 'change', label: 'Name and order…', run: () => openDialog({ kind: 'change-region', board, region }) },
    ...arranged,
    { id: 'bundle', label: 'Bundle by kind', run: () => void acts.bundleByKind(board, region.id) },
    ...(above ? [{ id: 'up', label: 'Move up', run: () => void acts.moveRegion(board, region, above.id) }] : []),
    ...(below
      ? [{ id: 'down', label: 'Move down', run: () => void acts.moveRegion(board, region, afterBelow?.id ?? null) }]
      : []),
    ...(isOnly
      ? []
      : [
          {
            id: 'remove',
            label: 'Remove region',
            grave: true,
            run: () => void acts.removeRegion(board, region, count),
          },
        ]),
  ];
  return (
    <section className="region" aria-label={region.name}>
      <div className="region-side">
        <h2 className="cut" title={region.name}>
          {region.name}
        </h2>
        <p className="small">{ORDER_WORDS[region.order]}</p>
        <p className="small">
          {count} here
          {bundles.length > 0 && `, ${bundles.length} ${bundles.length === 1 ? 'bundle' : 'bundles'}`}
        </p>
        <MoreButton acts={more} small={region.name} />
      </div>
      <div
        ref={setNodeRef}
        className={`region-layout${region.order === 'free' ? ' free' : ''}${isOver ? ' over' : ''}`}
        style={{ width: board.columns * CELL.width, height: rows * CELL.height }}
        role={slots.length > 0 ? 'listbox' : undefined}
        aria-multiselectable={slots.length > 0 ? true : undefined}
        aria-label={slots.length > 0 ? `In ${region.name}` : undefined}
      >
        {region.order === 'free' && <CellMarks id={`cells-${region.id}`} />}
        {slots.map((slot) =>
          slot.item && !slot.bundle ? (
            <Laid key={slot.id} slot={slot} on={on} board={board} own={region.order === 'own'} />
          ) : slot.bundle && !slot.item ? (
            <BundleHead
              key={slot.id}
              slot={slot}
              on={on}
              board={board}
              slots={slots.filter((s) => s.item && s.bundle === slot.bundle)}
            />
          ) : null,
        )}
        {region.order === 'free' && <Ghost laid={laid} board={board} dropId={dropId} />}
        {slots.length === 0 && (
          <p className="small region-empty">
            Drop a pin here, or choose some in the <Link to="/catalogue">Catalogue</Link> and press Board…
          </p>
        )}
      </div>
    </section>
  );
}
