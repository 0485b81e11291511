/** The start: what is opened most, what was opened lately, what needs a look. */
import { Link, useNavigate } from 'react-router';
import Button from '@mui/material/Button';
import type { OpeningRecord, ShortcutView } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { useCheckUp, useRecent, useShortcuts } from '../api/queries';
import { runKey, useActs } from '../acts/useActs';
import { useDo } from '../acts/useDo';
import { useDesk } from '../frame/desk';
import { ago } from '../parts/dates';
import { DragHandle } from '../parts/DragRow';
import { whereabouts } from '../parts/whereabouts';
import { EmptyState } from '../parts/EmptyState';
import { Grid, type Column } from '../parts/Grid';
import { KeyCap } from '../parts/KeyCap';
import { ReachRuler } from '../parts/ReachRuler';
import { STATE_WORDS, Tether } from '../parts/Tether';
import './reach.css';

const MOST = 7;

const COLUMNS: Column<ShortcutView>[] = [
  {
    id: 'name',
    title: 'Name',
    width: 'minmax(180px, 2fr)',
    cell: (s) => (
      <DragHandle id={`reach-${s.id}`} item={{ type: 'shortcut', shortcut: s }}>
        <Tether state={s.state} />
        <span className="two-lines">
          <span className="name cut">{s.name}</span>
          <span className="small cut">{whereabouts(s)}</span>
        </span>
      </DragHandle>
    ),
  },
  {
    id: 'why',
    title: 'Why',
    width: 'minmax(110px, 1fr)',
    cell: (s) => (
      <span className="small">
        {s.state === 'ready' || s.state === 'followed' || s.state === 'saved-over'
          ? `${s.perWeek.toFixed(1)} openings a week`
          : STATE_WORDS[s.state].toLowerCase()}
      </span>
    ),
  },
  { id: 'reach', title: 'Reach, and on foot', width: '174px', cell: (s) => <ReachRuler reach={s.reach} width={166} /> },
  {
    id: 'pin',
    title: '',
    width: '26px',
    align: 'right',
    cell: (s) => (s.pinSlot === null ? '' : <KeyCap>{s.pinSlot}</KeyCap>),
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

export default function ReachView() {
  const shortcuts = useShortcuts();
  const recent = useRecent().data ?? [];
  const { selected, select, openMenu } = useDesk();
  const acts = useActs('reach');
  const navigate = useNavigate();
  const d = useDo();
  const all = shortcuts.data ?? [];
  const often = [...all].sort((a, b) => b.weight - a.weight).slice(0, MOST);
  const checkUp = useCheckUp().data;
  const needs = checkUp ? checkUp.folderMoves.length + checkUp.needs.length : 0;
  if (shortcuts.isSuccess && all.length === 0)
    return (
      <main className="view" id="view">
        <h1 className="hidden-text">Reach</h1>
        <EmptyState
          title="Nothing is within reach yet"
          action={
            <Button variant="contained" onClick={() => void navigate('/originals')}>
              Walk your places
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
      <div className="view-head">
        <h1>Opened most</h1>
        <span className="small">what you opened lately counts more</span>
      </div>
      <div className="often">
        {shortcuts.data && (
          <Grid
            label="Opened most"
            columns={COLUMNS}
            rowHeight={45}
            count={often.length}
            item={(i) => often[i]}
            keyOf={(s) => s.id}
            selectedKey={selected?.type === 'shortcut' ? selected.id : undefined}
            onSelect={(s) => select({ type: 'shortcut', id: s.id })}
            onOpen={(s) => void d.open({ shortcutId: s.id, route: 'reach' })}
            onMenu={(s, at) => openMenu({ type: 'shortcut', shortcut: s }, at)}
            onKey={(event, s) => runKey(acts({ type: 'shortcut', shortcut: s }), event.key)}
          />
        )}
      </div>
      <div className="view-head">
        <h2>Recent</h2>
        <span className="small">as Rellin opened it</span>
      </div>
      {recent.length === 0 ? (
        <p className="small">What you open shows here.</p>
      ) : (
        <ul className="recent sheet">
          {latest(recent, 6).map((r) => {
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
      {needs > 0 && (
        <div className="view-head">
          <Link className="chip attention" to="/check-up">
            {needs === 1 ? 'One thing needs you' : `${needs} things need you`}
          </Link>
        </div>
      )}
    </main>
  );
}
