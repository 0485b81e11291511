import { lazy, Suspense } from 'react';
import Button from '@mui/material/Button';
import { kindWord } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { useShortcut } from '../api/queries';
import { MoreButton } from '../acts/MoreButton';
import { useActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import { useWorkspaceActions } from '../workspace/workspace';
import { fullDate, shortDate } from '../parts/dates';
import { InBin } from '../bin/InBin';
import { KeyCap } from '../parts/KeyCap';
import { Picture } from '../parts/Picture';
import { ReachRuler } from '../parts/ReachRuler';
import { STATE_WORDS, Tether } from '../parts/Tether';
import { GoesWith, PlacedIn } from './PlacedIn';
import { reachSentence, RouteTable } from './RouteTable';
import { TrailSteps } from './TrailSteps';

const AliasesOf = lazy(() => import('../aliases/CardParts').then((m) => ({ default: m.AliasesOf })));
const WeeklyChart = lazy(() => import('./WeeklyChart'));

export function ShortcutCard({ id }: { id: string }) {
  const shortcut = useShortcut(id);
  const actsOf = useActs('card');
  const d = useCommands();
  const { openDialog } = useWorkspaceActions();
  if (shortcut.isError) return <p className="small">{shortcut.error.message}</p>;
  const s = shortcut.data;
  if (!s) return null;
  const acts = actsOf({ type: 'shortcut', shortcut: s });
  const facts = [
    STATE_WORDS[s.state],
    kindWord(s.kind),
    ...(s.size === null ? [] : [formatBytes(s.size)]),
    ...(s.modified === null ? [] : [`changed ${shortDate(s.modified)}`]),
  ];
  return (
    <>
      <header className="card-head">
        {(s.picture !== '' || s.target === 'program') && <Picture of={s} size={34} />}
        <h2 title={s.name}>{s.name}</h2>
        {s.pinSlot !== null && <KeyCap>{s.pinSlot}</KeyCap>}
      </header>
      <p className="card-facts small">
        <Tether state={s.state} /> {facts.join(' · ')}
      </p>
      {s.stateReason && (
        <div className={`card-note ${s.state}`} role="status">
          <p>{s.stateReason}</p>
          <p className="small">Since {fullDate(s.stateSince)}</p>
          {(s.state === 'followed' || s.state === 'saved-over') && (
            <Button variant="outlined" onClick={() => void d.acknowledge(s.id)}>
              Mark as seen
            </Button>
          )}
          {s.state === 'unsure' &&
            s.candidates.map((c) => (
              <div key={`${c.placeId}/${c.originalId}`} className="candidate">
                <span className="mono small">{shown(c.path)}</span>
                <Button variant="outlined" onClick={() => void d.repoint(s.id, c.path)}>
                  Point here
                </Button>
              </div>
            ))}
          {s.state === 'lost' && <InBin path={s.location} />}
          {s.state === 'lost' && (
            <Button variant="outlined" onClick={() => openDialog({ kind: 'repoint', shortcut: s })}>
              Change target…
            </Button>
          )}
        </div>
      )}
      <div className="card-acts">
        <Button
          variant="contained"
          className="on-spruce"
          onClick={() => void d.open({ shortcutId: s.id, route: 'card' })}
          endIcon={<KeyCap>↵</KeyCap>}
        >
          Open
        </Button>
        {s.target === 'web' ? (
          <Button variant="outlined" onClick={() => void d.copy(s.location)}>
            Copy address
          </Button>
        ) : (
          <Button variant="outlined" onClick={() => d.showWhereItIs(s)}>
            Show where it is
          </Button>
        )}
        <MoreButton acts={acts} />
      </div>
      {s.description && (
        <section>
          <p className="description">{s.description}</p>
        </section>
      )}
      {s.alsoCalled.length > 0 && <p className="small">Also called {s.alsoCalled.join(', ')}</p>}
      <section>
        <h3>Where it is</h3>
        {s.steps.length > 0 && s.placeId !== null && <TrailSteps steps={s.steps} placeId={s.placeId} />}
        <p className="location">
          <span className="mono">{shown(s.location)}</span>{' '}
          <button type="button" className="chip" onClick={() => void d.copy(s.location)}>
            Copy
          </button>
        </p>
        <p className="small">In the catalogue since {shortDate(s.addedAt)}</p>
      </section>
      <section>
        <h3>Reach</h3>
        <ReachRuler reach={s.reach} width={300} />
        <p className="small sentence">{reachSentence(s.reach, s.perWeek)}</p>
        <RouteTable reach={s.reach} />
      </section>
      <section>
        <h3>Opened</h3>
        <Suspense fallback={<div className="weekly" />}>
          <WeeklyChart weekly={s.weekly} />
        </Suspense>
        <p className="small weekly-legend">
          <span>12 weeks</span>
          <span>this week {s.weekly[s.weekly.length - 1]}</span>
        </p>
      </section>
      <PlacedIn shortcut={s} />
      <GoesWith shortcut={s} />
      <Suspense fallback={null}>
        <AliasesOf shortcut={s} />
      </Suspense>
    </>
  );
}
