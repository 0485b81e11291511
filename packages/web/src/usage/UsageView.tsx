/** The usage that is recorded: shown in full, exported as CSV, paused, and forgotten for good. */
import { useState } from 'react';
import { Link } from 'react-router';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import type { ShortcutId, UsageSummary } from '@rellin/contract';
import { useCommands } from '../workspace/useCommands';
import { get, patch, post } from '../api/client';
import { useUsageSummary } from '../api/queries';
import { useWorkspaceActions } from '../workspace/workspace';
import { Loaded } from '../parts/Loaded';
import { shortDate } from '../parts/dates';
import { EmptyState } from '../parts/EmptyState';
import { FormDialog } from '../parts/FormDialog';
import { saveCsv } from '../parts/saveCsv';
import { partWords } from '../parts/weekParts';
import { ViewHead } from '../parts/Roving';
import './usage.css';

/** The ways by which things are opened, where the name alone would not say it. */
const ROUTES: Record<string, string> = {
  originals: 'through the folders',
  elsewhere: 'in another program',
  'pin-key': 'pin, by key',
  'pin-click': 'pin, by click',
  'pin-menu': 'collection on the strip',
  'pin-more': 'end of the strip',
  find: 'find line',
};

/** What is about to be forgotten, in words, and as the server is asked. */
interface Forgetting {
  words: string;
  body: { shortcutId?: ShortcutId; from?: string; to?: string };
}

export default function UsageView() {
  const known = useUsageSummary();
  const d = useCommands();
  const { say } = useWorkspaceActions();
  const [forgetting, setForgetting] = useState<Forgetting | null>(null);
  const [period, setPeriod] = useState(false);
  const use = known.data;
  const read = () => known.refetch();
  const record = (to: { recording?: boolean; recentFiles?: boolean }) =>
    d.attempt(async () => {
      await patch('/settings', to);
      await read();
    });
  const forget = (what: Forgetting) =>
    d.attempt(async () => {
      const { forgotten } = await post('/openings/forget', what.body);
      setForgetting(null);
      await read();
      say({ text: forgotten === 1 ? 'Forgot one opening' : `Forgot ${forgotten} openings`, tone: 'plain' });
    });
  return (
    <main className="view usage" id="view">
      <ViewHead>
        <h1>Your usage</h1>
        <span className="small">{use && `${use.total.toLocaleString('en-GB')} openings, on this machine only`}</span>
        <span className="push" />
        <Button variant="outlined" component={Link} to="/plan">
          Back to the plan
        </Button>
        <Button variant="outlined" disabled={!use?.total} onClick={() => void d.attempt(exportCsv)}>
          Export as CSV
        </Button>
      </ViewHead>
      <Loaded of={known} what="Your usage">
        {(use) => (
          <>
            <div className="line">
              <FormControlLabel
                control={
                  <Switch
                    checked={use.recording}
                    onChange={(event) => void record({ recording: event.target.checked })}
                  />
                }
                label={use.recording ? 'Openings are counted' : 'Paused: nothing is recorded'}
                slotProps={{ typography: { variant: 'body2' } }}
              />
              <FormControlLabel
                control={
                  <Switch
                    checked={use.recentFiles}
                    disabled={!use.recording}
                    onChange={(event) => void record({ recentFiles: event.target.checked })}
                  />
                }
                label="also in other programs, by the desktop’s list of recent files"
                slotProps={{ typography: { variant: 'body2' } }}
              />
              <span className="push" />
              <Button variant="outlined" disabled={use.total === 0} onClick={() => setPeriod(true)}>
                Forget a period…
              </Button>
              <Button
                variant="outlined"
                color="error"
                disabled={use.total === 0}
                onClick={() => setForgetting({ words: `all ${use.total} openings`, body: {} })}
              >
                Forget everything…
              </Button>
            </div>
            {use.total === 0 ? (
              <EmptyState title="No usage recorded yet">
                What you open from now on is counted here, and nowhere else.
              </EmptyState>
            ) : (
              <Tables use={use} onForget={setForgetting} />
            )}
          </>
        )}
      </Loaded>
      {period && (
        <PeriodDialog
          onClose={() => setPeriod(false)}
          onChosen={(what) => {
            setPeriod(false);
            setForgetting(what);
          }}
        />
      )}
      {forgetting && (
        <FormDialog
          title="Forget for good"
          submit="Forget"
          danger
          onClose={() => setForgetting(null)}
          onSubmit={(event) => {
            event.preventDefault();
            void forget(forgetting);
          }}
        >
          <p>
            Rellin forgets {forgetting.words}, in the journal as well. No undo brings them back. The files themselves
            and the shortcuts stay as they are.
          </p>
        </FormDialog>
      )}
    </main>
  );
}

function Tables({ use, onForget }: { use: UsageSummary; onForget(what: Forgetting): void }) {
  return (
    <div className="known">
      <section className="sheet">
        <table>
          <thead>
            <tr>
              <th scope="col">Opened</th>
              <th scope="col">Times</th>
              <th scope="col">Last</th>
              <th scope="col">
                <span className="hidden-text">Forget</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {use.items.map(({ shortcutId, name, count, lastAt }) => (
              <tr key={shortcutId ?? name}>
                <th scope="row">{name}</th>
                <td>{count}</td>
                <td>{shortDate(lastAt, new Date())}</td>
                <td>
                  {shortcutId && (
                    <Button
                      size="small"
                      aria-label={`Forget the openings of ${name}`}
                      onClick={() => onForget({ words: `the ${count} openings of “${name}”`, body: { shortcutId } })}
                    >
                      Forget…
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <div className="known-side">
        <Counts title="Part of the week" rows={use.parts.map((count, part) => [partWords(part), count])} />
        <Counts
          title="By which way"
          rows={use.routes.map(({ route, count }) => [ROUTES[route] ?? route.replaceAll('-', ' '), count])}
        />
        <Counts
          title="Day"
          rows={[...use.days].reverse().map(({ day, count }) => [shortDate(`${day}T12:00:00`, new Date()), count])}
        />
      </div>
    </div>
  );
}

/** Counts with a bar each on one scale; what is nought is left out. */
function Counts({ title, rows }: { title: string; rows: [string, number][] }) {
  const most = Math.max(1, ...rows.map(([, count]) => count));
  return (
    <section className="sheet">
      <table>
        <thead>
          <tr>
            <th scope="col">{title}</th>
            <th scope="col">Times</th>
          </tr>
        </thead>
        <tbody>
          {rows
            .filter(([, count]) => count > 0)
            .map(([words, count]) => (
              <tr key={words}>
                <th scope="row">{words}</th>
                <td>
                  <span className="count-bar" style={{ width: `${(count / most) * 60}px` }} />
                  {count}
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  );
}

function PeriodDialog({ onClose, onChosen }: { onClose(): void; onChosen(what: Forgetting): void }) {
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const start = new Date(`${from}T00:00:00`);
  const end = new Date(`${to}T23:59:59.999`);
  const isValid = start <= end;
  return (
    <FormDialog
      title="Forget a period"
      submit="Go on"
      busy={!isValid}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        if (!isValid) return;
        const words = from === to ? `what was opened on ${from}` : `what was opened from ${from} to ${to}`;
        onChosen({ words, body: { from: start.toISOString(), to: end.toISOString() } });
      }}
    >
      {(
        [
          ['From', from, setFrom],
          ['To, that day included', to, setTo],
        ] as const
      ).map(([label, value, set]) => (
        <TextField
          key={label}
          type="date"
          label={label}
          value={value}
          onChange={(event) => set(event.target.value)}
          slotProps={{ inputLabel: { shrink: true } }}
        />
      ))}
    </FormDialog>
  );
}

async function exportCsv(): Promise<void> {
  const all = await get('/openings/all');
  await saveCsv(
    'openings.csv',
    all.map(({ at, name, route, how }) => ({ at, name, route, how })),
  );
}
