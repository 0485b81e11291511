import type { ReachView, RouteView } from '@rellin/contract';
import { formatSeconds } from '@rellin/core/units';

const WORDS: Record<RouteView['kind'], string> = {
  'pin-key': 'Pin, by key',
  'pin-click': 'Pin, by click',
  find: 'Find line',
  walk: 'Walk through the folders',
};

/** All routes to a thing; each opens to the operators its time is added up from. */
export function RouteTable({ reach }: { reach: ReachView }) {
  const routes = [...reach.routes].sort((a, b) => a.seconds - b.seconds);
  return (
    <ul className="routes">
      {routes.map((route) => (
        <li key={route.kind}>
          <details>
            <summary>
              <span>{WORDS[route.kind]}</span>
              <span>
                {route.steps} · {formatSeconds(route.seconds)}
              </span>
            </summary>
            <p className="small">{route.operators.map((o) => `${o.label} ${o.seconds.toFixed(2)}`).join(' + ')}</p>
          </details>
        </li>
      ))}
    </ul>
  );
}

/** What the best route saves, in one sentence. */
export function reachSentence(reach: ReachView, perWeek: number): string {
  const { best, walk, routes } = reach;
  if (!best) return '';
  const by: Record<RouteView['kind'], string> = {
    'pin-key': 'By its key',
    'pin-click': 'By a click on the strip',
    find: 'By the find line',
    walk: 'On foot',
  };
  const pin = best.kind === 'pin-key' || best.kind === 'pin-click';
  const next = routes
    .filter((r) => (pin ? r.kind === 'find' || r.kind === 'walk' : r.kind !== best.kind))
    .sort((a, b) => a.seconds - b.seconds)[0];
  const parts = [`${by[best.kind]}.`];
  if (next) {
    const name = next.kind === 'find' ? 'the find line' : next.kind === 'walk' ? 'the walk' : 'the strip';
    parts.push(`Next best is ${name}, ${formatSeconds(next.seconds)}.`);
  }
  if (perWeek >= 0.1 && walk && walk.seconds > best.seconds)
    parts.push(
      `At ${perWeek.toFixed(1)} openings a week it saves ${Math.round(perWeek * (walk.seconds - best.seconds))} s against walking.`,
    );
  return parts.join(' ');
}
