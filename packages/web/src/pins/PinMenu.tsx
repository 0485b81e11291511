/**
 * A pinned collection or tag, opened downward: type to narrow, arrows to move, Enter to open. What holds more opens in
 * place, the trail above tells where one is, and Backspace leads back.
 */
import { useEffect, useMemo, useState, type RefObject } from 'react';
import { useDroppable } from '@dnd-kit/core';
import { useNavigate } from 'react-router';
import Popper from '@mui/material/Popper';
import type { PinView } from '@rellin/contract';
import { MENU_COLUMNS, menuShape } from '@rellin/core/collections';
import { Finder } from '@rellin/core/match';
import { useCollections } from '../api/queries';
import { useWorkspaceActions, type Item } from '../workspace/workspace';
import { ChoiceList } from '../parts/ChoiceList';
import { CollectionMark, SearchMark } from '../parts/CollectionMark';
import { KindIcon } from '../parts/KindIcon';
import { Tether } from '../parts/Tether';
import { folderOf } from '../filing/folderOf';
import { useOutsideDrops } from '../filing/useFiling';
import { useMenuLines, type MenuLevel, type MenuLine } from './useMenuLines';

/** More lines than anybody looks through; the rest is found by typing. */
const MOST_LINES = 120;
const MOST_FOUND = 60;

function Line({ line, path, enter }: { line: MenuLine; path: string; enter(line: MenuLine): void }) {
  const { setNodeRef, isOver } = useDroppable({
    id: `menu-${path}-${line.id}`,
    data: { kind: 'into', item: line.item, ...(line.inside && { open: () => enter(line) }) },
    disabled: !(
      line.item?.type === 'collection' ||
      (line.item?.type === 'shortcut' && (line.kind === 'folder' || line.kind === 'program')) ||
      (line.item?.type === 'original' && line.kind === 'folder')
    ),
  });
  const outside = useOutsideDrops()(folderOf(line.item), line.inside && (() => enter(line)));
  return (
    <span ref={setNodeRef} {...outside} className={`menu-line ${line.state}${isOver ? ' over' : ''}`}>
      {line.item?.type === 'search' ? (
        <SearchMark colour={line.item.search.colour} />
      ) : line.item?.type === 'collection' ? (
        <CollectionMark colour={line.item.collection.colour} type={line.item.collection.type} />
      ) : line.item?.type === 'shortcut' ? (
        <Tether state={line.item.shortcut.state} />
      ) : (
        <KindIcon kind={line.kind} />
      )}
      <span className="name cut">{line.name}</span>
      <span className="small">
        {line.note}
        {line.inside && ' ›'}
      </span>
    </span>
  );
}

export function PinMenu({ pin, anchor }: { pin: PinView; anchor: RefObject<HTMLElement | null> }) {
  const { openPin, openMenu } = useWorkspaceActions();
  const navigate = useNavigate();
  const [levels, setLevels] = useState<MenuLevel[]>([
    { kind: pin.target === 'shortcut' ? 'collection' : pin.target, id: pin.targetId, name: pin.name },
  ]);
  const [query, setQuery] = useState('');
  const level = levels[levels.length - 1]!;
  const lines = useMenuLines(level);
  const showAs = useCollections().data?.find((c) => c.id === level.id)?.showAs ?? 'auto';
  const close = () => openPin(undefined);

  useEffect(() => {
    const away = (event: PointerEvent) => {
      const target = event.target as HTMLElement;
      if (!target.closest('.pin-menu, .MuiMenu-root') && !anchor.current?.contains(target)) openPin(undefined);
    };
    document.addEventListener('pointerdown', away);
    return () => document.removeEventListener('pointerdown', away);
  }, [anchor, openPin]);

  const shape = menuShape(showAs, lines?.length ?? 0);
  const columns = shape === 'grid' ? MENU_COLUMNS : 1;
  // made once for what the level holds, not for each letter
  const finder = useMemo(
    () => new Finder((lines ?? []).map((l) => ({ id: l.id, group: 'shortcut', name: l.name }))),
    [lines],
  );
  const lineOf = useMemo(() => new Map((lines ?? []).map((l) => [l.id, l])), [lines]);
  const narrowed =
    query.trim() === ''
      ? (lines ?? []).slice(0, MOST_LINES)
      : finder.search(query, MOST_FOUND).map((a) => lineOf.get(a.id)!);
  const left = query.trim() === '' ? (lines?.length ?? 0) - narrowed.length : 0;
  const enter = (line: MenuLine) => {
    setQuery('');
    setLevels([...levels, line.inside!]);
  };
  const back = (to = levels.length - 2) => {
    setQuery('');
    setLevels(levels.slice(0, to + 1));
  };
  const path = levels.map((l) => l.id).join('/');
  return (
    <Popper
      open
      anchorEl={() => anchor.current as Element}
      placement="bottom-start"
      style={{ zIndex: 1250 }}
      disablePortal={false}
    >
      <div
        className={`pin-menu${columns > 1 ? ' grid-menu' : ''}`}
        role="dialog"
        aria-label={pin.name}
        onKeyDown={(event) => {
          if (event.key !== 'Escape') return;
          event.stopPropagation();
          close();
          anchor.current?.focus();
        }}
      >
        {levels.length > 1 && (
          <div className="pin-menu-trail">
            {levels.map((l, i) =>
              i < levels.length - 1 ? (
                <span key={l.id}>
                  <button type="button" onClick={() => back(i)}>
                    {l.name}
                  </button>
                  {' › '}
                </span>
              ) : (
                <b key={l.id}>{l.name}</b>
              ),
            )}
          </div>
        )}
        <ChoiceList
          key={path}
          label={`In ${level.name}`}
          placeholder="Type to narrow"
          query={query}
          onQuery={setQuery}
          columns={columns}
          empty={lines ? (query ? 'Nothing in here is called that.' : 'Nothing is in it.') : '…'}
          beside={
            <button
              type="button"
              className="chip"
              onClick={() => {
                close();
                void navigate(
                  level.kind === 'folder'
                    ? `/originals/${level.placeId}/${level.id}`
                    : level.kind === 'search'
                      ? `/searches/${level.id}`
                      : `/collections/${level.kind === 'tag' ? 'tag/' : ''}${level.id}`,
                );
              }}
            >
              Show all
            </button>
          }
          onKey={(event, active) => {
            const line = active && lineOf.get(active.id);
            if (event.key === 'ArrowRight' && columns === 1 && line?.inside) enter(line);
            else if (
              (event.key === 'ArrowLeft' || event.key === 'Backspace') &&
              query === '' &&
              levels.length > 1 &&
              (columns === 1 || event.key === 'Backspace')
            )
              back();
            else if (event.key === 'F10' && event.shiftKey && line?.item)
              openActs(line.item, event.currentTarget as HTMLElement);
            else return false;
            return true;
          }}
          choices={narrowed.map((line) => ({
            id: line.id,
            content: <Line line={line} path={path} enter={enter} />,
            run: () => {
              if (line.inside) return enter(line);
              close();
              line.run();
            },
          }))}
        />
        {left > 0 && <p className="small pin-menu-left">{left} more: type to narrow, or show all.</p>}
      </div>
    </Popper>
  );

  function openActs(item: Item, near: HTMLElement) {
    const box = near.getBoundingClientRect();
    openMenu(item, { x: box.left + 40, y: box.bottom });
  }
}
