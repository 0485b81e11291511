import { useState } from 'react';
import Button from '@mui/material/Button';
import type { NeedView, ShortcutView } from '@rellin/contract';
import { segmentsOf, shown } from '@rellin/core/paths';
import { useCommands } from '../workspace/useCommands';
import { useWorkspaceActions } from '../workspace/workspace';
import { ago, shortDate } from '../parts/dates';
import { Tether } from '../parts/Tether';
import { useCheckUpActs } from './useCheckUpActs';

const trail = (place: string, path: string) => [place, ...segmentsOf(path).map(shown)].filter(Boolean).join(' › ');
/** Nothing is certain, and nothing that is shown impossible. */
const percent = (sure: number) =>
  sure > 0.999 ? '> 99.9 %' : sure < 0.001 ? '< 0.1 %' : `${(100 * sure).toFixed(1)} %`;
const number = new Intl.NumberFormat('en-GB');

/** One shortcut that needs a person: what may be its original, best first, with the evidence. */
export function NeedCard({ need, shortcut: s, among }: { need: NeedView; shortcut: ShortcutView; among: number }) {
  const [chosen, setChosen] = useState(0);
  const acts = useCheckUpActs();
  const d = useCommands();
  const { openDialog, select } = useWorkspaceActions();
  const { candidates } = need;
  const to = candidates[Math.min(chosen, candidates.length - 1)];
  const opened = s.lastOpenedAt ? ` Last opened ${ago(s.lastOpenedAt)}.` : ' Never opened.';
  return (
    <section className="check-card sheet" aria-label={s.name}>
      <h2>
        <Tether state={s.state} />
        <button type="button" className="check-name" onClick={() => select({ type: 'shortcut', id: s.id })}>
          {s.name}
        </button>
        <span className="small cut" title={trail(need.placeName, need.was)}>
          was {trail(need.placeName, need.was)}
        </span>
      </h2>
      {candidates.length > 0 ? (
        <div className="check-candidates" role="radiogroup" aria-label={`What may be ${s.name}`}>
          {candidates.map((c, i) => (
            <label key={`${c.placeId}/${c.originalId}`}>
              <input type="radio" name={`candidate ${s.id}`} checked={c === to} onChange={() => setChosen(i)} />
              <span>
                <span className="mono small check-where">{trail(c.placeName, c.path)}</span>
                <span className="small check-where">{c.evidence.join(', ')}</span>
              </span>
              <span className="check-sure">{percent(c.sure)}</span>
            </label>
          ))}
        </div>
      ) : (
        <p>
          {s.stateReason} Lost since {shortDate(s.stateSince, new Date())}. Nothing alike in {number.format(among)}{' '}
          originals.
          {opened}
        </p>
      )}
      <div className="check-acts">
        {to && (
          <>
            <Button variant="contained" onClick={() => void acts.point(s.name, s.id, to)}>
              {candidates.length === 1 ? 'Point to it' : 'Point to the chosen'}
            </Button>
            <Button
              variant="outlined"
              onClick={() =>
                openDialog({
                  kind: 'preview',
                  placeId: to.placeId,
                  originalId: to.originalId,
                  name: to.path.split('/').pop() ?? '',
                })
              }
            >
              Preview
            </Button>
          </>
        )}
        <Button variant="outlined" onClick={() => openDialog({ kind: 'repoint', shortcut: s })}>
          Choose by hand
        </Button>
        {!to && (
          <Button variant="outlined" onClick={() => void d.removeShortcut(s)}>
            Remove shortcut
          </Button>
        )}
        <Button variant="outlined" onClick={() => void acts.leave([s.id], true)}>
          Ignore
        </Button>
      </div>
    </section>
  );
}
