/**
 * How far a thing is: the bold part is the best route with a tick a step, the thin part the route through the folders
 * on the same scale.
 */
import type { ReachView } from '@rellin/contract';
import { formatSeconds, formatSteps } from '@rellin/core/units';
import './ReachRuler.css';

/** Seconds at the full width, so that rulers in a list compare. */
const SCALE = 12;

export function ReachRuler({
  reach,
  width = 140,
  scale = SCALE,
}: {
  reach: ReachView;
  width?: number;
  scale?: number;
}) {
  const { best, folderRoute } = reach;
  if (!best) return <span className="small">no way yet</span>;
  const far = Math.max(scale, folderRoute?.seconds ?? 0);
  const x = (seconds: number) => 1 + (seconds / far) * (width - 2);
  const ticks = (steps: number, seconds: number) =>
    Array.from({ length: steps }, (_, i) => x((seconds * (i + 1)) / steps));
  const byFolders = folderRoute && folderRoute.seconds > best.seconds ? folderRoute : null;
  const text = `${formatSteps(best.steps)}, ${formatSeconds(best.seconds)}${byFolders ? `; by folders ${formatSteps(byFolders.steps)}, ${formatSeconds(byFolders.seconds)}` : ''}`;
  return (
    <span className="ruler" style={{ width }}>
      <svg width={width} height="12" viewBox={`0 0 ${width} 12`} role="img" aria-label={text}>
        {byFolders && <path className="folders" d={`M1 6H${x(byFolders.seconds)}`} />}
        {byFolders &&
          ticks(byFolders.steps, byFolders.seconds).map((t) => (
            <path key={t} className="folders tick" d={`M${t} 3.5v5`} />
          ))}
        <path className="best" d={`M1 6H${x(best.seconds)}`} />
        {ticks(best.steps, best.seconds).map((t) => (
          <path key={t} className="best tick" d={`M${t} 1.5v9`} />
        ))}
      </svg>
      <span className="figures" aria-hidden="true">
        <b>
          {formatSteps(best.steps)} · {formatSeconds(best.seconds)}
        </b>
        {byFolders && (
          <span>
            {byFolders.steps} · {formatSeconds(byFolders.seconds)}
          </span>
        )}
      </span>
    </span>
  );
}
