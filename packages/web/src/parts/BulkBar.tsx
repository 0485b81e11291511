/** What can be done with several rows at once; there while more than one is chosen. Behind the list, so that Tab comes to it next. */
import { useManyActs } from '../acts/useActs';
import { useDesk, type Within } from '../frame/desk';
import './BulkBar.css';

/** Short, since all stand side by side. */
const SHORT: Record<string, string> = { 'add-to': 'Collect…', 'lay-on-board': 'Board…', 'file-into': 'Move or copy…' };

export function BulkBar({ within }: { within?: Within }) {
  const { chosen } = useDesk();
  const acts = useManyActs('bulk', within);
  if (chosen.length < 2) return null;
  return (
    <div className="bulk-bar" role="toolbar" aria-label="With all chosen">
      <b>{chosen.length} chosen</b>
      {acts.map((act) => (
        <button
          key={act.id}
          type="button"
          className={act.group === 'remove' ? 'chip grave push' : 'chip'}
          onClick={() => act.run()}
        >
          {SHORT[act.id] ?? act.label}
        </button>
      ))}
    </div>
  );
}
