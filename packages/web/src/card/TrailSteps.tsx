import { Link } from 'react-router';
import type { PlaceId, TrailStep } from '@rellin/contract';
import { shown } from '@rellin/core/paths';

/** The way down to an original, indented level by level, with how many lie beside each. */
export function TrailSteps({ steps, placeId }: { steps: TrailStep[]; placeId: PlaceId }) {
  return (
    <ol className="trail-steps">
      {steps.map((step, i) => {
        const last = i === steps.length - 1;
        const to =
          last && i > 0
            ? `/originals/${placeId}/${steps[i - 1]!.id}?at=${step.id}`
            : `/originals/${placeId}/${step.id}`;
        return (
          <li key={step.id} style={{ paddingLeft: Math.min(i, 8) * 15 }}>
            {i > 0 && <span aria-hidden>└ </span>}
            <Link to={to} className={last ? 'last cut' : 'cut'} title={shown(step.name)}>
              {shown(step.name)}
            </Link>
            <span className="small among">1 of {step.among}</span>
          </li>
        );
      })}
    </ol>
  );
}
