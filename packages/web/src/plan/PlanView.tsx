/** What would save time, in the order of how much: applied one by one or many at once, and undone by one undo. */
import { lazy, Suspense, useState } from 'react';
import { Link } from 'react-router';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import { formatMinutes, formatSeconds } from '@rellin/core/units';
import type { PlanView as Plan, SuggestionView } from '@rellin/contract';
import { useCommands } from '../workspace/useCommands';
import { post } from '../api/client';
import { usePlan } from '../api/queries';
import { Loaded } from '../parts/Loaded';
import { shortDate } from '../parts/dates';
import { EmptyState } from '../parts/EmptyState';
import { ViewHead } from '../parts/Roving';
import { HowCalculated } from './HowCalculated';
import './plan.css';

const PlanCharts = lazy(() => import('./PlanCharts'));

/** What is applied without a second thought; the others one looks at first. */
const CHOSEN_FROM_START: readonly SuggestionView['kind'][] = ['pin', 'exchange', 'unpin', 'key', 'add'];

function usePlanActs() {
  const d = useCommands();
  return {
    apply: (ids: string[]) =>
      d.attempt(async () => {
        await post('/plan/apply', { ids });
      }),
    answer: (id: string, answer: 'later' | 'never') =>
      d.attempt(async () => {
        await post('/plan/answer', { id, answer });
      }),
  };
}

export default function PlanView() {
  const asked = usePlan();
  const acts = usePlanActs();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [taken, setTaken] = useState<ReadonlySet<string>>(new Set());
  const [explained, setExplained] = useState(false);
  const plan = asked.data;
  const isChosen = (s: SuggestionView) => (CHOSEN_FROM_START.includes(s.kind) ? !left.has(s.id) : taken.has(s.id));
  const toggle = (s: SuggestionView) => {
    const [set, keep] = CHOSEN_FROM_START.includes(s.kind) ? ([left, setLeft] as const) : ([taken, setTaken] as const);
    const next = new Set(set);
    if (!next.delete(s.id)) next.add(s.id);
    keep(next);
  };
  const chosen = plan?.suggestions.filter(isChosen) ?? [];
  return (
    <main className="view plan" id="view">
      <ViewHead>
        <h1>Plan</h1>
        {plan && (
          <span className="small">
            from {plan.weeks} weeks, {plan.openings.toLocaleString('en-GB')} openings
          </span>
        )}
        <span className="push" />
        <Button variant="outlined" component={Link} to="/usage">
          Your usage
        </Button>
        <Button variant="outlined" onClick={() => setExplained(true)}>
          How this is calculated
        </Button>
      </ViewHead>
      <Loaded of={asked} what="The plan">
        {(plan) =>
          plan.openings === 0 ? (
            <EmptyState title="No usage recorded yet">
              Open things as you always do. After a week or two Rellin can say what would bring them closer.
            </EmptyState>
          ) : (
            <>
              <Bars plan={plan} />
              {plan.suggestions.length === 0 ? (
                <EmptyState title="Nothing to improve at the moment">
                  What you open most is as near as it can be. Rellin goes on counting.
                </EmptyState>
              ) : (
                <>
                  <ul className="suggestions sheet" aria-label="Suggestions">
                    {plan.suggestions.map((s) => (
                      <li key={s.id}>
                        <Checkbox
                          checked={isChosen(s)}
                          onChange={() => toggle(s)}
                          slotProps={{ input: { 'aria-label': s.title } }}
                          size="small"
                        />
                        <span className="two-lines">
                          <span className="name">{s.title}</span>
                          <span className="small">{s.reason}</span>
                        </span>
                        <span className="small before-after">
                          {s.before !== null && s.after !== null && (
                            <>
                              {formatSeconds(s.before)} → {formatSeconds(s.after)}
                            </>
                          )}
                        </span>
                        <b className="gain">{s.gain >= 0.05 ? formatSeconds(s.gain) : ''}</b>
                        <span className="answers">
                          <Button size="small" variant="outlined" onClick={() => void acts.apply([s.id])}>
                            Apply
                          </Button>
                          <Button size="small" variant="outlined" onClick={() => void acts.answer(s.id, 'later')}>
                            Later
                          </Button>
                          <Button size="small" variant="outlined" onClick={() => void acts.answer(s.id, 'never')}>
                            Never
                          </Button>
                        </span>
                      </li>
                    ))}
                  </ul>
                  <div className="apply-line">
                    <Button
                      variant="contained"
                      disabled={chosen.length === 0}
                      onClick={() => void acts.apply(chosen.map((s) => s.id))}
                    >
                      Apply {chosen.length} chosen
                    </Button>
                    <span className="small">
                      {formatSeconds(chosen.reduce((sum, s) => sum + s.gain, 0))} a week. Nothing else moves: each pin
                      you keep stays on its key.
                    </span>
                  </div>
                </>
              )}
              <Forecasts plan={plan} />
              <Suspense fallback={null}>
                <PlanCharts />
              </Suspense>
            </>
          )
        }
      </Loaded>
      {explained && <HowCalculated onClose={() => setExplained(false)} />}
    </main>
  );
}

/** How long the week's openings take: through the folders, as it is now, with the plan, and at best. */
function Bars({ plan }: { plan: Plan }) {
  const count = plan.suggestions.length;
  const rows: [string, string, number][] = [
    ['folders', 'By folders', plan.byFolders],
    ['now', 'Today', plan.now],
    ['planned', count === 1 ? 'With the suggestion' : `With all ${count} suggestions`, plan.planned],
    ['bound', 'Best possible', plan.bound],
  ];
  const far = Math.max(...rows.map(([, , seconds]) => seconds), 1);
  const gain = Math.max(0, plan.now - plan.planned);
  return (
    <section className="sheet bars" aria-label="Seconds a week">
      <dl>
        {rows.map(([kind, words, seconds]) => (
          <div key={kind}>
            <dt>{words}</dt>
            <dd>
              <span className={`bar ${kind}`} style={{ width: `${(seconds / far) * 58}%` }} />
              <b>{formatMinutes(seconds)}</b>
            </dd>
          </div>
        ))}
      </dl>
      <p>
        <b className="week">{formatMinutes(gain)} a week</b>
        <span className="small">
          could be saved; {formatMinutes(Math.max(0, plan.byFolders - plan.now))} already are, against going through the
          folders
        </span>
      </p>
    </section>
  );
}

/** What applied plans were to save, and what they did. */
function Forecasts({ plan }: { plan: Plan }) {
  if (plan.forecasts.length === 0) return null;
  return (
    <section className="forecasts">
      <h2>What was said, and what it was</h2>
      <ul className="small">
        {plan.forecasts.map((f) => (
          <li key={f.at}>
            {shortDate(f.at, new Date())}: we said {formatMinutes(f.said)} a week
            {f.was === null ? '; the week is not over yet.' : `, it was ${formatMinutes(f.was)}.`}
          </li>
        ))}
      </ul>
    </section>
  );
}
