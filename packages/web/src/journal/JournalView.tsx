/** Everything done, newest first; each line can be undone. */
import { useState } from 'react';
import Button from '@mui/material/Button';
import type { JournalLine, JournalLineId } from '@rellin/contract';
import { useJournal } from '../api/queries';
import { readAgain } from '../api/changes';
import { post } from '../api/client';
import { useCommands } from '../workspace/useCommands';
import { useWorkspaceActions } from '../workspace/workspace';
import { Loaded } from '../parts/Loaded';
import { EmptyState } from '../parts/EmptyState';
import { Grid, type Column } from '../parts/Grid';
import { shortDate } from '../parts/dates';
import { ViewHead } from '../parts/Roving';

export default function JournalView() {
  const [openings, setOpenings] = useState(false);
  const journal = useJournal(500);
  const d = useCommands();
  const { say } = useWorkspaceActions();
  const [selected, setSelected] = useState<JournalLineId>();
  const lines = (journal.data ?? []).filter((line) => openings || line.act !== 'open');
  const undo = (line: JournalLine) =>
    d.attempt(async () => {
      await post(`/journal/${line.id}/undo`);
      await readAgain();
      say({ text: `Undone: ${line.summary}`, tone: 'plain' });
    });
  const columns: Column<JournalLine>[] = [
    {
      id: 'when',
      title: 'When',
      width: '110px',
      cell: (l) => <span className="small">{shortDate(l.at, new Date())}</span>,
    },
    {
      id: 'what',
      title: 'What was done',
      width: 'minmax(200px, 1fr)',
      cell: (l) => (
        <span
          className="cut"
          style={l.undoneAt ? { textDecoration: 'line-through', color: 'var(--third)' } : undefined}
          title={l.summary}
        >
          {l.summary}
        </span>
      ),
    },
    {
      id: 'by',
      title: 'By',
      width: '70px',
      cell: (l) => <span className="small">{l.by === 'person' ? 'you' : 'Rellin'}</span>,
    },
    {
      id: 'undo',
      title: '',
      width: '120px',
      align: 'right',
      cell: (l) =>
        l.undoneAt ? (
          <span className="small">undone</span>
        ) : (
          <button type="button" className="undo" tabIndex={-1} onClick={() => void undo(l)}>
            {l.act === 'open' ? 'Forget' : 'Undo'}
          </button>
        ),
    },
  ];
  return (
    <main className="view fills" id="view">
      <ViewHead>
        <h1>Journal</h1>
        <button type="button" className="chip" aria-pressed={openings} onClick={() => setOpenings(!openings)}>
          Openings too
        </button>
        <span className="push" />
        <Button variant="outlined" onClick={() => void d.undo()}>
          Undo
        </Button>
        <Button variant="outlined" onClick={() => void d.redo()}>
          Redo
        </Button>
      </ViewHead>
      <Loaded of={journal} what="The journal">
        {() => (
          <Grid
            label="Journal"
            columns={columns}
            rowHeight={42}
            count={lines.length}
            item={(i) => lines[i]}
            keyOf={(l) => l.id}
            selectedKey={selected}
            onSelect={(l) => setSelected(l.id)}
            onOpen={(l) => {
              if (!l.undoneAt) void undo(l);
            }}
            empty={
              <EmptyState title="Nothing was done yet">
                Every act on your catalogue gets a line here, with an undo.
              </EmptyState>
            }
          />
        )}
      </Loaded>
    </main>
  );
}
