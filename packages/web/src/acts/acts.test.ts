import { describe, expect, it, jest } from '@jest/globals';
import type { CollectionView, EntryView, PinView, ProgramView } from '@rellin/contract';
import type { SearchActs } from '../searches/useSearchActs';
import type { Gather } from '../collections/useGather';
import type { Item, Within } from '../frame/desk';
import { aCollection, aPin, aShortcut } from '../testing/page';
import { actForKey, actsFor } from './acts';
import type { Do } from './useDo';

const ENTRY: EntryView = {
  id: '7',
  placeId: 1,
  name: 'tides.csv',
  type: 'file',
  kind: 'table',
  mime: 'text/csv',
  size: 3,
  modified: 0,
  children: null,
  shortcut: null,
};
const PROGRAM: ProgramView = {
  id: 'ringbook.desktop',
  name: 'Ringbook',
  genericName: '',
  comment: '',
  categories: [],
  takesFiles: false,
  shortcut: null,
};

/** Every way of doing something, as a record of what was asked. */
const recorder = () => {
  const asked: unknown[][] = [];
  const d = new Proxy(
    {},
    {
      get:
        (_, name) =>
        (...args: unknown[]) =>
          void asked.push([name, ...args]),
    },
  ) as Do;
  return { d, asked };
};
const acts = (item: Item, pins: PinView[] = [], within?: Within) => {
  const { d, asked } = recorder();
  const dialog = jest.fn();
  const go = jest.fn();
  const off = jest.fn();
  const gather = d as unknown as Gather;
  const list = actsFor(
    item,
    { d, gather, searches: d as unknown as SearchActs, pins, openDialog: dialog, go, takeOff: off, route: 'test' },
    within,
  );
  return { list, asked, dialog, go, off };
};
const shortcut = aShortcut({ id: 's1', name: 'Tide table' });

describe('the acts on an item', () => {
  it('stand in one order, opening first and removing last', () => {
    const { list } = acts({ type: 'shortcut', shortcut });
    expect(list.map((a) => a.label)).toEqual([
      'Open',
      'Look',
      'Open with…',
      'Show where it is',
      'Copy path',
      'Pin',
      'Add to collection…',
      'Tags…',
      'File into…',
      'Lay on a board…',
      'Rename…',
      'Describe…',
      'Goes with…',
      'Picture…',
      'Own key…',
      'Place an alias…',
      'Repoint…',
      'Remove shortcut',
    ]);
    expect(list.filter((a) => a.grave).map((a) => a.id)).toEqual(['remove']);
  });

  it.each<[string, Item]>([
    ['shortcut', { type: 'shortcut', shortcut }],
    ['original', { type: 'original', entry: ENTRY }],
    ['program', { type: 'program', program: PROGRAM }],
  ])('of a %s each have a key of their own, and no act on an original is grave', (type, item) => {
    const { list } = acts(item);
    const keys = list.map((a) => a.key).filter(Boolean);
    expect(new Set(keys).size).toBe(keys.length);
    if (type !== 'shortcut') expect(list.some((a) => a.grave)).toBe(false);
  });

  it('leave out what does not apply: no path of a web address, no look at a program', () => {
    const web = acts({ type: 'shortcut', shortcut: { ...shortcut, target: 'web', originalId: null, placeId: null } });
    expect(web.list.map((a) => a.id)).not.toEqual(expect.arrayContaining(['look']));
    expect(web.list.find((a) => a.id === 'copy')!.label).toBe('Copy address');
    expect(web.list.some((a) => a.id === 'show')).toBe(false);
    const program = acts({ type: 'shortcut', shortcut: { ...shortcut, target: 'program', originalId: null } });
    expect(program.list.map((a) => a.id)).toEqual(expect.not.arrayContaining(['look']));
    expect(program.list.find((a) => a.id === 'copy')!.label).toBe('Copy program id');
  });

  it('lead off a board, and to another of its regions, where it was met on one', () => {
    const on = { board: { id: 'b1', name: 'Net round' }, itemId: 'i1' };
    const { list, dialog, off } = acts({ type: 'shortcut', shortcut }, [], on);
    actForKey(list, 'x')!.run();
    expect(off.mock.calls).toEqual([[on, 'Tide table']]);
    list.find((a) => a.label === 'To another region…')!.run();
    expect(dialog.mock.calls[0]![0]).toMatchObject({ kind: 'lay-on-board', boardId: 'b1' });
  });

  it('offer to unpin what is pinned', () => {
    const { list, asked } = acts({ type: 'shortcut', shortcut }, [aPin(1, shortcut)]);
    const act = actForKey(list, 'p')!;
    expect(act.label).toBe('Unpin');
    act.run();
    expect(asked).toEqual([['unpin', 'pin-1', 'Tide table']]);
  });

  it('do what they say', () => {
    const { list, asked, dialog } = acts({ type: 'shortcut', shortcut });
    for (const act of list) act.run();
    expect(asked).toEqual([
      ['open', { shortcutId: 's1', route: 'test' }],
      ['showWhereItIs', shortcut],
      ['copy', shortcut.location],
      ['pin', 'shortcut', 's1', 'Tide table'],
      ['removeShortcut', shortcut],
    ]);
    expect(dialog.mock.calls.map(([r]) => (r as { kind: string }).kind)).toEqual([
      'look',
      'open-with',
      'add-to-collection',
      'tags',
      'file-into',
      'lay-on-board',
      'rename',
      'describe',
      'goes-with',
      'picture',
      'own-key',
      'alias',
      'repoint',
    ]);
  });

  it('make a shortcut to an original or a program, pinned with the same key that pins', () => {
    const original = acts({ type: 'original', entry: ENTRY });
    actForKey(original.list, 'n')!.run();
    actForKey(original.list, 'P')!.run();
    const program = acts({ type: 'program', program: PROGRAM });
    actForKey(program.list, 'p')!.run();
    expect([...original.asked, ...program.asked]).toEqual([
      ['addShortcut', { placeId: 1, originalId: 7 }],
      ['addShortcut', { placeId: 1, originalId: 7, pin: true }],
      ['addShortcut', { programId: 'ringbook.desktop', pin: true }],
    ]);
  });

  it('of a member add what can be done with its place, not with the thing', () => {
    const collection = aCollection({ id: 'c1', name: 'Today' });
    const { list, asked } = acts({ type: 'shortcut', shortcut }, [], { collection, memberId: 'm1', keepFirst: false });
    expect(actForKey(list, 'x')!.label).toBe('Take out of “Today”');
    actForKey(list, 'x')!.run();
    actForKey(list, 'k')!.run();
    expect(asked).toEqual([
      ['takeOut', collection, ['m1'], '“Tide table”'],
      ['keepFirst', collection, ['m1'], true],
    ]);
  });

  it('of a collection go by what it is: a mirror takes nothing in, a working set is emptied and brought back', () => {
    const of = (more: Partial<CollectionView>) =>
      acts({ type: 'collection', collection: aCollection({ id: 'c', name: 'C', ...more }) }).list.map((a) => a.id);
    expect(of({ type: 'mirror' })).not.toEqual(expect.arrayContaining(['gather']));
    expect(of({})).toEqual(expect.arrayContaining(['gather', 'new-inside']));
    expect(of({ count: 3 })).not.toContain('empty');
    expect(of({ type: 'working-set', count: 3, lastMembers: 2 })).toEqual(
      expect.arrayContaining(['empty', 'bring-back']),
    );
    expect(of({ type: 'working-set', count: 0 })).not.toContain('empty');
  });

  it('of a folder make a collection or a mirror of it; a file has neither', () => {
    const folder = acts({ type: 'original', entry: { ...ENTRY, type: 'folder', kind: 'folder' } });
    expect(folder.list.map((a) => a.id)).toEqual(expect.arrayContaining(['collect-inside', 'mirror']));
    expect(acts({ type: 'original', entry: ENTRY }).list.map((a) => a.id)).not.toContain('mirror');
  });

  it('leave Enter to the list itself', () => {
    expect(actForKey(acts({ type: 'shortcut', shortcut }).list, 'Enter')).toBeUndefined();
  });
});
