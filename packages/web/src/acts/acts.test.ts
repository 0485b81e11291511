import { describe, expect, it, jest } from '@jest/globals';
import type { EntryView, ProgramView } from '@rellin/contract';
import type { Item } from '../frame/desk';
import { aPin, aShortcut } from '../testing/page';
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
const acts = (item: Item, pins = [] as Parameters<typeof actsFor>[2]) => {
  const { d, asked } = recorder();
  const dialog = jest.fn();
  return { list: actsFor(item, d, pins, dialog, 'test'), asked, dialog };
};
const shortcut = aShortcut({ id: 's1', name: 'Tide table' });

describe('the acts on an item', () => {
  it('stand in one order, opening first and removing last', () => {
    const { list } = acts({ type: 'shortcut', shortcut });
    expect(list.map((a) => a.label)).toEqual([
      'Open',
      'Look',
      'Show where it is',
      'Copy path',
      'Pin',
      'Rename…',
      'Describe…',
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
      ['pin', 's1', 'Tide table'],
      ['removeShortcut', shortcut],
    ]);
    expect(dialog.mock.calls.map(([r]) => (r as { kind: string }).kind)).toEqual([
      'look',
      'rename',
      'describe',
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

  it('leave Enter to the list itself', () => {
    expect(actForKey(acts({ type: 'shortcut', shortcut }).list, 'Enter')).toBeUndefined();
  });
});
