/** The acts on an item: one list for the context menu, the card, the find line and the keys, always in this order. */
import type { PinView } from '@rellin/contract';
import type { DialogRequest, Item } from '../frame/desk';
import type { Do } from './useDo';

export interface Act {
  id: string;
  label: string;
  /** The key on a selected row. */
  key?: string;
  /** Stands apart, in the colour of loss. */
  grave?: boolean;
  run(): void;
}

export function actsFor(
  item: Item,
  d: Do,
  pins: readonly PinView[],
  openDialog: (r: DialogRequest) => void,
  route: string,
): Act[] {
  const add = (request: Parameters<Do['addShortcut']>[0], has: boolean): Act[] => [
    {
      id: 'add',
      label: has ? 'Add another shortcut' : 'Add shortcut',
      key: 'N',
      run: () => void d.addShortcut(request),
    },
    {
      id: 'add-pin',
      label: 'Add shortcut and pin',
      key: 'P',
      run: () => void d.addShortcut({ ...request, pin: true }),
    },
  ];
  switch (item.type) {
    case 'shortcut': {
      const s = item.shortcut;
      const pin = pins.find((p) => p.shortcutId === s.id);
      const acts: Act[] = [
        { id: 'open', label: 'Open', key: 'Enter', run: () => void d.open({ shortcutId: s.id, route }) },
      ];
      if (s.target === 'original' && s.originalId)
        acts.push({
          id: 'look',
          label: 'Look',
          key: 'V',
          run: () => openDialog({ kind: 'look', placeId: s.placeId!, originalId: s.originalId!, name: s.name }),
        });
      if (s.target !== 'web')
        acts.push({ id: 'show', label: 'Show where it is', key: 'W', run: () => d.showWhereItIs(s) });
      acts.push(
        {
          id: 'copy',
          label: s.target === 'web' ? 'Copy address' : s.target === 'program' ? 'Copy program id' : 'Copy path',
          key: 'C',
          run: () => void d.copy(s.location),
        },
        pin
          ? { id: 'unpin', label: 'Unpin', key: 'P', run: () => void d.unpin(pin.id, s.name) }
          : { id: 'pin', label: 'Pin', key: 'P', run: () => void d.pin(s.id, s.name) },
        { id: 'rename', label: 'Rename…', key: 'F2', run: () => openDialog({ kind: 'rename', shortcut: s }) },
        { id: 'describe', label: 'Describe…', key: 'D', run: () => openDialog({ kind: 'describe', shortcut: s }) },
        { id: 'repoint', label: 'Repoint…', key: 'R', run: () => openDialog({ kind: 'repoint', shortcut: s }) },
        {
          id: 'remove',
          label: 'Remove shortcut',
          key: 'Delete',
          grave: true,
          run: () => void d.removeShortcut(s),
        },
      );
      return acts;
    }
    case 'original': {
      const e = item.entry;
      const where = { placeId: e.placeId, originalId: Number(e.id) };
      return [
        { id: 'open', label: 'Open', key: 'Enter', run: () => void d.open({ ...where, route }) },
        {
          id: 'look',
          label: 'Look',
          key: 'V',
          run: () => openDialog({ kind: 'look', placeId: e.placeId, originalId: e.id, name: e.name }),
        },
        ...add(where, e.shortcut !== null),
      ];
    }
    case 'program': {
      const p = item.program;
      return [
        { id: 'open', label: 'Open', key: 'Enter', run: () => void d.open({ programId: p.id, route }) },
        ...add({ programId: p.id }, p.shortcut !== null),
      ];
    }
  }
}

/** The act that a key on a row stands for. */
export function actForKey(acts: readonly Act[], key: string): Act | undefined {
  const name = key.length === 1 ? key.toUpperCase() : key;
  return acts.find((act) => act.key === name && act.id !== 'open');
}
