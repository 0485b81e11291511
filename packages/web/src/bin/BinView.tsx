/** Removed shortcuts; each goes back where it was. Originals are never in here. */
import Button from '@mui/material/Button';
import type { ShortcutView } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { useState } from 'react';
import { useBin } from '../api/queries';
import { useDo } from '../acts/useDo';
import { EmptyState } from '../parts/EmptyState';
import { Grid, type Column } from '../parts/Grid';
import { shortDate } from '../parts/dates';
import { Tether } from '../parts/Tether';

export default function BinView() {
  const bin = useBin();
  const d = useDo();
  const [selected, setSelected] = useState<string>();
  const rows = [...(bin.data ?? [])].sort((a, b) => b.removedAt!.localeCompare(a.removedAt!));
  const columns: Column<ShortcutView>[] = [
    {
      id: 'name',
      title: 'Name',
      width: 'minmax(160px, 1fr)',
      cell: (s) => (
        <>
          <Tether state={s.state} />
          <span className="name cut">{s.name}</span>
        </>
      ),
    },
    { id: 'kind', title: 'Kind', width: '90px', cell: (s) => <span className="small">{kindWord(s.kind)}</span> },
    {
      id: 'where',
      title: 'Its original lies at',
      width: 'minmax(160px, 1.4fr)',
      cell: (s) => <span className="small cut mono">{shown(s.location)}</span>,
    },
    {
      id: 'removed',
      title: 'Removed',
      width: '100px',
      cell: (s) => <span className="small">{shortDate(s.removedAt!)}</span>,
    },
    {
      id: 'back',
      title: '',
      width: '100px',
      align: 'right',
      cell: (s) => (
        <Button variant="outlined" tabIndex={-1} onClick={() => void d.putBack(s)}>
          Put back
        </Button>
      ),
    },
  ];
  return (
    <main className="view fills" id="view">
      <div className="view-head">
        <h1>Bin</h1>
        <span className="small">removed shortcuts; their originals are where they always were</span>
      </div>
      {bin.data && (
        <Grid
          label="Removed shortcuts"
          columns={columns}
          count={rows.length}
          item={(i) => rows[i]}
          keyOf={(s) => s.id}
          selectedKey={selected}
          onSelect={(s) => setSelected(s.id)}
          onOpen={(s) => void d.putBack(s)}
          empty={
            <EmptyState title="The bin is empty">
              A shortcut you remove waits here, with its pin, until you put it back.
            </EmptyState>
          }
        />
      )}
    </main>
  );
}
