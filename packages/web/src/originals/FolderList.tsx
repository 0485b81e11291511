/** What lies in a folder: pages of rows, its trail above. */
import { lazy, Suspense, useCallback, useEffect, useMemo } from 'react';
import { useDroppable } from '@dnd-kit/core';
import { useLocation, useNavigate, useSearchParams } from 'react-router';
import Button from '@mui/material/Button';
import type { EntrySort, EntryView, OriginalId, PlaceId } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { idIn } from '../api/idIn';
import { usePlaces, useShortcuts, useTags } from '../api/queries';
import { runKey, useActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import { useSelection, useWorkspaceActions, usePreviewOrder } from '../workspace/workspace';
import { shortDate } from '../parts/dates';
import { DragHandle } from '../parts/DragRow';
import { Loading, NotLoaded } from '../parts/Loaded';
import { EmptyState } from '../parts/EmptyState';
import type { Column } from '../parts/Grid';
import { KindIcon } from '../parts/KindIcon';
import { picturedEntry } from '../parts/pictured';
import { ShapeChip, ShapedList } from '../parts/ShapedList';
import { TagLabels } from '../parts/TagLabel';
import { Tether } from '../parts/Tether';
import { useListShape } from '../parts/useListShape';
import type { ShortcutState } from '@rellin/core/identity';
import { folderOf } from '../filing/folderOf';
import { useOutsideDrop, useOutsideDrops } from '../filing/useFiling';
import type { FilingTarget } from '../workspace/dropAct';
import { TrailBar } from './TrailBar';
import { usePagedFolder } from './usePagedFolder';
import './originals.css';

const Preview = lazy(() => import('../preview/PreviewDialog').then((m) => ({ default: m.Preview })));

/** Says that the way led through the list, so that its focus goes along. */
const SORTS: EntrySort[] = ['name', 'kind', 'size', 'modified'];
const BY_LIST = { state: { byList: true } };

/** A row's name carries the entry; a folder's takes what is dropped on it, and opens under what rests there. */
function EntryName({ entry, open, children }: { entry: EntryView; open(): void; children: React.ReactNode }) {
  const item = { type: 'original', entry } as const;
  const { setNodeRef, isOver } = useDroppable({
    id: `onto-${entry.placeId}-${entry.id}`,
    data: { kind: 'into', item, open },
    disabled: entry.type !== 'folder',
  });
  return (
    <span ref={setNodeRef} className={`entry-name${isOver ? ' over' : ''}`}>
      <DragHandle id={`entry-${entry.placeId}-${entry.id}`} item={item}>
        {children}
      </DragHandle>
    </span>
  );
}

function useColumns(add: (entry: EntryView) => void, open: (entry: EntryView) => void): Column<EntryView>[] {
  const tags = useTags().data;
  return useMemo(
    () => [
      {
        id: 'name',
        title: 'Name',
        width: 'minmax(180px, 2fr)',
        sortable: true,
        cell: (e) => (
          <EntryName entry={e} open={() => open(e)}>
            <span className="tether-slot">
              {e.shortcut && <Tether state={e.shortcut.state as ShortcutState} title="Has a shortcut" />}
            </span>
            <KindIcon kind={e.kind} />
            <span className={`cut${e.type === 'folder' ? ' name' : ''}`} title={shown(e.name)}>
              {shown(e.name)}
            </span>
            {e.tags.length > 0 && <TagLabels tags={(tags ?? []).filter((t) => e.tags.includes(t.id))} />}
          </EntryName>
        ),
      },
      {
        id: 'kind',
        title: 'Kind',
        width: '128px',
        sortable: true,
        cell: (e) => (
          <span className="small cut">
            {kindWord(e.kind)}
            {e.children !== null && `, ${e.children} ${e.children === 1 ? 'item' : 'items'}`}
          </span>
        ),
      },
      {
        id: 'size',
        title: 'Size',
        width: '74px',
        align: 'right',
        sortable: true,
        cell: (e) => <span className="small">{e.type === 'file' ? formatBytes(e.size) : ''}</span>,
      },
      {
        id: 'modified',
        title: 'Modified',
        width: '92px',
        align: 'right',
        sortable: true,
        cell: (e) => <span className="small">{shortDate(e.modified)}</span>,
      },
      {
        id: 'shortcut',
        title: '',
        width: '112px',
        align: 'right',
        cell: (e) =>
          e.shortcut ? (
            <span className="small">has a shortcut</span>
          ) : (
            <Button
              className="row-act"
              variant="outlined"
              tabIndex={-1}
              onClick={(event) => {
                event.stopPropagation();
                add(e);
              }}
            >
              Add shortcut
            </Button>
          ),
      },
    ],
    [add, open, tags],
  );
}

/** Beside the tree of collections there is less room. */
function narrowed(columns: readonly Column<EntryView>[]): Column<EntryView>[] {
  const widths: Record<string, string> = { name: 'minmax(140px, 2fr)', kind: '100px' };
  return columns.filter((c) => c.id !== 'size').map((c) => ({ ...c, width: widths[c.id] ?? c.width }));
}

/** Files dropped from outside onto the list go into the folder it shows. */
function OutsideDrop({ into, children }: { into: FilingTarget; children: React.ReactNode }) {
  return (
    <div className="outside-drop" {...useOutsideDrop(into)}>
      {children}
    </div>
  );
}

interface FolderListProps {
  placeId: PlaceId;
  folderId: OriginalId;
  /** The address that shows a folder. */
  to(folderId: OriginalId): string;
  /** The folder that Backspace does not leave; the place's root by default. */
  top?: OriginalId;
}

export function FolderList({ placeId, folderId, to, top }: FolderListProps) {
  const [params, setParams] = useSearchParams();
  const sort = SORTS.find((one) => one === params.get('sort')) ?? 'name';
  const order = params.get('order') === 'down' ? 'down' : 'up';
  const at = idIn(params.get('at'));
  const { first, entry, known, onRange } = usePagedFolder(placeId, folderId, sort, order, at);
  const { selected } = useSelection();
  const { select, openMenu } = useWorkspaceActions();
  const acts = useActs('originals');
  const place = usePlaces().data?.find((p) => p.id === placeId);
  const navigate = useNavigate();
  const byList = (useLocation().state as { byList?: boolean } | null)?.byList === true;
  const d = useCommands();

  usePreviewOrder(
    useMemo(
      () =>
        known
          .filter((e) => e.type === 'file')
          .map((e) => ({ placeId, originalId: e.id, name: e.name, selects: { type: 'original', placeId, id: e.id } })),
      [known, placeId],
    ),
  );

  // whoever was led here by "Show where it is" finds the thing selected
  useEffect(() => {
    if (at !== undefined) select({ type: 'original', placeId, id: at });
  }, [at, placeId, select]);

  const shortcuts = useShortcuts().data;
  // what was just given a shortcut stays the row in hand, and the keys act on the shortcut
  const shortcut =
    selected?.type === 'shortcut' ? shortcuts?.find((s) => s.id === selected.id && s.placeId === placeId) : undefined;
  const selectedKey =
    selected?.type === 'original' && selected.placeId === placeId ? selected.id : (shortcut?.originalId ?? undefined);
  const add = useMemo(() => (e: EntryView) => void d.addShortcut({ placeId: e.placeId, originalId: e.id }), [d]);
  const enter = useCallback((e: EntryView) => void navigate(to(e.id)), [navigate, to]);
  const all = useColumns(add, enter);
  const outsideDrops = useOutsideDrops();
  const [shape, setShape] = useListShape('originals');
  const isMirror = top !== undefined;
  const columns = useMemo(() => (isMirror ? narrowed(all) : all), [all, isMirror]);
  if (first.isError) {
    if (place?.scan === 'running')
      return (
        <EmptyState title={`${place.name} is being looked through`}>
          This happens once; it shows in a moment. How far it is stands in the header.
        </EmptyState>
      );
    return <NotLoaded title="This folder cannot be shown" error={first.error} onAgain={() => void first.refetch()} />;
  }
  const folder = first.data;
  if (!folder) return <Loading />;
  const trail = folder.trail;
  const here = { placeId, originalId: folderId, name: trail[trail.length - 1]?.name ?? '' };
  const up = trail.length > 1 && folderId !== top ? trail[trail.length - 2] : undefined;
  return (
    <>
      <TrailBar
        trail={trail}
        path={folder.path}
        to={to}
        hidden={folder.hidden}
        shape={<ShapeChip shape={shape} onShape={setShape} />}
      />
      {folder.trouble && <p className="folder-trouble small">{folder.trouble}</p>}
      <OutsideDrop into={here}>
        <ShapedList
          key={`${placeId}/${folderId}`}
          shape={shape}
          pictureOf={(e) => picturedEntry(e)}
          factsOf={(e) => (e.type === 'file' ? formatBytes(e.size) : kindWord(e.kind))}
          dragged={(e, content) => (
            <EntryName entry={e} open={() => enter(e)}>
              {content}
            </EntryName>
          )}
          preview={(e) =>
            e && (
              <Suspense fallback={null}>
                <Preview placeId={placeId} originalId={e.id} name={e.name} />
              </Suspense>
            )
          }
          label={`In ${shown(folder.path)}`}
          columns={columns}
          rowHeight={37}
          takeFocus={byList}
          reveal={folder.atIndex ?? undefined}
          count={folder.total}
          item={entry}
          keyOf={(e) => e.id}
          nameOf={(e) => shown(e.name)}
          selectedKey={selectedKey}
          sort={{ by: sort, descending: order === 'down' }}
          onRange={onRange}
          onSort={(by) =>
            setParams(
              {
                sort: by,
                order: by === sort ? (order === 'up' ? 'down' : 'up') : by === 'name' || by === 'kind' ? 'up' : 'down',
              },
              { replace: true },
            )
          }
          onSelect={(e) => select({ type: 'original', placeId, id: e.id })}
          onOpen={(e) =>
            e.type === 'folder'
              ? void navigate(to(e.id), BY_LIST)
              : void d.open({ placeId, originalId: e.id, route: 'originals' })
          }
          rowProps={(e) => outsideDrops(folderOf({ type: 'original', entry: e }), () => enter(e))}
          onMenu={(e, point) => openMenu({ type: 'original', entry: e }, point)}
          onKey={(event, e) => {
            if (event.key === 'Backspace' && up) {
              void navigate(`${to(up.id)}?at=${folderId}`, BY_LIST);
              return true;
            }
            return (
              (shortcut?.originalId === e.id && runKey(acts({ type: 'shortcut', shortcut }), event.key)) ||
              runKey(acts({ type: 'original', entry: e }), event.key)
            );
          }}
          empty={
            <EmptyState title={folder.hidden > 0 ? 'Everything in this folder is hidden' : 'This folder is empty'}>
              {folder.hidden > 0
                ? 'The names of all that is in it begin with a dot. Show hidden files above.'
                : 'There is nothing in it, or what is in it is excluded from the place.'}
            </EmptyState>
          }
        />
      </OutsideDrop>
    </>
  );
}
