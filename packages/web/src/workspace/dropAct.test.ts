/** What a drop would do is said before it is done, so what is said is what is tested. */
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { EntryView, TagView } from '@rellin/contract';
import { aCollection, aPin, aShortcut } from '../testing/page';
import { dropAct, dropHint, dropLabel, type Dragged, type DropTarget, type Hover } from './dropAct';

const log = aShortcut({ id: 's1', name: 'Ringing log' });
const tide = aShortcut({ id: 's2', name: 'Tide table' });
const today = aCollection({ id: 'c1', name: 'Today' });
const mirror = aCollection({ id: 'c2', name: 'Folder', type: 'mirror' });
const tag: TagView = { id: 't1', name: 'boat', colour: 'brick', count: 1, pinned: false };
const entry = { id: 9, placeId: 1, name: 'map.png', type: 'file', kind: 'picture' } as EntryView;
const pins = [aPin(1, log), { ...aPin(2, tide), target: 'collection' as const, targetId: 'c1', name: 'Today' }];

const item = (dragged: Extract<Dragged, { kind: 'item' }>['item'], within?: object): Dragged =>
  ({ kind: 'item', item: dragged, within }) as Dragged;
const shortcut = item({ type: 'shortcut', shortcut: tide });
const rest: Hover = { rested: true, middle: true, slot: 2 };
const passing: Hover = { ...rest, rested: false };
const context = { pins, limit: 9 };
const say = (dragged: Dragged, target: DropTarget, hover = rest, f = context) => {
  const act = dropAct(dragged, target, hover, f);
  return act && dropLabel(dragged, act);
};

describe('what a drop would do', () => {
  it('on a collection: into it, after a rest, never in passing', () => {
    const into: DropTarget = { kind: 'into', item: { type: 'collection', collection: today } };
    expect(say(shortcut, into, passing)).toBeUndefined();
    expect(say(shortcut, into)).toBe('Add “Tide table” to “Today”');
    expect(say(item({ type: 'original', entry }), into)).toBe('Add “map.png” to “Today”');
    expect(say(item({ type: 'collection', collection: mirror }), into)).toBe('Add “Folder” to “Today”');
  });

  it('on a mirror: nothing, and why', () => {
    const into: DropTarget = { kind: 'into', item: { type: 'collection', collection: mirror } };
    expect(say(shortcut, into)).toContain('is a mirror');
    expect(dropAct(shortcut, into, rest, context)).toMatchObject({ act: 'none' });
  });

  it('on a tag: shortcuts and originals bear it, nothing else', () => {
    const into: DropTarget = { kind: 'into', item: { type: 'tag', tag } };
    expect(say(shortcut, into)).toBe('Tag “Tide table” “boat”');
    expect(say(item({ type: 'original', entry }), into)).toBe('Tag “map.png” “boat”');
    expect(say(item({ type: 'collection', collection: today }), into)).toContain('Tags go on');
  });

  it('between members: order within the collection, from elsewhere a place in it', () => {
    const before: DropTarget = { kind: 'before', collection: today, memberId: 'm2', name: 'Rota' };
    const member = item({ type: 'shortcut', shortcut: tide }, { collection: today, memberId: 'm1', keepFirst: false });
    expect(say(member, before)).toBe('Put “Tide table” before “Rota”');
    expect(say(shortcut, before)).toBe('Add “Tide table” to “Today”, before “Rota”');
    const self = item({ type: 'shortcut', shortcut: tide }, { collection: today, memberId: 'm2', keepFirst: false });
    expect(say(self, before)).toBeUndefined();
  });

  it('on a board: into the region, at the cell; before another in own order; into a bundle after a rest', () => {
    const board = { id: 'b1', name: 'Net round' };
    const region = { id: 'r1', name: 'Afterwards', order: 'free' as const };
    const bundle = { id: 'u1', regionId: 'r1', name: 'Survey', sort: 1, x: 0, y: 0 };
    const free: DropTarget = { kind: 'region', board, region };
    const at = { x: 1.2, y: 0.4 };
    expect(say(shortcut, free, { ...rest, at })).toBe('Put “Tide table” in “Afterwards”');
    expect(dropAct(shortcut, free, { ...rest, at }, context)).toMatchObject({
      where: { at, exact: false },
      moving: false,
    });
    expect(dropAct(shortcut, free, { ...rest, at }, { ...context, exact: true } as typeof context)).toMatchObject({
      where: { exact: true },
    });
    // a sorted region has no cells to choose from
    expect(
      dropAct(shortcut, { kind: 'region', board, region: { ...region, order: 'name' } }, { ...rest, at }, context),
    ).toEqual({ act: 'lay', board, where: { region: { ...region, order: 'name' } }, moving: false });
    const laid = item({ type: 'shortcut', shortcut: tide }, { board, itemId: 'i1' });
    expect(say(laid, free, { ...rest, at })).toBe('Move “Tide table” in “Afterwards”');
    const beside: DropTarget = { kind: 'beside', board, region, itemId: 'i2', name: 'Rota' };
    expect(say(laid, beside)).toBe('Move “Tide table” before “Rota”');
    expect(say(laid, { ...beside, itemId: 'i1' })).toBeUndefined();
    const into: DropTarget = { kind: 'bundle', board, bundle };
    expect(say(laid, into, passing)).toBeUndefined();
    expect(say(laid, into)).toBe('Add “Tide table” to the bundle “Survey”');
    expect(say(item({ type: 'original', entry }), free)).toBe('Put “map.png” in “Afterwards”');
    expect(say(item({ type: 'collection', collection: today }), free)).toBe('Only shortcuts lie on boards');
    const held: Dragged = { kind: 'bundle', board, bundle };
    expect(say(held, free, { ...rest, at })).toBe('Move “Survey” in “Afterwards”');
    for (const other of [{ ...free, board: { id: 'b2', name: 'Moths' } }, { kind: 'strip' } as const])
      expect(say(held, other)).toBe('A bundle stays on its board');
  });

  it('on the strip: a pin in that slot; what is pinned says where; a full strip says so', () => {
    expect(say(shortcut, { kind: 'strip' }, { ...rest, slot: 3 })).toBe('Pin “Tide table” as 3');
    expect(say(item({ type: 'original', entry }), { kind: 'strip' })).toBe(
      'Add a shortcut to “map.png” and pin it as 2',
    );
    expect(say(item({ type: 'shortcut', shortcut: log }), { kind: 'strip' })).toBe('It is pinned already, as 1');
    expect(say(shortcut, { kind: 'strip' }, rest, { pins, limit: 2 })).toBe('The strip is full (2)');
  });

  it('on a pinned collection: its middle is into it after a rest, its edges are order', () => {
    const on: DropTarget = { kind: 'pin', pin: pins[1]! };
    expect(say(shortcut, on)).toBe('Add “Tide table” to “Today”');
    expect(say(shortcut, on, passing)).toBe('Pin “Tide table” as 2');
    expect(say(shortcut, on, { ...rest, middle: false, slot: 3 })).toBe('Pin “Tide table” as 3');
    expect(say({ kind: 'pin', pin: pins[0]! }, on)).toBe('Add “Ringing log” to “Today”');
    expect(say({ kind: 'pin', pin: pins[1]! }, on)).toBeUndefined();
  });

  it('an original on a folder: moved, said so, or copied with Ctrl; a shortcut never takes its original along', () => {
    const folder = aShortcut({ id: 's9', name: 'Photographs', kind: 'folder' });
    const on: DropTarget = { kind: 'into', item: { type: 'shortcut', shortcut: folder } };
    const map = item({ type: 'original', entry });
    expect(say(map, on)).toBe('Move “map.png” into “Photographs”');
    expect(say(map, on, rest, { ...context, copy: true } as typeof context)).toBe('Copy “map.png” into “Photographs”');
    expect(say(map, on, passing)).toBeUndefined();
    expect(say(shortcut, on)).toBeUndefined();
    const real: DropTarget = {
      kind: 'into',
      item: { type: 'original', entry: { ...entry, id: 3, type: 'folder', name: 'Maps' } },
    };
    expect(say(map, real)).toBe('Move “map.png” into “Maps”');
    const self = item({ type: 'original', entry: { ...entry, id: 3, type: 'folder', name: 'Maps' } });
    expect(say(self, real)).toBeUndefined();
    const pinned: DropTarget = { kind: 'pin', pin: { ...aPin(3, folder), kind: 'folder' } };
    expect(say(map, pinned)).toBe('Move “map.png” into “Photographs”');
    expect(say(map, pinned, passing)).toBe('Add a shortcut to “map.png” and pin it as 2');
    expect(dropHint(dropAct(map, on, rest, context))).toContain('Ctrl copies instead');
  });

  it('a pin that left the strip is unpinned, and the words say so; on a collection it goes into that', () => {
    const pin = { kind: 'pin', pin: pins[0]! } as const;
    expect(dropAct(pin, undefined, rest, context)).toEqual({ act: 'unpin', pin: pins[0] });
    expect(dropLabel(pin, dropAct(pin, undefined, rest, context)!)).toBe(`Unpin “${pins[0]!.name}”`);
    expect(dropAct(shortcut, undefined, rest, context)).toBeUndefined();
    const file: DropTarget = { kind: 'into', item: { type: 'original', entry } };
    expect(dropAct(pin, file, rest, context)).toMatchObject({ act: 'unpin' });
    expect(dropAct(pin, file, passing, context)).toBeUndefined();
    expect(dropAct(pin, { kind: 'strip' }, { ...rest, slot: 3 }, context)).toMatchObject({ act: 'move-pin' });
  });

  it('an original on a program opens with it', () => {
    const program = aShortcut({ id: 's8', name: 'Chartroom', kind: 'program', target: 'program' });
    const map = item({ type: 'original', entry });
    expect(say(map, { kind: 'into', item: { type: 'shortcut', shortcut: program } })).toBe(
      'Open “map.png” with Chartroom',
    );
    expect(say(map, { kind: 'pin', pin: { ...aPin(3, program), kind: 'program' } })).toBe(
      'Open “map.png” with Chartroom',
    );
    expect(say(shortcut, { kind: 'into', item: { type: 'shortcut', shortcut: program } })).toBeUndefined();
  });

  it('with several dragged counts them', () => {
    const into: DropTarget = { kind: 'into', item: { type: 'collection', collection: today } };
    expect(dropLabel(shortcut, dropAct(shortcut, into, rest, context)!, 3)).toBe('Add 3 things to “Today”');
  });

  it('never does in passing what would file a thing away, whatever is dragged wherever', () => {
    const draggeds = [
      shortcut,
      item({ type: 'original', entry }),
      item({ type: 'tag', tag }),
      { kind: 'pin', pin: pins[0]! },
    ];
    const targets: DropTarget[] = [
      { kind: 'strip' },
      ...pins.map((pin): DropTarget => ({ kind: 'pin', pin })),
      { kind: 'pin', pin: { ...pins[0]!, kind: 'folder' } },
      { kind: 'into', item: { type: 'shortcut', shortcut: { ...tide, kind: 'folder' } } },
      { kind: 'into', item: { type: 'collection', collection: today } },
      { kind: 'into', item: { type: 'tag', tag } },
    ];
    fc.assert(
      fc.property(
        fc.constantFrom(...(draggeds as Dragged[])),
        fc.constantFrom(...targets),
        fc.boolean(),
        fc.integer({ min: 1, max: 4 }),
        (dragged, target, middle, slot) => {
          const act = dropAct(dragged, target, { rested: false, middle, slot }, context);
          expect(['add-to', 'tag', 'file', 'open-with']).not.toContain(act?.act);
        },
      ),
      { seed: 51, numRuns: 200 },
    );
  });
});
