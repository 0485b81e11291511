/** The start: what is likely next and why, what was opened lately, what needs a look. */
import { Link, useNavigate } from 'react-router';
import Button from '@mui/material/Button';
import type { LikelyView, OpeningRecord, ShortcutView } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { formatMinutes } from '@rellin/core/units';
import type { LikelyReason } from '@rellin/core/usage';
import { useCheckUp, useLikely, usePlan, useRecent, useShortcuts, useSweeps } from '../api/queries';
import { useSweptByItself } from '../sweeps/useSweptByItself';
import { dueWords, things } from '../sweeps/words';
import { runKey, useActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import { useSelection, useWorkspaceActions } from '../workspace/workspace';
import { ago } from '../parts/dates';
import { DragHandle } from '../parts/DragRow';
import { partWords, quarterWords } from '../parts/weekParts';
import { locationText } from '../parts/locationText';
import { useKnown, Loaded, Loading } from '../parts/Loaded';
import { EmptyState } from '../parts/EmptyState';
import { Grid, type Column } from '../parts/Grid';
import { KeyCap } from '../parts/KeyCap';
import { ReachRuler } from '../parts/ReachRuler';
import { STATE_WORDS, Tether } from '../parts/Tether';
import { ViewHead } from '../parts/Roving';
import './reach.css';

const MOST = 7;

const WEEKDAYS = ['Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'];

/** Why it is likely, in a few words. */
function reasonWords(reason: LikelyReason, perWeek: number): string {
  switch (reason.kind) {
    case 'after':
      return `after ${reason.item}, ${reason.times} times`;
    case 'weekday':
      return `${reason.times} of the last ${reason.of} ${WEEKDAYS[reason.weekday - 1]}`;
    case 'part':
      return reason.share >= 0.4 ? `mostly on ${partWords(reason.part)}` : `${perWeek.toFixed(1)} openings a week`;
    case 'rate':
      return `${perWeek.toFixed(1)} openings a week`;
  }
}

/** A shortcut with why it is likely; without a reason where nothing was opened yet. */
interface LikelyRow {
  shortcut: ShortcutView;
  reason: LikelyReason | undefined;
}

const isThere = (s: ShortcutView) => s.state === 'ready' || s.state === 'followed' || s.state === 'saved-over';

const COLUMNS: Column<LikelyRow>[] = [
  {
    id: 'name',
    title: 'Name',
    width: 'minmax(180px, 2fr)',
    cell: ({ shortcut: s }) => (
      <DragHandle id={`reach-${s.id}`} item={{ type: 'shortcut', shortcut: s }}>
        <Tether state={s.state} />
        <span className="two-lines">
          <span className="name cut">{s.name}</span>
          <span className="small cut">{locationText(s)}</span>
        </span>
      </DragHandle>
    ),
  },
  {
    id: 'why',
    title: 'Why',
    width: 'minmax(110px, 1fr)',
    cell: ({ shortcut: s, reason }) => (
      <span className="small">
        {isThere(s) ? reasonWords(reason ?? { kind: 'rate' }, s.perWeek) : STATE_WORDS[s.state].toLowerCase()}
      </span>
    ),
  },
  {
    id: 'reach',
    title: 'Reach · by folders',
    width: '174px',
    cell: ({ shortcut: s }) => <ReachRuler reach={s.reach} width={166} />,
  },
  {
    id: 'pin',
    title: '',
    width: '26px',
    align: 'right',
    cell: ({ shortcut: s }) => (s.pinSlot === null ? '' : <KeyCap>{s.pinSlot}</KeyCap>),
  },
];

/** The latest openings, each thing once. */
export function latest(records: readonly OpeningRecord[], most: number): OpeningRecord[] {
  const seen = new Set<string>();
  return records.filter((r) => {
    const key = r.shortcutId ?? r.name;
    return !seen.has(key) && seen.add(key) && seen.size <= most;
  });
}

/** The likeliest; where nothing was opened yet, what there is by its use. */
function rowsOf(all: readonly ShortcutView[], likely: LikelyView | undefined): LikelyRow[] {
  const byId = new Map(all.map((s) => [s.id, s]));
  const rows = (likely?.items ?? []).flatMap(({ shortcutId, reason }): LikelyRow[] => {
    const shortcut = byId.get(shortcutId);
    return shortcut ? [{ shortcut, reason }] : [];
  });
  if (rows.length > 0) return rows;
  return [...all]
    .sort((a, b) => b.weight - a.weight)
    .slice(0, MOST)
    .map((shortcut) => ({ shortcut, reason: undefined }));
}

/** "Tuesday morning, after Tide table". */
function momentWords({ at, part, after }: LikelyView): string {
  const weekday = new Intl.DateTimeFormat('en-GB', { weekday: 'long' }).format(new Date(at));
  return `${weekday} ${quarterWords(part)}${after ? `, after ${after}` : ''}`;
}

export default function ReachView() {
  const shortcuts = useShortcuts();
  const recent = useRecent();
  const { selected } = useSelection();
  const { select, openMenu } = useWorkspaceActions();
  const acts = useActs('reach');
  const navigate = useNavigate();
  const d = useCommands();
  const all = shortcuts.data ?? [];
  const likely = useLikely();
  const rows = rowsOf(all, likely.data);
  const opened = latest(recent.data ?? [], 6);
  const checkUp = useCheckUp();
  const plan = usePlan().data;
  const sweeps = (useSweeps().data ?? []).filter((s) => s.isDue);
  const byItself = useSweptByItself();
  const gain = plan ? plan.now - plan.planned : 0;
  const needs = checkUp.data ? checkUp.data.folderMoves.length + checkUp.data.needs.length : 0;
  // what comes below waits for what is above it, so that nothing slips away under the pointer
  const stands = useKnown(shortcuts, likely, recent);
  const needsKnown = useKnown(checkUp);
  if (shortcuts.isSuccess && all.length === 0)
    return (
      <main className="view" id="view">
        <h1 className="hidden-text">Reach</h1>
        <EmptyState
          title="Nothing is within reach yet"
          action={
            <Button variant="contained" onClick={() => void navigate('/set-up')}>
              Begin with what is there
            </Button>
          }
        >
          Make a shortcut to something you open every day, and pin it: from then on it is one key away, wherever it
          lies.
        </EmptyState>
      </main>
    );
  return (
    <main className="view" id="view">
      <ViewHead>
        <h1>Likely next</h1>
        <span className="small">{likely.data && momentWords(likely.data)}</span>
      </ViewHead>
      <div className="often">
        <Loaded of={shortcuts} what="The catalogue">
          {() =>
            likely.isPending ? (
              <Loading />
            ) : (
              <Grid
                label="Likely next"
                columns={COLUMNS}
                rowHeight={45}
                count={rows.length}
                item={(i) => rows[i]}
                keyOf={(row) => row.shortcut.id}
                nameOf={(row) => row.shortcut.name}
                hintOf={(row) => row.shortcut.description}
                selectedKey={selected?.type === 'shortcut' ? selected.id : undefined}
                onSelect={(row) => select({ type: 'shortcut', id: row.shortcut.id })}
                onOpen={(row) => void d.open({ shortcutId: row.shortcut.id, route: 'reach' })}
                onMenu={(row, at) => openMenu({ type: 'shortcut', shortcut: row.shortcut }, at)}
                onKey={(event, row) => runKey(acts({ type: 'shortcut', shortcut: row.shortcut }), event.key)}
              />
            )
          }
        </Loaded>
      </div>
      {stands && (
        <>
          <ViewHead>
            <h2>Recent</h2>
            <span className="small">here or in another program</span>
          </ViewHead>
          {opened.length === 0 ? (
            <p className="small">What you open shows here.</p>
          ) : (
            <ul className="recent sheet">
              {opened.map((r) => {
                const s = all.find((x) => x.id === r.shortcutId);
                return (
                  <li key={r.id}>
                    <button
                      type="button"
                      disabled={!s}
                      onClick={() => s && select({ type: 'shortcut', id: s.id })}
                      onDoubleClick={() => s && void d.open({ shortcutId: s.id, route: 'reach' })}
                    >
                      <span className="tether-slot">{s && <Tether state={s.state} />}</span>
                      <span className="name cut">{shown(r.name)}</span>
                      <span className="small">{ago(r.at)}</span>
                    </button>
                  </li>
                );
              })}
            </ul>
          )}
        </>
      )}
      {stands && needsKnown && (
        <ViewHead>
          {sweeps.map((sweep) => (
            <Link key={sweep.id} className="chip attention" to={`/sweeps/${sweep.id}`}>
              {dueWords(sweep)}
            </Link>
          ))}
          {byItself && (
            <Link className="chip" to="/sweeps">
              {byItself.name} was swept by itself: {things(byItself.went.reduce((sum, w) => sum + w.count, 0))}
            </Link>
          )}
          {needs > 0 && (
            <Link className="chip attention" to="/check-up">
              {needs === 1 ? 'One thing needs you' : `${needs} things need you`}
            </Link>
          )}
          {gain >= 1 && (
            <Link className="chip" to="/plan">
              Plan: could save {formatMinutes(gain)} a week
            </Link>
          )}
        </ViewHead>
      )}
    </main>
  );
}
