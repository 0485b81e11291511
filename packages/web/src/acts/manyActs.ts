/**
 * The acts on several things at once: for the bar below a list, the context menu and the keys, in the order of single
 * ones.
 */
import type { CollectionView, EntryView, SearchView, ShortcutView } from '@rellin/contract';
import { gatheredCount } from './useGather';
import type { Gathered, Met } from '../workspace/workspace';
import { collectAct, inGroups, type Act, type CommandContext } from './acts';
import { manyOriginalActs } from './manyOriginals';

export interface Several {
  shortcuts: readonly ShortcutView[];
  collections: readonly CollectionView[];
  searches: readonly SearchView[];
  originals: readonly EntryView[];
  /** Where all of them were met, and what they are there: members, or items of a board. */
  met?: { in: Met; ids: readonly string[] };
}

/** More is never meant, and would open as many windows. */
const MOST_OPENED = 12;

export function manyActs(
  { shortcuts, collections, searches, originals: entries, met }: Several,
  context: CommandContext,
): Act[] {
  if (entries.length > 0) return manyOriginalActs(entries, context);
  const { d, gather, openDialog, takeOff, route, clear } = context;
  const gathered: Gathered = {
    shortcuts: [...shortcuts],
    ...(collections.length > 0 && { collections: [...collections] }),
    ...(searches.length > 0 && { searches: [...searches] }),
  };
  const count = gatheredCount(gathered);
  const originals = shortcuts.filter((s) => s.target === 'original');
  const files = originals.filter((s) => s.kind !== 'folder');
  const unpinned = shortcuts.filter((s) => s.pinSlot === null);
  const openAll = async () => {
    if (shortcuts.length > MOST_OPENED)
      return d.say(`${shortcuts.length} are chosen. Choose at most ${MOST_OPENED} to open them together.`);
    for (const s of shortcuts) await d.open({ shortcutId: s.id, route });
  };
  const acts: Act[] = [collectAct(gathered, openDialog)];
  if (shortcuts.length > 0)
    acts.push(
      { id: 'open', label: `Open all ${shortcuts.length}`, key: 'Enter', run: () => void openAll() },
      {
        id: 'copy',
        label: 'Copy paths',
        key: 'C',
        run: () => void d.copy(shortcuts.map((s) => s.location).join('\n')),
      },
      {
        id: 'lay-on-board',
        label: 'Put on a board…',
        short: 'Board…',
        group: 'organise',
        run: () => openDialog({ kind: 'lay-on-board', gathered: { shortcuts: [...shortcuts] } }),
      },
      {
        id: 'rename',
        label: 'Rename…',
        key: 'F2',
        group: 'change',
        run: () => openDialog({ kind: 'rename-many', shortcuts: [...shortcuts] }),
      },
      {
        id: 'remove',
        label: `Remove ${shortcuts.length} shortcuts${met ? ' everywhere' : ''}`,
        short: met ? 'Remove everywhere' : `Remove ${shortcuts.length}`,
        ...(!met && { key: 'Delete' }),
        group: 'remove',
        grave: true,
        run: () => void d.removeMany(shortcuts.map((s) => s.id)).then(clear),
      },
    );
  if (collections.length === 0)
    acts.push({
      id: 'tags',
      label: 'Tags…',
      key: 'T',
      group: 'organise',
      run: () => openDialog({ kind: 'tags', gathered }),
    });
  if (files.length > 0)
    acts.push({
      id: 'file-into',
      label: 'Move or copy to…',
      key: 'M',
      group: 'organise',
      run: () => openDialog({ kind: 'file-into', gathered: { shortcuts: files } }),
    });
  if (unpinned.length > 0)
    acts.push({
      id: 'pin',
      label: 'Pin',
      key: 'P',
      group: 'organise',
      run: () => void d.pinMany(unpinned.map((s) => s.id)),
    });
  if (originals.length > 0)
    acts.push({
      id: 'open-with',
      label: 'Program…',
      key: 'O',
      group: 'organise',
      run: () => openDialog({ kind: 'open-with', shortcuts: originals }),
    });
  if (met) {
    const [place, what] = [met.in, `${count} things`];
    const removeFrom = () =>
      'board' in place
        ? takeOff(place.board, met.ids, what)
        : void gather.takeOut(place.collection, [...met.ids], what);
    acts.push({
      id: 'take-out',
      label: `Remove from “${'board' in place ? place.board.name : place.collection.name}”`,
      key: 'X',
      otherKey: 'Delete',
      group: 'here',
      run: removeFrom,
    });
  }
  return inGroups(acts);
}
