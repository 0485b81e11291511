/** Originals in the bins of all disks: what lies there, since when, what it takes; restored, or deleted for good. */
import { useMemo, useState } from 'react';
import Button from '@mui/material/Button';
import type { DeletedOriginal, DiskBin } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { parentOf, shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { post } from '../api/client';
import { useDeleted, usePlaces } from '../api/queries';
import { Chooser } from '../parts/Chooser';
import { fullDate, shortDate } from '../parts/dates';
import { EmptyState } from '../parts/EmptyState';
import { Grid, type Column } from '../parts/Grid';
import { KindIcon } from '../parts/KindIcon';
import { Loaded } from '../parts/Loaded';
import { roving } from '../parts/Roving';
import { trailOf } from '../parts/trailOf';
import { useCommands } from '../workspace/useCommands';
import { useWorkspaceActions } from '../workspace/workspace';

type Row = DeletedOriginal & { bin: string };
type SortBy = 'name' | 'deleted' | 'takes' | 'bin';

const BY: Record<SortBy, (a: Row, b: Row) => number> = {
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
  deleted: (a, b) => (a.deletedAt ?? '').localeCompare(b.deletedAt ?? ''),
  takes: (a, b) => a.takes - b.takes,
  bin: (a, b) => a.bin.localeCompare(b.bin),
};

export function DeletedPart() {
  const deleted = useDeleted();
  return (
    <Loaded of={deleted} what="The bin">
      {(bins) => <Deleted bins={bins} />}
    </Loaded>
  );
}

function Deleted({ bins }: { bins: readonly DiskBin[] }) {
  const d = useCommands();
  const { openDialog } = useWorkspaceActions();
  const places = usePlaces().data ?? [];
  const [sort, setSort] = useState<{ by: SortBy; descending: boolean }>({ by: 'deleted', descending: true });
  const [selected, setSelected] = useState<string>();
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [choosing, setChoosing] = useState<readonly Row[]>();
  const rows = useMemo(() => {
    const all = bins.flatMap((bin) => bin.originals.map((o): Row => ({ ...o, bin: bin.name })));
    const by = BY[sort.by];
    return all.sort((a, b) => (sort.descending ? -by(a, b) : by(a, b)) || BY.name(a, b));
  }, [bins, sort]);
  const keys = new Set(chosen);
  const many = rows.filter((r) => keys.has(r.id));
  const meant = many.length > 0 ? many : rows.filter((r) => r.id === selected);
  const them = meant.length > 1 ? ` ${meant.length}` : '';
  const expunge = (originals: Row[], isAll = false) => openDialog({ kind: 'expunge', originals, isAll });
  const restoreTo = (path: string) =>
    d.attempt(async () => {
      const { placeId, folderId } = await post('/originals/locate', { path });
      const of = choosing ?? [];
      setChoosing(undefined);
      await d.restore(of, { placeId, originalId: folderId });
    });
  const columns: Column<Row>[] = [
    {
      id: 'name',
      title: 'Name',
      width: 'minmax(180px, 1.2fr)',
      sortable: true,
      cell: (r) => (
        <>
          <KindIcon kind={r.kind} />
          <span className="cut" title={r.name}>
            {r.name}
          </span>
        </>
      ),
    },
    {
      id: 'from',
      title: 'Lay in',
      width: 'minmax(160px, 1.4fr)',
      cell: (r) => (
        <span className="small cut" title={r.path === null ? undefined : shown(r.path)}>
          {r.path === null ? 'not known' : trailOf(parentOf(r.path), places)}
        </span>
      ),
    },
    {
      id: 'deleted',
      title: 'Deleted',
      width: '104px',
      sortable: true,
      cell: (r) => (
        <span className="small" title={r.deletedAt ? fullDate(r.deletedAt) : undefined}>
          {r.deletedAt ? shortDate(r.deletedAt) : 'not known'}
        </span>
      ),
    },
    {
      id: 'by',
      title: 'By',
      width: '118px',
      cell: (r) => <span className="small">{r.byRellin ? 'Rellin' : 'another program'}</span>,
    },
    {
      id: 'bin',
      title: 'Bin of',
      width: '116px',
      sortable: true,
      cell: (r) => <span className="small cut">{r.bin}</span>,
    },
    {
      id: 'takes',
      title: 'Takes',
      width: '80px',
      align: 'right',
      sortable: true,
      cell: (r) => <span className="small">{formatBytes(r.takes)}</span>,
    },
    {
      id: 'back',
      title: '',
      width: '92px',
      align: 'right',
      cell: (r) => (
        <Button variant="outlined" tabIndex={-1} onClick={() => void d.restore([r])}>
          Restore
        </Button>
      ),
    },
  ];
  return (
    <>
      <div className="small bin-line">
        {bins.map((b) => (
          <span key={b.name} className={`bin-volume ${b.state}`}>
            <strong>{b.name}</strong> {stateOf(b)}
          </span>
        ))}
        {rows.length > 0 && (
          <span className="push bin-acts" role="toolbar" aria-label="Deleted originals" {...roving}>
            <Button variant="outlined" disabled={meant.length === 0} onClick={() => void d.restore(meant)}>
              Restore{them}
            </Button>
            <Button variant="outlined" disabled={meant.length === 0} onClick={() => setChoosing(meant)}>
              Restore to…
            </Button>
            <Button
              variant="outlined"
              className="grave-text"
              disabled={meant.length === 0}
              onClick={() => expunge(meant)}
            >
              Delete{them} for good…
            </Button>
            <Button variant="outlined" className="grave-text" onClick={() => expunge(rows, true)}>
              Empty all…
            </Button>
          </span>
        )}
      </div>
      <Grid
        label="Deleted originals"
        columns={columns}
        count={rows.length}
        item={(i) => rows[i]}
        keyOf={(r) => r.id}
        nameOf={(r) => r.name}
        hintOf={(r) =>
          `${kindWord(r.kind)}, ${r.path === null ? 'where it lay is not known' : `lay at ${shown(r.path)}`}`
        }
        selectedKey={selected}
        chosen={keys}
        onChoose={setChosen}
        sort={sort}
        onSort={(by) => setSort((s) => ({ by: by as SortBy, descending: s.by === by && !s.descending }))}
        onSelect={(r) => setSelected(r.id)}
        onOpen={(r) => void d.restore(keys.has(r.id) ? many : [r])}
        onKey={(event, r) => {
          if (event.key !== 'Delete') return false;
          expunge(keys.has(r.id) ? many : [r]);
          return true;
        }}
        empty={
          <EmptyState title="No deleted originals">
            What you delete in Originals goes into the bin of its disk, which other programs share, and stays there
            until it is restored or deleted for good.
          </EmptyState>
        }
      />
      {choosing && (
        <Chooser
          title={`Restore ${choosing.length === 1 ? `“${choosing[0]!.name}”` : `${choosing.length} originals`} to…`}
          want="folder"
          onClose={() => setChoosing(undefined)}
          onChoose={(path) => void restoreTo(path)}
        />
      )}
    </>
  );
}

function stateOf(b: DiskBin): string {
  if (b.state === 'away') return 'is away, and its bin with it';
  if (b.trouble !== '') return `cannot be read: ${b.trouble}`;
  if (b.originals.length === 0) return 'empty';
  return `${b.originals.length} ${b.originals.length === 1 ? 'original' : 'originals'}, ${formatBytes(b.takes)}`;
}
