/** The regions of a board, one below the other; the arrows go over all of them. */
import { useMemo, useRef, useState, type KeyboardEvent } from 'react';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import type { BoardLayout, ShortcutView } from '@rellin/contract';
import { actItems } from '../acts/ActMenu';
import type { Act } from '../acts/acts';
import { runKey, useRowActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import { previewTargets, useSelection, useWorkspaceActions, usePreviewOrder } from '../workspace/workspace';
import { Tether } from '../parts/Tether';
import {
  isArrow,
  layoutBoard,
  nextFree,
  slotsOf,
  toward,
  type LaidBundle,
  type LaidItem,
  type BoardSlot,
} from './layoutBoard';
import type { BoardHandlers } from './boardHandlers';
import { Region } from './Region';
import { useBoardActs } from '../acts/useBoardActs';
import { useLasso } from './useLasso';

export function BoardCanvas({
  layout,
  shortcuts,
}: {
  layout: BoardLayout;
  shortcuts: ReadonlyMap<string, ShortcutView>;
}) {
  const { board } = layout;
  const regions = useMemo(() => layoutBoard(layout, shortcuts), [layout, shortcuts]);
  const slots = useMemo(() => slotsOf(regions), [regions]);
  const scroller = useRef<HTMLDivElement>(null);
  const [focused, setFocused] = useState<string>();
  const [listed, setListed] = useState<LaidBundle>();
  const [bundleMenu, setBundleMenu] = useState<{ bundle: LaidBundle; x: number; y: number }>();
  const { select, choose, openMenu, openDialog } = useWorkspaceActions();
  const { chosen } = useSelection();
  const rowActs = useRowActs('board');
  const boards = useBoardActs();
  const d = useCommands();
  usePreviewOrder(useMemo(() => previewTargets(slots.flatMap((s) => (s.item ? [s.item.shortcut] : []))), [slots]));
  const current = slots.find((s) => s.id === focused) ?? slots[0];
  const nodeOf = (id: string) => scroller.current?.querySelector<HTMLElement>(`[data-slot="${id}"]`) ?? null;
  const within = (item: Omit<LaidItem, 'spot'>) => ({ board, itemId: item.item.id });

  const bundleActs = (b: LaidBundle): Act[] => [
    { id: 'open', label: 'Show all it holds', key: 'Enter', run: () => setListed(b) },
    { id: 'ungather', label: 'Unbundle', key: 'U', run: () => void boards.ungather(board, b.bundle) },
    {
      id: 'rename',
      label: 'Rename…',
      key: 'F2',
      group: 'change',
      run: () => openDialog({ kind: 'change-bundle', board, bundle: b.bundle }),
    },
    {
      id: 'take-off',
      label: `Remove all from “${board.name}”`,
      key: 'X',
      otherKey: 'Delete',
      group: 'here',
      run: () =>
        void boards.takeOff(
          board,
          b.members.map((m) => m.item.id),
          `the bundle “${b.bundle.name}”`,
        ),
    },
  ];
  const selectSlot = (slot: BoardSlot) => {
    setFocused(slot.id);
    if (!slot.item) return;
    select({ type: 'shortcut', id: slot.item.shortcut.id });
  };
  const on: BoardHandlers = {
    tabbable: current?.id,
    isChosen: (id) => chosen.includes(id),
    focus: (slot) => setFocused(slot.id),
    pick: (slot, { ctrl }) => {
      selectSlot(slot);
      const id = slot.item?.shortcut.id;
      if (id === undefined) return choose([]);
      if (!ctrl) return choose([id]);
      choose(chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id]);
    },
    open: (slot) =>
      slot.item
        ? rowActs.open(
            { type: 'shortcut', shortcut: slot.item.shortcut },
            () => void d.open({ shortcutId: slot.item!.shortcut.id, route: 'board' }),
          )
        : slot.bundle && setListed(slot.bundle),
    menu: (slot, at) => {
      selectSlot(slot);
      if (slot.item && !chosen.includes(slot.item.shortcut.id)) choose([slot.item.shortcut.id]);
      if (slot.item) openMenu({ type: 'shortcut', shortcut: slot.item.shortcut }, at, within(slot.item));
      else if (slot.bundle) setBundleMenu({ bundle: slot.bundle, ...at });
    },
  };

  /** Alt and an arrow: to the next free cell that way, or one place on in the row. */
  const moveBy = (slot: BoardSlot, key: string): boolean => {
    if (!isArrow(key)) return false;
    const { region, items } = slot.region;
    if (slot.bundle && !slot.item) {
      const down = key === 'ArrowDown' ? 1 : key === 'ArrowUp' ? -1 : 0;
      const right = key === 'ArrowRight' ? 1 : key === 'ArrowLeft' ? -1 : 0;
      const spot = { x: Math.round(slot.bundle.spot.x) + right, y: Math.round(slot.bundle.spot.y) + down };
      if (region.order === 'free' && spot.x >= 0 && spot.y >= 0 && spot.x < board.columns)
        void boards.changeBundle(board, slot.bundle.bundle, spot);
      return true;
    }
    const laid = items.find((i) => i.item.id === slot.id);
    if (!laid) return true;
    const gathered = { shortcuts: [{ id: laid.shortcut.id, name: laid.shortcut.name }] };
    if (region.order === 'free') {
      const spot = nextFree(slot.region, slot.id, laid.spot, key, board.columns);
      if (spot) void boards.put(board, gathered, { regionId: region.id, ...spot }, true);
    } else if (region.order === 'own') {
      const inOrder = [...items].sort((a, b) => a.item.sort - b.item.sort);
      const at = inOrder.findIndex((i) => i.item.id === slot.id);
      const back = key === 'ArrowLeft' || key === 'ArrowUp';
      // on: before the one after the next
      const next = back ? inOrder[at - 1] : inOrder[at + 2];
      if (back ? at > 0 : at < inOrder.length - 1)
        void boards.put(board, gathered, { regionId: region.id, ...(next && { before: next.item.id }) }, true);
    }
    return true;
  };
  const goTo = (slot: BoardSlot, add: boolean) => {
    selectSlot(slot);
    if (slot.item) choose(add ? [...new Set([...chosen, slot.item.shortcut.id])] : [slot.item.shortcut.id]);
    const node = nodeOf(slot.id);
    node?.focus();
    node?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  };
  const lasso = useLasso(scroller, chosen, (ids, kept) => {
    const touched = slots.flatMap((s) => (s.item && ids.includes(s.id) ? [s.item.shortcut.id] : []));
    choose([...new Set([...kept, ...touched])]);
  });
  const onKeyDown = (event: KeyboardEvent) => {
    if (!current || !(event.target as HTMLElement).dataset['slot']) return;
    const { key } = event;
    if ((event.ctrlKey || event.metaKey) && key.toLowerCase() === 'a')
      choose(slots.flatMap((s) => (s.item ? [s.item.shortcut.id] : [])));
    else if (event.ctrlKey || event.metaKey) return;
    else if (event.altKey) {
      if (!moveBy(current, key)) return;
    } else if (isArrow(key)) {
      const next = toward(slots, current, key);
      if (next) goTo(next, event.shiftKey);
    } else if (key === 'Home' || key === 'End') goTo(key === 'Home' ? slots[0]! : slots[slots.length - 1]!, false);
    else if (key === 'Enter') on.open(current);
    else if (key === ' ') on.pick(current, { ctrl: true });
    else if ((key === 'F10' && event.shiftKey) || key === 'ContextMenu') {
      const box = nodeOf(current.id)?.getBoundingClientRect();
      on.menu(current, { x: (box?.left ?? 0) + 30, y: (box?.bottom ?? 0) - 4 });
    } else {
      const ran = current.item
        ? rowActs.runKey(key, { type: 'shortcut', shortcut: current.item.shortcut }, within(current.item))
        : current.bundle !== undefined && runKey(bundleActs(current.bundle), key);
      if (!ran) return;
    }
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div className="board sheet" ref={scroller} onKeyDown={onKeyDown} onPointerDown={lasso.onPointerDown}>
      {lasso.box && <div className="lasso" style={lasso.box} aria-hidden />}
      {regions.map((region, i) => (
        <Region
          key={region.region.id}
          board={board}
          laid={region}
          neighbours={[regions[i - 1]?.region, regions[i + 1]?.region, regions[i + 2]?.region]}
          slots={slots.filter((s) => s.region === region)}
          on={on}
          isOnly={regions.length === 1}
        />
      ))}
      {listed && (
        <Menu
          anchorEl={() => nodeOf(listed.bundle.id) as Element}
          open
          onClose={() => setListed(undefined)}
          slotProps={{ list: { dense: true, 'aria-label': `In the bundle ${listed.bundle.name}` } }}
        >
          {listed.members.map(({ item, shortcut }) => (
            <MenuItem
              key={item.id}
              onClick={() => {
                setListed(undefined);
                select({ type: 'shortcut', id: shortcut.id });
                void d.open({ shortcutId: shortcut.id, route: 'board' });
              }}
            >
              <span className="bundle-choice">
                <Tether state={shortcut.state} />
                <span className="cut">{shortcut.name}</span>
              </span>
            </MenuItem>
          ))}
        </Menu>
      )}
      {bundleMenu && (
        <Menu
          open
          onClose={() => setBundleMenu(undefined)}
          anchorReference="anchorPosition"
          anchorPosition={{ left: bundleMenu.x, top: bundleMenu.y }}
          slotProps={{ list: { 'aria-label': 'Acts', dense: true } }}
        >
          {actItems(bundleActs(bundleMenu.bundle), () => setBundleMenu(undefined))}
        </Menu>
      )}
    </div>
  );
}
