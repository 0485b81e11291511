/** The acts on several originals at once. What changes files says “originals”. */
import type { EntryView } from '@rellin/contract';
import type { Gathered } from '../workspace/workspace';
import { collectAct, inGroups, type Act, type CommandContext } from './acts';

const MOST_ADDED = 500;

export function manyOriginalActs(entries: readonly EntryView[], { d, openDialog, clear }: CommandContext): Act[] {
  const originals = entries.map((e) => ({ placeId: e.placeId, originalId: e.id, name: e.name }));
  const gathered: Gathered = { shortcuts: [], originals };
  const items = originals.map(({ placeId, originalId }) => ({ placeId, originalId }));
  return inGroups([
    {
      id: 'add-shortcut',
      label: `Add ${entries.length} shortcuts`,
      short: 'Add shortcuts',
      key: 'N',
      group: 'organise',
      run: () => {
        if (items.length <= MOST_ADDED) return void d.addShortcuts({ items }).then((made) => made && clear());
        d.say(`${items.length} are chosen. At most ${MOST_ADDED} shortcuts are added together.`);
      },
    },
    collectAct(gathered, openDialog),
    { id: 'tags', label: 'Tags…', key: 'T', group: 'organise', run: () => openDialog({ kind: 'tags', gathered }) },
    {
      id: 'move-originals',
      label: 'Move or copy the originals to…',
      short: 'Move or copy…',
      key: 'M',
      group: 'change',
      run: () => openDialog({ kind: 'file-into', gathered }),
    },
    {
      id: 'rename-original',
      label: 'Rename the originals…',
      short: 'Rename originals…',
      key: 'F2',
      group: 'change',
      run: () => openDialog({ kind: 'rename-originals', entries: [...entries] }),
    },
    {
      id: 'duplicate-original',
      label: 'Duplicate the originals',
      short: 'Duplicate',
      group: 'change',
      run: () => void d.duplicateOriginals(originals),
    },
    {
      id: 'delete-original',
      label: 'Delete the originals',
      short: 'Delete originals',
      key: 'Delete',
      group: 'change',
      grave: true,
      run: () => void d.deleteOriginals(originals).then((done) => done && clear()),
    },
  ]);
}
