/** What can be done with several rows at once; there while more than one is chosen. Behind the list, so that Tab comes to it next. */
import type { CollectionView } from '@rellin/contract';
import { useShortcuts } from '../api/queries';
import { useDo } from '../acts/useDo';
import { useGather } from '../collections/useGather';
import { useDesk, type Gathered } from '../frame/desk';
import './BulkBar.css';

interface Member {
  id: string;
  itemId: string;
  type: 'shortcut' | 'collection' | 'search';
}

export function BulkBar({ within }: { within?: { collection: CollectionView; rows: readonly Member[] | undefined } }) {
  const { chosen, choose, openDialog } = useDesk();
  const shortcuts = useShortcuts().data;
  const d = useDo();
  const gather = useGather();
  if (chosen.length < 2) return null;
  const ids = new Set(chosen);
  const some = (shortcuts ?? []).filter((s) => ids.has(s.id));
  const gathered: Gathered = { shortcuts: some };
  const members = (within?.rows ?? []).filter((m) => ids.has(m.itemId)).map((m) => m.id);
  return (
    <div className="bulk-bar" role="toolbar" aria-label="With all chosen">
      <b>{chosen.length} chosen</b>
      <button type="button" className="chip" onClick={() => openDialog({ kind: 'add-to-collection', gathered })}>
        Collect…
      </button>
      <button type="button" className="chip" onClick={() => openDialog({ kind: 'lay-on-board', gathered })}>
        Board…
      </button>
      <button type="button" className="chip" onClick={() => openDialog({ kind: 'tags', gathered })}>
        Tags…
      </button>
      <button type="button" className="chip" onClick={() => openDialog({ kind: 'rename-many', shortcuts: some })}>
        Rename…
      </button>
      {some.some((s) => s.pinSlot === null) && (
        <button
          type="button"
          className="chip"
          onClick={() => void d.pinMany(some.filter((s) => s.pinSlot === null).map((s) => s.id))}
        >
          Pin
        </button>
      )}
      {some.some((s) => s.target === 'original') && (
        <button
          type="button"
          className="chip"
          onClick={() => openDialog({ kind: 'open-with', shortcuts: some.filter((s) => s.target === 'original') })}
        >
          Program…
        </button>
      )}
      {within && members.length > 0 && (
        <button
          type="button"
          className="chip"
          onClick={() => void gather.takeOut(within.collection, members, `${members.length} things`)}
        >
          Take out
        </button>
      )}
      <span className="push" />
      {some.length > 0 && (
        <button
          type="button"
          className="chip grave"
          onClick={() => void d.removeMany(some.map((s) => s.id)).then(() => choose([]))}
        >
          Remove {some.length}
        </button>
      )}
    </div>
  );
}
