/** What a collection holds: rows in its order; Alt and the arrows move one, a drop between two rows too. */
import { lazy, Suspense, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { useDroppable } from '@dnd-kit/core';
import Button from '@mui/material/Button';
import type { CollectionView } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { useRowActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import {
  previewTargets,
  useSelection,
  useWorkspaceActions,
  usePreviewOrder,
  type Item,
  type Within,
} from '../workspace/workspace';
import { CollectionMark, SearchMark } from '../parts/CollectionMark';
import { DragHandle } from '../parts/DragRow';
import { EmptyState } from '../parts/EmptyState';
import type { Column } from '../parts/Grid';
import { ChosenPicture, CollectionPicture, type Pictured } from '../parts/Picture';
import { ShapedList } from '../parts/ShapedList';
import { useListShape } from '../parts/useListShape';
import { KeyCap } from '../parts/KeyCap';
import { ReachRuler } from '../parts/ReachRuler';
import { Tether } from '../parts/Tether';
import { descriptionOfRow, nameOfRow, type MemberRow } from './memberRows';
import { useGather } from '../acts/useGather';

const Preview = lazy(() => import('../preview/PreviewDialog').then((m) => ({ default: m.Preview })));

/** A collection shows its own picture, or a folder's. */
const picturedRow = (row: MemberRow): Pictured =>
  row.type === 'shortcut'
    ? row.shortcut
    : {
        picture: row.type === 'collection' ? row.collection.picture : '',
        kind: 'folder',
        target: 'original',
        location: '',
        placeId: null,
        originalId: null,
        modified: null,
        state: 'ready',
      };

const itemOf = (row: MemberRow): Item =>
  row.type === 'shortcut'
    ? { type: 'shortcut', shortcut: row.shortcut }
    : row.type === 'search'
      ? { type: 'search', search: row.search }
      : { type: 'collection', collection: row.collection };

const withinOf = (collection: CollectionView, row: MemberRow): Within => ({
  collection,
  memberId: row.id,
  keepFirst: row.keepFirst,
});

/** The upper edge of a row takes what is dropped between it and the one above. */
function Name({ row, collection }: { row: MemberRow; collection: CollectionView }) {
  const own = collection.sortBy === 'own';
  const navigate = useNavigate();
  // what rests on a collection opens it, so that it can go deeper
  const isInner = row.type === 'collection';
  const open = () => void navigate(`/collections/${row.itemId}`);
  const { setNodeRef, isOver } = useDroppable({
    id: `before-${row.id}`,
    data: { kind: 'before', collection, memberId: row.id, name: nameOfRow(row), ...(isInner && { open }) },
    disabled: !own,
  });
  return (
    <span ref={setNodeRef} className={`member-name${isOver ? ' before' : ''}`}>
      <DragHandle id={`member-${row.id}`} item={itemOf(row)} within={withinOf(collection, row)}>
        {row.type === 'shortcut' ? (
          <>
            <Tether state={row.shortcut.state} />
            <ChosenPicture of={row.shortcut} />
          </>
        ) : row.type === 'search' ? (
          <SearchMark colour={row.search.colour} />
        ) : (
          <>
            <CollectionMark colour={row.collection.colour} type={row.collection.type} />
            <CollectionPicture picture={row.collection.picture} size={18} />
          </>
        )}
        <span className="name cut" title={nameOfRow(row)}>
          {nameOfRow(row)}
        </span>
        {row.type === 'shortcut' && row.shortcut.pinSlot !== null && <KeyCap>{row.shortcut.pinSlot}</KeyCap>}
        {row.keepFirst && <span className="chip first">first</span>}
      </DragHandle>
    </span>
  );
}

function columnsOf(collection: CollectionView): Column<MemberRow>[] {
  return [
    {
      id: 'name',
      title: 'Name',
      width: 'minmax(140px, 1.4fr)',
      cell: (row) => <Name row={row} collection={collection} />,
    },
    {
      id: 'kind',
      title: 'Kind',
      width: '84px',
      cell: (row) => (
        <span className="small">
          {row.type === 'shortcut'
            ? kindWord(row.shortcut.kind)
            : row.type === 'search'
              ? `${row.search.count} found`
              : `${row.collection.count} ${row.collection.count === 1 ? 'thing' : 'things'}`}
        </span>
      ),
    },
    {
      id: 'week',
      title: 'a week',
      width: '54px',
      align: 'right',
      cell: (row) => <span className="small">{row.type === 'shortcut' ? row.shortcut.perWeek.toFixed(1) : ''}</span>,
    },
    {
      id: 'reach',
      title: 'Reach · by folders',
      width: '134px',
      cell: (row) => (row.type === 'shortcut' ? <ReachRuler reach={row.shortcut.reach} width={128} /> : ''),
    },
  ];
}

export function MemberList({ collection, rows }: { collection: CollectionView; rows: MemberRow[] }) {
  const { selected, chosen } = useSelection();
  const { select, choose, openMenu, openDialog } = useWorkspaceActions();
  const [shape] = useListShape('members');
  const acts = useRowActs('collection');
  const gather = useGather();
  const navigate = useNavigate();
  const d = useCommands();
  const chosenSet = new Set(chosen);
  usePreviewOrder(
    useMemo(() => previewTargets(rows.flatMap((r) => (r.type === 'shortcut' ? [r.shortcut] : []))), [rows]),
  );
  const keyOf = (row: MemberRow) => row.itemId;
  const open = (row: MemberRow) =>
    row.type === 'collection'
      ? void navigate(`/collections/${row.itemId}`)
      : row.type === 'search'
        ? void navigate(`/searches/${row.itemId}`)
        : void d.open({ shortcutId: row.itemId, route: 'collection' });
  const moveBy = (row: MemberRow, step: number) => {
    const at = rows.indexOf(row);
    // down: before the one after the next, so that the next stands above
    const target = step < 0 ? rows[at - 1] : rows[at + 2];
    if (step < 0 ? at > 0 : at < rows.length - 1) void gather.move(collection, [row.id], target?.id ?? null);
  };
  return (
    <ShapedList
      key={collection.id}
      shape={shape}
      pictureOf={picturedRow}
      factsOf={(row) => (row.type === 'shortcut' ? kindWord(row.shortcut.kind) : row.type)}
      dragged={(row, content) => (
        <DragHandle id={`member-${row.id}`} item={itemOf(row)} within={withinOf(collection, row)}>
          {content}
        </DragHandle>
      )}
      preview={(row) =>
        row?.type === 'shortcut' && row.shortcut.placeId !== null && row.shortcut.originalId !== null ? (
          <Suspense fallback={null}>
            <Preview placeId={row.shortcut.placeId} originalId={row.shortcut.originalId} name={row.shortcut.name} />
          </Suspense>
        ) : (
          <p className="small">It opens, and has nothing to show here.</p>
        )
      }
      label={`In ${collection.name}`}
      columns={columnsOf(collection)}
      count={rows.length}
      item={(i) => rows[i]}
      keyOf={keyOf}
      nameOf={nameOfRow}
      hintOf={descriptionOfRow}
      selectedKey={selected && selected.type !== 'original' && selected.type !== 'program' ? selected.id : undefined}
      chosen={chosenSet}
      onChoose={choose}
      onSelect={(row) => select({ type: row.type, id: row.itemId })}
      onOpen={(row) => acts.open(itemOf(row), () => open(row))}
      onMenu={(row, at) => openMenu(itemOf(row), at, withinOf(collection, row))}
      onChord={(event, row) => {
        if (!event.altKey || collection.sortBy !== 'own') return false;
        if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return false;
        moveBy(row, event.key === 'ArrowUp' ? -1 : 1);
        return true;
      }}
      onKey={(event, row) => acts.runKey(event.key, itemOf(row), withinOf(collection, row))}
      empty={
        <EmptyState
          title={collection.type === 'working-set' ? 'Nothing is gathered for now' : 'Nothing is in it yet'}
          action={
            <span className="empty-acts">
              <Button variant="contained" onClick={() => openDialog({ kind: 'gather', collection })}>
                Add several…
              </Button>
              {collection.lastMembers > 0 && (
                <Button variant="outlined" onClick={() => void gather.bringBack(collection)}>
                  Bring last time’s {collection.lastMembers} back
                </Button>
              )}
            </span>
          }
        >
          Gather shortcuts from the catalogue, or press A on any of them. A shortcut may be in as many collections as
          you like; taking it out changes nothing else.
        </EmptyState>
      }
    />
  );
}
