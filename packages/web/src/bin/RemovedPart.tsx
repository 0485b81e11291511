/** Removed shortcuts, collections, boards and saved searches; each goes back where it was. */
import Button from '@mui/material/Button';
import type { BoardView, CollectionView, SearchView, ShortcutView } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { useState } from 'react';
import { useBin, useBoardsBin, useCollectionsBin, useSearchesBin } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { useBoardActs } from '../acts/useBoardActs';
import { useGather } from '../acts/useGather';
import { useSearchActs } from '../acts/useSearchActs';
import { BoardMark, CollectionMark, SearchMark } from '../parts/CollectionMark';
import { useWorkspaceActions } from '../workspace/workspace';
import { EmptyState } from '../parts/EmptyState';
import { Grid, type Column } from '../parts/Grid';
import { Loaded, together } from '../parts/Loaded';
import { shortDate } from '../parts/dates';
import { Tether } from '../parts/Tether';

type Binned = { id: string; removedAt: string } & (
  { shortcut: ShortcutView } | { collection: CollectionView } | { search: SearchView } | { board: BoardView }
);

export function RemovedPart() {
  const bin = useBin();
  const collections = useCollectionsBin();
  const searches = useSearchesBin();
  const boards = useBoardsBin();
  const searchActs = useSearchActs();
  const boardActs = useBoardActs();
  const d = useCommands();
  const gather = useGather();
  const { openDialog } = useWorkspaceActions();
  const [selected, setSelected] = useState<string>();
  const rows: Binned[] = [
    ...(bin.data ?? []).map((shortcut) => ({ id: shortcut.id, removedAt: shortcut.removedAt!, shortcut })),
    ...(collections.data ?? []).map((collection) => ({
      id: collection.id,
      removedAt: collection.removedAt!,
      collection,
    })),
    ...(searches.data ?? []).map((search) => ({ id: search.id, removedAt: search.removedAt!, search })),
    ...(boards.data ?? []).map((board) => ({ id: board.id, removedAt: board.removedAt!, board })),
  ].sort((a, b) => b.removedAt.localeCompare(a.removedAt));
  const putBack = (b: Binned) =>
    void ('shortcut' in b
      ? d.putBack(b.shortcut)
      : 'search' in b
        ? searchActs.putBack(b.search)
        : 'board' in b
          ? boardActs.putBack(b.board)
          : gather.putBack(b.collection));
  const columns: Column<Binned>[] = [
    {
      id: 'name',
      title: 'Name',
      width: 'minmax(160px, 1fr)',
      cell: (b) =>
        'shortcut' in b ? (
          <>
            <Tether state={b.shortcut.state} />
            <span className="name cut">{b.shortcut.name}</span>
          </>
        ) : 'search' in b ? (
          <>
            <SearchMark colour={b.search.colour} />
            <span className="name cut">{b.search.name}</span>
          </>
        ) : 'board' in b ? (
          <>
            <BoardMark />
            <span className="name cut">{b.board.name}</span>
          </>
        ) : (
          <>
            <CollectionMark colour={b.collection.colour} type={b.collection.type} />
            <span className="name cut">{b.collection.name}</span>
          </>
        ),
    },
    {
      id: 'kind',
      title: 'Kind',
      width: '90px',
      cell: (b) => (
        <span className="small">
          {'shortcut' in b
            ? kindWord(b.shortcut.kind)
            : 'search' in b
              ? 'saved search'
              : 'board' in b
                ? 'board'
                : 'collection'}
        </span>
      ),
    },
    {
      id: 'where',
      title: 'Its original lies at',
      width: 'minmax(160px, 1.4fr)',
      cell: (b) =>
        'shortcut' in b ? (
          <span className="small cut mono">{shown(b.shortcut.location)}</span>
        ) : 'search' in b ? (
          <span className="small cut mono">{b.search.query}</span>
        ) : (
          <span className="small">{('board' in b ? b.board : b.collection).count} things, all where they were</span>
        ),
    },
    {
      id: 'removed',
      title: 'Removed',
      width: '100px',
      cell: (b) => <span className="small">{shortDate(b.removedAt)}</span>,
    },
    {
      id: 'back',
      title: '',
      width: '100px',
      align: 'right',
      cell: (b) => (
        <Button variant="outlined" tabIndex={-1} onClick={() => putBack(b)}>
          Put back
        </Button>
      ),
    },
  ];
  return (
    <>
      <div className="small bin-line">
        Removed from the catalogue only: every original is where it always was.
        {rows.length > 0 && (
          <Button
            variant="outlined"
            className="push grave-text"
            onClick={() => openDialog({ kind: 'empty-bin', count: rows.length })}
          >
            Empty…
          </Button>
        )}
      </div>
      <Loaded of={together([bin, collections, searches, boards])} what="The bin">
        {() => (
          <Grid
            label="Removed"
            columns={columns}
            count={rows.length}
            item={(i) => rows[i]}
            keyOf={(s) => s.id}
            selectedKey={selected}
            onSelect={(s) => setSelected(s.id)}
            onOpen={putBack}
            empty={
              <EmptyState title="Nothing was removed">
                What you remove waits here, with its pin and its places in collections, until you put it back or for 30
                days.
              </EmptyState>
            }
          />
        )}
      </Loaded>
    </>
  );
}
