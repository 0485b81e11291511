import type { ReachView, RouteView } from '@rellin/contract';
import { formatSeconds } from '@rellin/core/units';

const WORDS: Record<RouteView['kind'], string> = {
  'pin-key': 'Pin, by key',
  'pin-click': 'Pin, by click',
  'own-key': 'Own key',
  collection: 'Collection',
  tag: 'Pinned tag',
  search: 'Saved search',
  board: 'Board',
  find: 'Find line',
  folders: 'Through the folders',
  alias: 'Link in a folder',
  entry: 'Desktop entry',
  command: 'Command in a terminal',
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

const BY: Record<RouteView['kind'], string> = {
  'pin-key': 'By its key',
  'pin-click': 'By a click on the strip',
  'own-key': 'By its own key',
  collection: 'By its collection',
  tag: 'By its tag on the strip',
  search: 'By a saved search',
  board: 'By its board',
  find: 'By the find line',
  folders: 'By folders',
  alias: 'By a link in a folder',
  entry: 'By a desktop entry',
  command: 'By the command',
};

const NEXT: Record<RouteView['kind'], string> = {
  'pin-key': 'the strip',
  'pin-click': 'the strip',
  'own-key': 'its own key',
  collection: 'its collection',
  tag: 'its tag',
  search: 'a saved search',
  board: 'its board',
  find: 'the find line',
  folders: 'the folders',
  alias: 'a link in a folder',
  entry: 'a desktop entry',
  command: 'the command',
};

/** What the best route saves, in one sentence. */
export function reachSentence(reach: ReachView, perWeek: number): string {
  const { best, folderRoute, routes } = reach;
  if (!best) return '';
  const isPin = (r: RouteView) => r.kind === 'pin-key' || r.kind === 'pin-click';
  const next = routes
    .filter((r) => (isPin(best) ? !isPin(r) : r.kind !== best.kind))
    .sort((a, b) => a.seconds - b.seconds)[0];
  const parts = [`${BY[best.kind]}.`];
  if (next) {
    const { kind } = next;
    parts.push(`Next best is ${NEXT[kind]}, ${formatSeconds(next.seconds)}.`);
  }
  if (perWeek >= 0.1 && folderRoute && folderRoute.seconds > best.seconds)
    parts.push(
      `At ${perWeek.toFixed(1)} openings a week it saves ${Math.round(perWeek * (folderRoute.seconds - best.seconds))} s against going through the folders.`,
    );
  return parts.join(' ');
}
