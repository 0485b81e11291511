/** Cluttered folders: the sweeps that are kept, what has gathered for each, one to look at, and the log of all. */
import { useState } from 'react';
import Button from '@mui/material/Button';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { formatBytes } from '@rellin/core/units';
import type { OriginalRef, SweepRunView, SweepView } from '@rellin/contract';
import { post } from '../api/client';
import { idIn } from '../api/idIn';
import { useSweeps } from '../api/queries';
import { Chooser } from '../parts/Chooser';
import { fullDate, shortDate } from '../parts/dates';
import { EmptyState } from '../parts/EmptyState';
import { Grid, type Column } from '../parts/Grid';
import { Loaded, Loading } from '../parts/Loaded';
import { ViewHead } from '../parts/Roving';
import { useCommands } from '../workspace/useCommands';
import { useWorkspaceActions } from '../workspace/workspace';
import { draftOf, NEW_SWEEP } from './draft';
import { SweepPane } from './SweepPane';
import { useSweepActs } from './useSweepActs';
import { useSweepLog } from './useSweptByItself';
import { backlogWords, things } from './words';
import './sweeps.css';

export default function SweepsView() {
  const { sweepId } = useParams();
  const [params] = useSearchParams();
  return (
    <main
      className="view fills sweeps"
      id="view"
      // digits are destinations here: none of them opens a pin
      onKeyDown={(event) => {
        if (/^[1-9]$/.test(event.key) && sweepId !== undefined) event.stopPropagation();
      }}
    >
      {sweepId === undefined ? (
        <Overview />
      ) : sweepId === 'new' ? (
        <NewSweepPane key={params.get('in')} refs={refsIn(params.get('in') ?? '')} />
      ) : (
        <KeptSweep key={sweepId} id={sweepId} />
      )}
    </main>
  );
}

/** "2/17,2/40": places and folders. */
function refsIn(text: string): OriginalRef[] {
  return text.split(',').flatMap((part): OriginalRef[] => {
    const [placeId, originalId] = part.split('/').map(idIn);
    return placeId === undefined || originalId === undefined ? [] : [{ placeId, originalId }];
  });
}

function NewSweepPane({ refs }: { refs: OriginalRef[] }) {
  if (refs.length === 0) return <NotThere title="This address names no folder" />;
  return <SweepPane sweep={undefined} begin={{ ...NEW_SWEEP, name: '', folders: refs }} />;
}

function KeptSweep({ id }: { id: string }) {
  const all = useSweeps();
  if (!all.data) return <Loading />;
  const sweep = all.data.find((s) => s.id === id);
  if (!sweep) return <NotThere title="That sweep is not kept any more" />;
  if (sweep.folders.length === 0)
    return (
      <EmptyState title={`The folder of “${sweep.name}” is not there`}>
        It was deleted, or lies on a drive that is away. The sweep stays, and counts again when it is back.
      </EmptyState>
    );
  // what is saved meanwhile is looked at anew
  return <SweepPane key={JSON.stringify(draftOf(sweep))} sweep={sweep} begin={draftOf(sweep)} />;
}

function NotThere({ title }: { title: string }) {
  return (
    <EmptyState
      title={title}
      action={
        <Button variant="contained" component={Link} to="/sweeps">
          All sweeps
        </Button>
      }
    >
      It was deleted, perhaps in another window; its folder and all files stay as they are.
    </EmptyState>
  );
}

function Overview() {
  const kept = useSweeps();
  const log = useSweepLog();
  const [params, setParams] = useSearchParams();
  const [isAsked, setAsked] = useState(false);
  const isChoosing = isAsked || params.has('choose');
  const close = () => {
    setAsked(false);
    if (params.has('choose')) setParams({}, { replace: true });
  };
  const navigate = useNavigate();
  const d = useCommands();
  const choose = (path: string) =>
    d.attempt(async () => {
      const { placeId, folderId } = await post('/originals/locate', { path });
      setAsked(false);
      void navigate(`/sweeps/new?in=${placeId}/${folderId}`);
    });
  const sweepButton = (
    <Button variant="contained" onClick={() => setAsked(true)}>
      Sweep a folder…
    </Button>
  );
  return (
    <>
      <ViewHead>
        <h1>Sweeps</h1>
        <span className="small">clear a cluttered folder into the folders where things belong</span>
        <span className="push" />
        {sweepButton}
      </ViewHead>
      <Loaded of={kept} what="The sweeps">
        {(sweeps) =>
          sweeps.length === 0 ? (
            <EmptyState title="No sweep is kept yet" action={sweepButton}>
              Choose a folder where things gather: downloads, scans, the desktop. Rellin shows what lies there and where
              each thing belongs. Nothing moves before you say so, and one undo puts all of it back.
            </EmptyState>
          ) : (
            <ul className="sweep-cards">
              {sweeps.map((sweep) => (
                <SweepCard key={sweep.id} sweep={sweep} />
              ))}
            </ul>
          )
        }
      </Loaded>
      <ViewHead>
        <h2>Done</h2>
      </ViewHead>
      <Loaded of={log} what="The log">
        {(runs) => <Log runs={runs} />}
      </Loaded>
      {isChoosing && (
        <Chooser title="Sweep which folder?" want="folder" onClose={close} onChoose={(path) => void choose(path)} />
      )}
    </>
  );
}

function SweepCard({ sweep }: { sweep: SweepView }) {
  const acts = useSweepActs();
  const { openDialog } = useWorkspaceActions();
  const { things: most, size, days } = sweep.threshold;
  const says = [
    ...(most === null ? [] : [most === 1 ? 'as soon as something comes' : `from ${things(most)} on`]),
    ...(size === null ? [] : [`from ${formatBytes(size)} on`]),
    ...(days === null ? [] : [`after ${days} days`]),
  ];
  return (
    <li className={`sweep-card sheet${sweep.isDue ? ' due' : ''}`}>
      <div>
        <h2 className="cut">
          <Link to={`/sweeps/${sweep.id}`}>{sweep.name}</Link>
        </h2>
        <p className={sweep.isDue ? 'sweep-due' : ''}>{backlogWords(sweep)}</p>
        <p className="small cut">
          {sweep.folderNames.join(', ') || 'its folder is not there'} ·{' '}
          {sweep.rules.length === 1 ? 'one rule' : `${sweep.rules.length} rules`}
          {says.length > 0 && ` · says so ${says.join(', ')}`}
          {sweep.byItself && ' · by itself'}
          {sweep.sweptAt && ` · last swept ${shortDate(sweep.sweptAt)}`}
        </p>
      </div>
      <span className="sweep-card-acts">
        <Button variant={sweep.isDue ? 'contained' : 'outlined'} component={Link} to={`/sweeps/${sweep.id}`}>
          Look at it
        </Button>
        <Button variant="outlined" onClick={() => openDialog({ kind: 'save-sweep', draft: draftOf(sweep), sweep })}>
          Change…
        </Button>
        <Button variant="outlined" className="grave-text" onClick={() => void acts.remove(sweep)}>
          Delete
        </Button>
      </span>
    </li>
  );
}

function Log({ runs }: { runs: readonly SweepRunView[] }) {
  const acts = useSweepActs();
  const [selected, setSelected] = useState<string>();
  const columns: Column<SweepRunView>[] = [
    {
      id: 'when',
      title: 'When',
      width: '104px',
      cell: (r) => (
        <span className="small" title={fullDate(r.at)}>
          {shortDate(r.at)}
        </span>
      ),
    },
    {
      id: 'what',
      title: 'Swept',
      width: 'minmax(140px, 0.8fr)',
      cell: (r) => (
        <span className={r.undoneAt ? 'cut sweep-undone' : 'cut'}>
          {r.name}
          {r.by === 'automatic' && <span className="small"> by itself</span>}
        </span>
      ),
    },
    {
      id: 'went',
      title: 'Went to',
      width: 'minmax(240px, 2fr)',
      cell: (r) => <span className="small cut">{r.went.map((w) => `${w.to} ${w.count}`).join(', ')}</span>,
    },
    {
      id: 'left',
      title: 'Stayed',
      width: '64px',
      align: 'right',
      cell: (r) => <span className="small">{r.left || ''}</span>,
    },
    {
      id: 'links',
      title: 'Links until',
      width: '96px',
      align: 'right',
      cell: (r) => <span className="small">{r.linksUntil && !r.undoneAt ? shortDate(r.linksUntil) : ''}</span>,
    },
    {
      id: 'undo',
      title: '',
      width: '84px',
      align: 'right',
      cell: (r) =>
        r.undoneAt ? (
          <span className="small">undone</span>
        ) : (
          r.journalId !== null && (
            <Button variant="outlined" tabIndex={-1} onClick={() => void acts.undo(r)}>
              Undo
            </Button>
          )
        ),
    },
  ];
  return (
    <Grid
      label="Sweeps that were done"
      columns={columns}
      count={runs.length}
      item={(i) => runs[i]}
      keyOf={(r) => r.id}
      nameOf={(r) => r.name}
      selectedKey={selected}
      onSelect={(r) => setSelected(r.id)}
      onOpen={(r) => r.undoneAt === null && r.journalId !== null && void acts.undo(r)}
      empty={<EmptyState title="Nothing was swept yet">Each sweep stands here, with its undo.</EmptyState>}
    />
  );
}
