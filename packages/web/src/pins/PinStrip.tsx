/**
 * The pin strip: one labelled tab a pin, its key before it; reordered by drag or by Alt and the arrows. Collections and
 * tags open downward as menus; what does not fit, or was put aside, opens from the last tab.
 */
import { lazy, Suspense, useRef, useState } from 'react';
import { useDroppable } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import Divider from '@mui/material/Divider';
import ExpandMore from '@mui/icons-material/ExpandMore';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import type { PinView } from '@rellin/contract';
import { useCollections, usePins, useSearches, useSettings, useShortcuts, useTags } from '../api/queries';
import { actItems } from '../acts/ActMenu';
import { useActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import { useDropSlot } from '../workspace/dropSlot';
import { useFrame, useSelection, useWorkspaceActions, type Item } from '../workspace/workspace';
import { CollectionMark, SearchMark } from '../parts/CollectionMark';
import { ColourBar } from '../parts/TagLabel';
import { hint } from '../parts/hint';
import { CommandKey } from '../parts/KeyCap';
import { Roving } from '../parts/Roving';
import { Tether } from '../parts/Tether';
import { folderOf } from '../filing/folderOf';
import { useOutsideDrop } from '../filing/useFiling';
import { useFitting } from './useFitting';
import './PinStrip.css';

const PinMenu = lazy(() => import('./PinMenu').then((m) => ({ default: m.PinMenu })));

/** What is pinned, for acts and menus. */
function usePinned(): (pin: PinView) => Item | undefined {
  const shortcuts = useShortcuts().data;
  const collections = useCollections().data;
  const tags = useTags().data;
  const searches = useSearches().data;
  return (pin) => {
    const own = <T extends { id: string }>(list: T[] | undefined) => list?.find((x) => x.id === pin.targetId);
    if (pin.target === 'shortcut') {
      const shortcut = own(shortcuts);
      return shortcut && { type: 'shortcut', shortcut };
    }
    if (pin.target === 'collection') {
      const collection = own(collections);
      return collection && { type: 'collection', collection };
    }
    if (pin.target === 'search') {
      const search = own(searches);
      return search && { type: 'search', search };
    }
    const tag = own(tags);
    return tag && { type: 'tag', tag };
  };
}

function descriptionOf(pinned: Item | undefined): string {
  if (pinned?.type === 'shortcut') return pinned.shortcut.description;
  if (pinned?.type === 'collection') return pinned.collection.description;
  return pinned?.type === 'search' ? pinned.search.description : '';
}

function PinLabel({ pin }: { pin: PinView }) {
  return (
    <>
      {pin.key && <CommandKey of={pin.key} />}
      {pin.target === 'shortcut' ? (
        <Tether state={pin.state} />
      ) : pin.target === 'collection' ? (
        <CollectionMark colour={pin.colour} />
      ) : pin.target === 'search' ? (
        <SearchMark colour={pin.colour} />
      ) : (
        <ColourBar colour={pin.colour} />
      )}
      <span className="cut">{pin.name}</span>
      {pin.count !== null && (
        <>
          <span className="pin-count">{pin.count}</span>
          {pin.fresh > 0 && (
            <span className="fresh" title={`${pin.fresh} new since you looked`}>
              +{pin.fresh}
            </span>
          )}
          <ExpandMore aria-hidden className="chevron" />
        </>
      )}
    </>
  );
}

function Pin({ pin, count, pinned }: { pin: PinView; count: number; pinned: Item | undefined }) {
  const d = useCommands();
  const { select, openMenu, openPin } = useWorkspaceActions();
  const { pinOpen } = useSelection();
  const { quiet } = useFrame();
  const button = useRef<HTMLButtonElement>(null);
  const { setNodeRef, listeners, transform, transition, isDragging, isOver } = useSortable({
    id: pin.id,
    data: { kind: 'pin', pin },
  });
  const move = (slot: number) => void d.movePin(pin, Math.max(1, Math.min(count, slot)));
  const isMenu = pin.target !== 'shortcut';
  const dropSlot = useDropSlot();
  // a drop between two pins is framed at the one that it would stand before, or behind the last
  const mark = dropSlot === pin.slot ? ' before' : dropSlot === pin.slot + 1 && pin.slot === count ? ' after' : '';
  const outside = useOutsideDrop(folderOf(pinned));
  const how = `${pin.key ? `Key ${pin.key} · ` : ''}${pin.kept ? 'kept where it is · ' : ''}Alt and the arrows move it`;
  const told = [pin.name, descriptionOf(pinned), how].filter((line) => line !== '').join('\n');
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      {...outside}
      className={`${isDragging ? 'dragged' : ''}${(isMenu || pin.kind === 'folder') && isOver && dropSlot === undefined ? ' over' : ''}${mark}`}
    >
      <button
        ref={button}
        type="button"
        {...listeners}
        className={`pin ${pin.state}`}
        data-pin={pin.slot}
        aria-keyshortcuts={pin.key ?? undefined}
        aria-haspopup={isMenu ? 'dialog' : undefined}
        aria-expanded={isMenu ? pinOpen === pin.id : undefined}
        {...(!quiet && hint(told))}
        onClick={() =>
          isMenu
            ? openPin(pinOpen === pin.id ? undefined : pin.id)
            : void d.open({ shortcutId: pin.targetId, route: 'pin-click' })
        }
        onFocus={() => pin.target !== 'tag' && select({ type: pin.target, id: pin.targetId })}
        onContextMenu={(event) => {
          if (!pinned) return;
          event.preventDefault();
          openMenu(pinned, { x: event.clientX, y: event.clientY });
        }}
        onKeyDown={(event) => {
          if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) {
            event.preventDefault();
            move(pin.slot + (event.key === 'ArrowLeft' ? -1 : 1));
          } else if (event.key === 'Delete') {
            event.preventDefault();
            void d.unpin(pin.id, pin.name);
          } else if (event.key === 'e') {
            event.preventDefault();
            void d.putPinAside(pin, true);
          } else if (event.key === 'ArrowDown' && isMenu) {
            event.preventDefault();
            openPin(pin.id);
          }
        }}
      >
        <PinLabel pin={pin} />
      </button>
      {isMenu && pinOpen === pin.id && (
        <Suspense fallback={null}>
          <PinMenu pin={pin} anchor={button} />
        </Suspense>
      )}
    </li>
  );
}

/** The last tab: pins that do not fit, and those put aside for good. */
function More({ pins, pinned }: { pins: PinView[]; pinned: (pin: PinView) => Item | undefined }) {
  const d = useCommands();
  const acts = useActs('pin-more');
  const { pinOpen } = useSelection();
  const { openPin } = useWorkspaceActions();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [own, setOwn] = useState<PinView>();
  const button = useRef<HTMLButtonElement>(null);
  const shown = pins.find((p) => p.id === pinOpen);
  const item = own && pinned(own);
  return (
    <div className="pin-more">
      <button
        ref={button}
        type="button"
        className="pin"
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        <span>{pins.length} more</span>
        <ExpandMore aria-hidden className="chevron" />
      </button>
      {anchor && (
        <Menu
          anchorEl={anchor}
          open
          onClose={() => {
            setAnchor(null);
            setOwn(undefined);
          }}
          slotProps={{ list: { dense: true, 'aria-label': 'More pins' } }}
        >
          {own && item
            ? [
                <MenuItem key="back" onClick={() => setOwn(undefined)}>
                  ‹ {own.name}
                </MenuItem>,
                <Divider key="line" />,
                own.aside && (
                  <MenuItem
                    key="aside"
                    onClick={() => {
                      setAnchor(null);
                      setOwn(undefined);
                      void d.putPinAside(own, false);
                    }}
                  >
                    Put it back on the strip
                  </MenuItem>
                ),
                ...actItems(acts(item), () => {
                  setAnchor(null);
                  setOwn(undefined);
                }),
              ]
            : pins.map((pin) => (
                <MenuItem
                  key={pin.id}
                  onClick={() => {
                    setAnchor(null);
                    if (pin.target === 'shortcut') void d.open({ shortcutId: pin.targetId, route: 'pin-more' });
                    else openPin(pin.id);
                  }}
                  onContextMenu={(event) => {
                    event.preventDefault();
                    setOwn(pin);
                  }}
                  onKeyDown={(event) => event.key === 'ArrowRight' && setOwn(pin)}
                  sx={{ gap: 1 }}
                >
                  <PinLabel pin={pin} />
                </MenuItem>
              ))}
        </Menu>
      )}
      {shown && (
        <Suspense fallback={null}>
          <PinMenu pin={shown} anchor={button} />
        </Suspense>
      )}
    </div>
  );
}

export function PinStrip() {
  const pins = usePins();
  const limit = useSettings().data?.pinLimit ?? 9;
  const { openDialog } = useWorkspaceActions();
  const { stripHidden } = useFrame();
  const pinned = usePinned();
  const { setNodeRef, isOver } = useDroppable({ id: 'strip', data: { kind: 'strip' } });
  const frame = useRef<HTMLElement>(null);
  const measure = useRef<HTMLDivElement>(null);
  const all = pins.data ?? [];
  const list = all.filter((p) => !p.aside);
  const aside = all.filter((p) => p.aside);
  const fits = useFitting(frame, measure, aside.length > 0, list.map((p) => `${p.name} ${p.count}`).join('\n'));
  if (stripHidden) return null;
  const onStrip = list.slice(0, fits);
  const more = [...list.slice(fits), ...aside];
  return (
    <nav
      aria-label="Pin strip"
      className={`pin-strip${isOver ? ' over' : ''}`}
      ref={(node) => {
        frame.current = node;
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
        openDialog({ kind: 'add', typed, slot: all.length + 1 });
      }}
    >
      <Roving label="Pins">
        <SortableContext items={onStrip.map((p) => p.id)} strategy={horizontalListSortingStrategy}>
          <ol>
            {onStrip.map((pin) => (
              <Pin key={pin.id} pin={pin} count={all.length} pinned={pinned(pin)} />
            ))}
          </ol>
        </SortableContext>
        {more.length > 0 && <More pins={more} pinned={pinned} />}
      </Roving>
      <div className="pin-measure" aria-hidden ref={measure}>
        {list.map((pin) => (
          <span key={pin.id} className="pin">
            <PinLabel pin={pin} />
          </span>
        ))}
      </div>
      {pins.isSuccess && all.length === 0 && (
        <span className="small strip-hint">Drag a row up here, or press P on one: it is then one key away.</span>
      )}
      {all.length > 0 && all.length < limit && <span className="hidden-text">{limit - all.length} free</span>}
    </nav>
  );
}
