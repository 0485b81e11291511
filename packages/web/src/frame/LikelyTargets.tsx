/** While an original is dragged: the folders where it belongs, the likeliest first, to be dropped on at once. */
import { useDroppable } from '@dnd-kit/core';
import type { BelongsView, EntryView, OriginalRef } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { useBelongs } from '../api/queries';
import { folderWords, percent, reasonWords } from '../sweeps/words';
import './LikelyTargets.css';

export function LikelyTargets({ originals }: { originals: readonly OriginalRef[] }) {
  const likely = useBelongs(originals).data ?? [];
  if (likely.length === 0) return null;
  return (
    <div className="likely-targets sheet" role="group" aria-label="Where it belongs">
      <span className="small">Where {originals.length === 1 ? 'it belongs' : 'they belong'}</span>
      {likely.map((folder) => (
        <LikelyTarget key={`${folder.placeId}/${folder.originalId}`} folder={folder} />
      ))}
    </div>
  );
}

function LikelyTarget({ folder }: { folder: BelongsView }) {
  const { setNodeRef, isOver } = useDroppable({
    id: `likely ${folder.placeId}/${folder.originalId}`,
    data: { kind: 'into', item: { type: 'original', entry: asEntry(folder) } },
  });
  return (
    <div ref={setNodeRef} className={`likely-target${isOver ? ' over' : ''}`}>
      <strong className="cut">{shown(folderWords(folder))}</strong>
      <span className="likely-sure">{percent(folder.probability)}</span>
      <span className="small cut">{reasonWords(folder.reason)}</span>
    </div>
  );
}

/** As a drop knows a folder. */
const asEntry = ({ placeId, originalId, name }: BelongsView): EntryView => ({
  ...{ id: originalId, placeId, name, type: 'folder', kind: 'folder', mime: 'inode/directory' },
  ...{ size: 0, modified: 0, children: null, shortcut: null, tags: [] },
});
