/**
 * What can be done with several rows at once; there while more than one is chosen. Behind the list, so that Tab comes
 * to it next.
 */
import { useManyActs } from './useActs';
import { roving } from '../parts/Roving';
import { useSelection, type Met } from '../workspace/workspace';
import './BulkBar.css';

/** Left to the keys and the menu, so that the bar is one line and hides no more than one row. */
const NOT_HERE = ['open', 'copy', 'file-into', 'duplicate-original'];

export function BulkBar({ within }: { within?: Met }) {
  const { chosen } = useSelection();
  const acts = useManyActs('bulk', within);
  // where things can be removed from as well there is less room
  const left = within ? [...NOT_HERE, 'open-with'] : NOT_HERE;
  if (chosen.length < 2) return null;
  return (
    <div className="bulk-bar" role="toolbar" aria-label="With all chosen" {...roving}>
      <b>{chosen.length} chosen</b>
      {acts
        .filter((act) => !left.includes(act.id))
        .map((act) => (
          <button
            key={act.id}
            type="button"
            className={act.group === 'remove' || act.grave ? 'chip grave push' : 'chip'}
            onClick={() => act.run()}
          >
            {act.short ?? act.label}
          </button>
        ))}
    </div>
  );
}
