import { useState } from 'react';
import Button from '@mui/material/Button';
import type { FolderMoveView } from '@rellin/contract';
import { segmentsOf, shown } from '@rellin/core/paths';
import { Tether } from '../parts/Tether';
import { useCheckUpActs } from './useCheckUpActs';

/** A trail of which the part that changed stands out. */
function Trail({ place, path, common, className }: { place: string; path: string; common: number; className: string }) {
  const names = [place, ...segmentsOf(path).map(shown)];
  return (
    <p className="mono small check-trail">
      {names.map((name, i) => (
        <span key={i}>
          {i > 0 && ' › '}
          <span className={i >= common ? className : ''}>{name}</span>
        </span>
      ))}
    </p>
  );
}

/** A folder that seems to have moved: what it explains is followed in one act. */
export function FolderMoveCard({ move, nameOf }: { move: FolderMoveView; nameOf(id: string): string }) {
  const [each, setEach] = useState(false);
  const acts = useCheckUpActs();
  const n = move.explains.length;
  const [from, to] = [move.from, move.to].map((f) => [f.placeName, ...segmentsOf(f.path)]) as [string[], string[]];
  let common = 0;
  while (common < Math.min(from.length, to.length) - 1 && from[common] === to[common]) common++;
  const stay = move.of - n;
  return (
    <section className="check-card sheet" aria-label="A folder seems to have moved">
      <h2>
        <Tether state="unsure" title="" /> A folder seems to have moved
        <span className="small">
          explains {n} of {move.of}
        </span>
      </h2>
      <Trail place={move.from.placeName} path={move.from.path} common={common} className="gone" />
      <Trail place={move.to.placeName} path={move.to.path} common={common} className="here" />
      {each && (
        <ul className="check-each">
          {move.explains.map((e) => (
            <li key={e.shortcutId}>
              <span className="name cut">{nameOf(e.shortcutId)}</span>
              <span className="mono small check-where">
                {shown(e.path.slice(move.to.path === '' ? 0 : move.to.path.length + 1))}
              </span>
            </li>
          ))}
        </ul>
      )}
      <div className="check-acts">
        <Button variant="contained" onClick={() => void acts.followFolder(move)}>
          {n === 1 ? 'Follow it' : `Follow all ${n}`}
        </Button>
        <Button variant="outlined" aria-expanded={each} onClick={() => setEach(!each)}>
          {each ? 'Hide each' : 'Show each'}
        </Button>
        <Button
          variant="outlined"
          onClick={() =>
            void acts.leave(
              move.explains.map((e) => e.shortcutId),
              true,
            )
          }
        >
          Ignore
        </Button>
        <span className="small">
          {stay > 0 &&
            `${stay === 1 ? 'One stays' : `${stay} stay`} lost and ${stay === 1 ? 'is' : 'are'} listed below. `}
          One act, one undo.
        </span>
      </div>
    </section>
  );
}
