import { describe, expect, it, jest } from '@jest/globals';
import type { CollectionView, EntryView, PinView, ProgramView } from '@rellin/contract';
import { LETTER_KEYS } from '@rellin/core/keys';
import type { SearchActs } from './useSearchActs';
import type { Gather } from './useGather';
import type { Item, Within } from '../workspace/workspace';
import { aCollection, aPin, aShortcut } from '../testing/page';
import { actForKey, actsFor } from './acts';
import type { Commands } from '../workspace/useCommands';

const ENTRY: EntryView = {
  id: 7,
  placeId: 1,
  name: 'tides.csv',
  type: 'file',
  kind: 'table',
  mime: 'text/csv',
  size: 3,
  modified: 0,
  children: null,
  shortcut: null,
  tags: [],
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
  ) as Commands;
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
    {
      d,
      gather,
      searches: d as unknown as SearchActs,
      pins,
      openDialog: dialog,
      clear: () => undefined,
      go,
      takeOff: off,
      route: 'test',
    },
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
      'Preview',
      'Open with…',
      'Show where it is',
      'Copy path',
      'Pin',
      'Add to collection…',
      'Tags…',
      'Put on a board…',
      'Move or copy to…',
      'Put an alias in a folder…',
      'Rename…',
      'Describe…',
      'Change target…',
      'Goes with…',
      'Picture…',
      'Own key…',
      'Remove shortcut',
    ]);
    expect(list.filter((a) => a.grave).map((a) => a.id)).toEqual(['remove']);
  });

  it.each<[string, Item]>([
    ['shortcut', { type: 'shortcut', shortcut }],
    ['original', { type: 'original', entry: ENTRY }],
    ['program', { type: 'program', program: PROGRAM }],
  ])('of a %s each have a key of their own, and of those on originals only deleting is grave', (type, item) => {
    const { list } = acts(item);
    const keys = list.map((a) => a.key).filter(Boolean);
    expect(new Set(keys).size).toBe(keys.length);
    // what takes a file away looks it
    const grave = list.flatMap((a) => (a.grave ? a.id : []));
    if (type !== 'shortcut') expect(grave).toEqual(type === 'original' ? ['delete-original'] : []);
  });

  it('leave out what does not apply: no path of a web address, no preview of a program', () => {
    const web = acts({ type: 'shortcut', shortcut: { ...shortcut, target: 'web', originalId: null, placeId: null } });
    expect(web.list.map((a) => a.id)).not.toEqual(expect.arrayContaining(['preview']));
    expect(web.list.find((a) => a.id === 'copy')!.label).toBe('Copy address');
    expect(web.list.some((a) => a.id === 'show')).toBe(false);
    const program = acts({ type: 'shortcut', shortcut: { ...shortcut, target: 'program', originalId: null } });
    expect(program.list.map((a) => a.id)).toEqual(expect.not.arrayContaining(['preview']));
    expect(program.list.find((a) => a.id === 'copy')!.label).toBe('Copy program id');
  });

  it('lead off a board, and to another of its regions, where it was met on one', () => {
    const on = { board: { id: 'b1', name: 'Net round' }, itemId: 'i1' };
    const { list, dialog, off } = acts({ type: 'shortcut', shortcut }, [], on);
    actForKey(list, 'x')!.run();
    expect(off.mock.calls).toEqual([[on.board, ['i1'], '“Tide table”']]);
    // Delete goes no further than the board, and what removes everywhere says so
    expect(actForKey(list, 'Delete')!.label).toBe('Remove from “Net round”');
    expect(list.find((a) => a.id === 'remove')).toMatchObject({ label: 'Remove shortcut everywhere', grave: true });
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
      'preview',
      'open-with',
      'add-to-collection',
      'tags',
      'lay-on-board',
      'file-into',
      'alias',
      'rename',
      'describe',
      'repoint',
      'goes-with',
      'picture',
      'own-key',
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
    expect(actForKey(list, 'x')!.label).toBe('Remove from “Today”');
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

  it('have keys that the list of keys knows, each as one of Rellin’s', () => {
    const board = { board: { id: 'b1', name: 'Net round' }, itemId: 'i1' };
    const shelf = { collection: aCollection({ id: 'c1', name: 'Today' }), memberId: 'm1', keepFirst: false };
    const items: [Item, Within?][] = [
      [{ type: 'shortcut', shortcut }, board],
      [{ type: 'shortcut', shortcut }, shelf],
      [{ type: 'original', entry: { ...ENTRY, type: 'folder', kind: 'folder' } }],
      [{ type: 'program', program: PROGRAM }],
      [{ type: 'collection', collection: aCollection({ id: 'c', name: 'C' }) }],
      [{ type: 'tag', tag: { id: 't', name: 'boat', colour: 'tide', count: 1, pinned: false } }],
    ];
    const known = new Set(LETTER_KEYS.map((line) => line.keys));
    for (const [item, within] of items)
      for (const { key } of acts(item, [], within).list) if (key?.length === 1) expect(known).toContain(key);
  });

  it('stand in groups, what is needed seldom before what removes', () => {
    const { list } = acts({ type: 'shortcut', shortcut });
    const groups = list.map((a) => a.group ?? 'open');
    expect([...new Set(groups)]).toEqual(['open', 'organise', 'change', 'remove']);
    expect(groups).toEqual([...groups].sort((a, b) => groups.indexOf(a) - groups.indexOf(b)));
    expect(list.filter((a) => !a.rare).length).toBeLessThanOrEqual(14);
  });

  it('leave Enter to the list itself', () => {
    expect(actForKey(acts({ type: 'shortcut', shortcut }).list, 'Enter')).toBeUndefined();
  });
});
