/** The path of the folder as links; G turns it into a field for typing or pasting one. */
import { useEffect, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { OriginalId, TrailStep } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { patch } from '../api/client';
import { useSettings } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { inField } from '../workspace/inField';
import { CommandKey } from '../parts/KeyCap';
import { Roving } from '../parts/Roving';
import { PathField } from '../parts/PathField';

/** Files whose names begin with a dot are not shown unless asked for; remembered for every folder. */
function HiddenFiles({ hidden }: { hidden: number }) {
  const d = useCommands();
  const isShown = useSettings().data?.showHidden ?? false;
  if (!isShown && hidden === 0) return null;
  const toggle = () =>
    void d.attempt(async () => {
      await patch('/settings', { showHidden: !isShown });
    });
  return (
    <button type="button" className={isShown ? 'chip on' : 'chip'} aria-pressed={isShown} onClick={toggle}>
      {isShown ? 'Hidden files shown' : `${hidden} hidden`}
    </button>
  );
}

export function TrailBar({
  trail,
  path,
  hidden,
  shape,
  acts,
  to,
}: {
  trail: TrailStep[];
  path: string;
  /** How many entries of the folder are not shown. */
  hidden: number;
  /** Chooses the shape of the list below. */
  shape: ReactNode;
  /** What can be done in the folder. */
  acts: ReactNode;
  to(folderId: OriginalId): string;
}) {
  const [typing, setTyping] = useState<string>();
  const d = useCommands();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'g' || event.ctrlKey || event.metaKey || event.altKey || inField(event.target)) return;
      event.preventDefault();
      setTyping(path + '/');
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, [path]);
  if (typing !== undefined)
    return (
      <form
        className="trail-typing"
        onSubmit={(event) => {
          event.preventDefault();
          void d.goTo(typing).then(() => setTyping(undefined));
        }}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setTyping(undefined);
          if (event.key === 'Enter') event.currentTarget.requestSubmit();
        }}
      >
        <PathField
          label="Go to path"
          help="A path: /… or ~/…, or a file address"
          value={typing}
          onChange={setTyping}
          autoFocus
        />
      </form>
    );
  return (
    <Roving label="The folder">
      <div className="trail-bar sheet">
        <ol aria-label="Trail">
          {trail.map((step, i) => (
            <li key={step.id}>
              {i === trail.length - 1 ? (
                <b aria-current="location" className="cut">
                  {shown(step.name)}
                </b>
              ) : (
                <>
                  <Link to={to(step.id)} className="cut">
                    {shown(step.name)}
                  </Link>
                  <span aria-hidden>›</span>
                </>
              )}
            </li>
          ))}
        </ol>
        <HiddenFiles hidden={hidden} />
        {shape}
        {acts}
        <button type="button" className="trail-go small" onClick={() => setTyping(path + '/')}>
          type or paste a path <CommandKey of="G" />
        </button>
      </div>
    </Roving>
  );
}
