/** What lies in a folder: pages of rows, its trail above. */
import { lazy, Suspense, useCallback, useEffect, useMemo } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import { Link, useLocation, useNavigate, useSearchParams } from 'react-router';
import type { EntrySort, EntryView, OriginalId, PlaceId } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { entriesRead } from '../api/entriesRead';
import { idIn } from '../api/idIn';
import { usePlaces, useShortcuts } from '../api/queries';
import { BulkBar } from '../acts/BulkBar';
import { useRowActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import { useSelection, useWorkspaceActions, usePreviewOrder } from '../workspace/workspace';
import { Loading, NotLoaded } from '../parts/Loaded';
import { EmptyState } from '../parts/EmptyState';
import { picturedEntry } from '../parts/pictured';
import { FOLDER_SHAPE_WORDS } from '../parts/listShapes';
import { ShapeChip, ShapedList } from '../parts/ShapedList';
import { useListShape } from '../parts/useListShape';
import { folderOf } from '../filing/folderOf';
import { useOutsideDrop, useOutsideDrops } from '../filing/useFiling';
import type { FilingTarget } from '../workspace/dropAct';
import { EntryName, narrowed, useEntryColumns } from './entryColumns';
import { SideBySide, SideColumn } from './SideColumn';
import { TrailBar } from './TrailBar';
import { useOriginalsClipboard } from './useOriginalsClipboard';
import { usePagedFolder } from './usePagedFolder';
import './originals.css';

const Preview = lazy(() => import('../preview/PreviewDialog').then((m) => ({ default: m.Preview })));

const SORTS: EntrySort[] = ['name', 'kind', 'size', 'modified'];
/** An act takes no more at once. */
const MOST_CHOSEN = 10_000;
/** Says that the way led through the list, so that its focus goes along. */
const BY_LIST = { state: { byList: true } };

/** Files dropped from outside onto the list go into the folder it shows. */
function OutsideDrop(props: { into: FilingTarget; areSeveral: boolean; children: React.ReactNode }) {
  const { into, areSeveral, children } = props;
  return (
    <div className={areSeveral ? 'outside-drop several' : 'outside-drop'} {...useOutsideDrop(into)}>
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
  const { first, entry, known, onRange, readRange } = usePagedFolder(placeId, folderId, sort, order, at);
  const { selected, chosen } = useSelection();
  const { select, choose, openDialog, openMenu } = useWorkspaceActions();
  const acts = useRowActs('originals');
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
  const all = useEntryColumns(add, enter);
  const outsideDrops = useOutsideDrops();
  const client = useQueryClient();
  const chosenHere = useMemo(() => {
    const before = `${placeId}/`;
    return new Set(chosen.flatMap((id) => (id.startsWith(before) ? [Number(id.slice(before.length))] : [])));
  }, [chosen, placeId]);
  const chooseHere = (ids: OriginalId[]) => choose(ids.map((id) => `${placeId}/${id}`));
  const [shape, setShape] = useListShape('originals');
  const isMirror = top !== undefined;
  const isSideBySide = shape === 'side-by-side';
  const columns = useMemo(() => {
    if (isSideBySide) return [{ ...all[0]!, width: 'minmax(0, 1fr)' }];
    return isMirror ? narrowed(all) : all;
  }, [all, isMirror, isSideBySide]);
  const shownFolder = first.data && {
    placeId,
    folderId,
    path: first.data.path,
    name: first.data.trail.at(-1)?.name ?? '',
  };
  useOriginalsClipboard(shownFolder, () =>
    chosenHere.size > 0 ? (entriesRead(client, chosen) ?? []) : known.filter((e) => e.id === selectedKey),
  );
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
  // at a folder of one's own choosing the way down begins
  const above = trail.slice(
    Math.max(
      0,
      trail.findIndex((step) => step.id === top),
    ),
    -1,
  );
  const inHand = isSideBySide ? known.find((e) => e.id === selectedKey) : undefined;
  const pickIn = (folder: OriginalId) => (e: EntryView) => void navigate(`${to(folder)}?at=${e.id}`, BY_LIST);
  const list = (
    <ShapedList
      key={`${placeId}/${folderId}`}
      shape={isSideBySide ? 'table' : shape}
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
      chosen={chosenHere}
      onChoose={chooseHere}
      readRange={async (from, to) => {
        if (to - from < MOST_CHOSEN) return readRange(from, to);
        d.say(`At most ${MOST_CHOSEN.toLocaleString('en-GB')} can be chosen at once.`);
        return [];
      }}
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
        const isBack = event.key === 'Backspace' || (isSideBySide && event.key === 'ArrowLeft');
        if (isSideBySide && event.key === 'ArrowRight' && e.type === 'folder') {
          void navigate(to(e.id), BY_LIST);
          return true;
        }
        if (isBack && up) {
          void navigate(`${to(up.id)}?at=${folderId}`, BY_LIST);
          return true;
        }
        return (
          (shortcut?.originalId === e.id && acts.runKey(event.key, { type: 'shortcut', shortcut })) ||
          acts.runKey(event.key, { type: 'original', entry: e })
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
  );
  return (
    <>
      <TrailBar
        trail={trail}
        path={folder.path}
        to={to}
        hidden={folder.hidden}
        acts={
          <>
            <button
              type="button"
              className="chip"
              onClick={() =>
                openDialog({ kind: 'new-folder', into: { placeId, originalId: folderId }, name: here.name })
              }
            >
              New folder…
            </button>
            <Link className="chip" to={`/sweeps/new?in=${placeId}/${folderId}`}>
              Sweep…
            </Link>
          </>
        }
        shape={<ShapeChip shape={shape} words={FOLDER_SHAPE_WORDS} onShape={setShape} />}
      />
      {folder.trouble && <p className="folder-trouble small">{folder.trouble}</p>}
      <OutsideDrop into={here} areSeveral={chosenHere.size > 1}>
        {isSideBySide ? (
          <SideBySide at={`${folderId} ${inHand?.id}`}>
            {above.map((folder, i) => (
              <SideColumn
                key={folder.id}
                placeId={placeId}
                folder={folder}
                shownChild={above[i + 1]?.id ?? folderId}
                sort={sort}
                order={order}
                onPick={pickIn(folder.id)}
              />
            ))}
            {list}
            {inHand?.type === 'folder' && (
              <SideColumn
                key={inHand.id}
                placeId={placeId}
                folder={inHand}
                sort={sort}
                order={order}
                onPick={pickIn(inHand.id)}
              />
            )}
          </SideBySide>
        ) : (
          list
        )}
      </OutsideDrop>
      <BulkBar />
    </>
  );
}
