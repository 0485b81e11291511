/**
 * What a drop would do, told before it is done; pure. Between two things means order, on a thing means into it, and
 * *on* counts only after a short rest, so that nothing is filed away in passing.
 */
import type {
  BoardView,
  BundleView,
  CollectionView,
  MemberId,
  OriginalId,
  PinView,
  PlaceId,
  ProgramId,
  RegionView,
  ShortcutId,
  TagView,
} from '@rellin/contract';
import type { Item, Within } from './workspace';

type Board = Pick<BoardView, 'id' | 'name'>;

export type Dragged =
  | { kind: 'pin'; pin: PinView }
  | { kind: 'item'; item: Item; within?: Within }
  | { kind: 'bundle'; board: Board; bundle: BundleView };

export type DropTarget =
  | { kind: 'strip' }
  | { kind: 'pin'; pin: PinView }
  | { kind: 'into'; item: Item; open?(): void }
  | { kind: 'before'; collection: CollectionView; memberId: MemberId; name: string; open?(): void }
  | { kind: 'region'; board: Board; region: RegionView }
  | { kind: 'beside'; board: Board; region: RegionView; itemId: string; name: string }
  | { kind: 'bundle'; board: Board; bundle: BundleView };

/** How the pointer stands over the target. */
export interface Hover {
  /** It has rested on it for a moment. */
  rested: boolean;
  /** It is on its middle, not near an edge. */
  middle: boolean;
  /** The slot that a drop between pins means, from 1. */
  slot: number;
  /** On a region of a board, in cells. */
  at?: { x: number; y: number };
}

export type DropAct =
  | { act: 'none'; why: string }
  | { act: 'move-pin'; pin: PinView; slot: number }
  | { act: 'pin'; slot: number }
  | { act: 'unpin'; pin: PinView }
  | { act: 'add-to'; collection: Pick<CollectionView, 'id' | 'name'>; before?: { id: string; name: string } }
  | { act: 'move-member'; collection: CollectionView; memberId: MemberId; before: { id: string; name: string } }
  | { act: 'tag'; tag: Pick<TagView, 'id' | 'name'> }
  | { act: 'file'; into: FilingTarget; how: 'move' | 'copy' }
  | { act: 'lay'; board: Board; where: LaidAt; moving: boolean }
  | { act: 'open-with'; program: { shortcutId?: ShortcutId; programId?: ProgramId; name: string } };

/** Where on a board something is to lie. */
export interface LaidAt {
  region?: Pick<RegionView, 'id' | 'name'>;
  at?: { x: number; y: number };
  /** Exactly there, not in the nearest cell. */
  exact?: boolean;
  before?: { id: string; name: string };
  bundle?: Pick<BundleView, 'id' | 'name'>;
}

/** A real folder to file into. */
export interface FilingTarget {
  shortcutId?: ShortcutId;
  placeId?: PlaceId;
  originalId?: OriginalId;
  name: string;
}

function itemName(item: Item): string {
  switch (item.type) {
    case 'shortcut':
      return item.shortcut.name;
    case 'original':
      return item.entry.name;
    case 'program':
      return item.program.name;
    case 'collection':
      return item.collection.name;
    case 'tag':
      return item.tag.name;
    case 'search':
      return item.search.name;
  }
}

export function itemId(item: Item): string {
  switch (item.type) {
    case 'shortcut':
      return item.shortcut.id;
    case 'original':
      return `${item.entry.placeId}/${item.entry.id}`;
    case 'program':
      return item.program.id;
    case 'collection':
      return item.collection.id;
    case 'tag':
      return item.tag.id;
    case 'search':
      return item.search.id;
  }
}

export const draggedName = (dragged: Dragged) =>
  dragged.kind === 'pin' ? dragged.pin.name : dragged.kind === 'bundle' ? dragged.bundle.name : itemName(dragged.item);

/** The pin there is already of what is dragged. */
function pinOf(item: Item, pins: readonly PinView[]): PinView | undefined {
  return pins.find((p) => p.targetId === itemId(item));
}

function intoCollection(
  dragged: Dragged,
  collection: Pick<CollectionView, 'id' | 'name'> & { type?: string },
): DropAct {
  if (collection.type === 'mirror')
    return { act: 'none', why: `“${collection.name}” is a mirror; it shows its folder` };
  if (dragged.kind === 'bundle') return { act: 'none', why: 'A bundle stays on its board' };
  if (dragged.kind === 'pin' && dragged.pin.target === 'tag') return { act: 'none', why: 'A tag is no member' };
  if (dragged.kind === 'item' && dragged.item.type === 'tag') return { act: 'none', why: 'A tag is no member' };
  return { act: 'add-to', collection };
}

function intoTag(dragged: Dragged, tag: Pick<TagView, 'id' | 'name'>): DropAct {
  const type = typeOf(dragged);
  return type === 'shortcut' || type === 'original' || type === 'search'
    ? { act: 'tag', tag }
    : { act: 'none', why: 'Tags go on shortcuts, originals and saved searches' };
}

const typeOf = (dragged: Dragged) =>
  dragged.kind === 'pin' ? dragged.pin.target : dragged.kind === 'bundle' ? 'bundle' : dragged.item.type;

/** Only shortcuts lie on boards, and what gets one; a bundle stays on its own. */
function ontoBoard(dragged: Dragged, board: Board, where: LaidAt): DropAct {
  const type = typeOf(dragged);
  if (dragged.kind === 'bundle') {
    if (dragged.board.id !== board.id || !where.region || where.before)
      return { act: 'none', why: 'A bundle stays on its board' };
    return { act: 'lay', board, where, moving: true };
  }
  if (type !== 'shortcut' && type !== 'original' && type !== 'program')
    return { act: 'none', why: 'Only shortcuts lie on boards' };
  const within = dragged.kind === 'item' ? dragged.within : undefined;
  return {
    act: 'lay',
    board,
    where,
    moving: within !== undefined && 'board' in within && within.board.id === board.id,
  };
}

/**
 * Originals are filed into folders and opened with programs. Only an original that was dragged itself is ever moved: a
 * dragged shortcut never takes its original along.
 */
function ontoOriginal(dragged: Dragged, onto: Item, copy: boolean): DropAct | undefined {
  if (dragged.kind !== 'item' || dragged.item.type !== 'original') return undefined;
  const how = copy ? 'copy' : 'move';
  switch (onto.type) {
    case 'shortcut': {
      const { id, name, kind } = onto.shortcut;
      if (kind === 'folder') return { act: 'file', into: { shortcutId: id, name }, how };
      return kind === 'program' ? { act: 'open-with', program: { shortcutId: id, name } } : undefined;
    }
    case 'original': {
      const { placeId, id, name, type } = onto.entry;
      if (type !== 'folder' || (dragged.item.entry.id === id && dragged.item.entry.placeId === placeId))
        return undefined;
      return { act: 'file', into: { placeId, originalId: id, name }, how };
    }
    case 'program':
      return { act: 'open-with', program: { programId: onto.program.id, name: onto.program.name } };
    default:
      return undefined;
  }
}

interface DropContext {
  pins: readonly PinView[];
  limit: number;
  copy?: boolean;
  exact?: boolean;
}

/** `undefined` while nothing would happen yet: the pointer is in passing. Without a target a pin has left the strip. */
export function dropAct(
  dragged: Dragged,
  target: DropTarget | undefined,
  hover: Hover,
  context: DropContext,
): DropAct | undefined {
  if (!target) return dragged.kind === 'pin' ? { act: 'unpin', pin: dragged.pin } : undefined;
  const act = dropOnto(dragged, target, hover, context);
  const isOffStrip = dragged.kind === 'pin' && target.kind === 'into' && hover.rested;
  return act ?? (isOffStrip ? { act: 'unpin', pin: dragged.pin } : undefined);
}

function dropOnto(dragged: Dragged, target: DropTarget, hover: Hover, context: DropContext): DropAct | undefined {
  switch (target.kind) {
    case 'into': {
      if (!hover.rested) return undefined;
      if (target.item.type === 'collection') return intoCollection(dragged, target.item.collection);
      if (target.item.type === 'tag') return intoTag(dragged, target.item.tag);
      return ontoOriginal(dragged, target.item, context.copy === true);
    }
    case 'before': {
      const before = { id: target.memberId, name: target.name };
      const within =
        dragged.kind === 'item' && dragged.within && 'collection' in dragged.within ? dragged.within : undefined;
      if (within?.collection.id !== target.collection.id) {
        const into = intoCollection(dragged, target.collection);
        return into.act === 'add-to' ? { ...into, before } : into;
      }
      return within.memberId === target.memberId
        ? undefined
        : { act: 'move-member', collection: target.collection, memberId: within.memberId, before };
    }
    case 'region': {
      const { board, region } = target;
      return ontoBoard(dragged, board, {
        region,
        ...(region.order === 'free' && { at: hover.at, exact: context.exact === true }),
      });
    }
    case 'beside': {
      const { board, region, itemId, name } = target;
      const own =
        dragged.kind === 'item' && dragged.within && 'itemId' in dragged.within ? dragged.within.itemId : undefined;
      return own === itemId ? undefined : ontoBoard(dragged, board, { region, before: { id: itemId, name } });
    }
    case 'bundle': {
      if (dragged.kind === 'bundle' || !hover.rested) return undefined;
      return ontoBoard(dragged, target.board, { bundle: target.bundle });
    }
    case 'pin': {
      const { pin } = target;
      const own = dragged.kind === 'pin' && dragged.pin.id === pin.id;
      if (!own && pin.target !== 'shortcut' && hover.middle && hover.rested)
        return pin.target === 'search'
          ? { act: 'none', why: `“${pin.name}” is a saved search; it finds its things itself` }
          : pin.target === 'collection'
            ? intoCollection(dragged, { id: pin.targetId, name: pin.name })
            : intoTag(dragged, { id: pin.targetId, name: pin.name });
      if (hover.middle && hover.rested && dragged.kind === 'item' && dragged.item.type === 'original') {
        const { targetId: shortcutId, name } = pin;
        if (pin.kind === 'folder')
          return { act: 'file', into: { shortcutId, name }, how: context.copy ? 'copy' : 'move' };
        if (pin.kind === 'program') return { act: 'open-with', program: { shortcutId, name } };
      }
      return onStrip(dragged, hover.slot, context);
    }
    case 'strip':
      return onStrip(dragged, hover.slot, context);
  }
}

function onStrip(
  dragged: Dragged,
  slot: number,
  { pins, limit }: { pins: readonly PinView[]; limit: number },
): DropAct | undefined {
  if (dragged.kind === 'bundle') return { act: 'none', why: 'A bundle stays on its board' };
  if (dragged.kind === 'pin')
    return slot === dragged.pin.slot ? undefined : { act: 'move-pin', pin: dragged.pin, slot };
  const there = pinOf(dragged.item, pins);
  if (there) return { act: 'none', why: `It is pinned already, as ${there.slot}` };
  if (pins.length >= limit) return { act: 'none', why: `The strip is full (${limit})` };
  return { act: 'pin', slot };
}

/** What can be done otherwise, below the words. */
export function dropHint(act: DropAct | undefined): string {
  if (!act || act.act === 'none') return 'The original stays where it is';
  if (act.act === 'lay')
    return act.where.at && !act.where.exact ? 'Alt puts it exactly here · undo afterwards' : 'undo afterwards';
  if (act.act === 'file') return act.how === 'move' ? 'Ctrl copies instead · undo afterwards' : 'undo afterwards';
  return act.act === 'open-with' ? 'The original stays where it is' : 'undo afterwards';
}

/** The words at the pointer; `many` where several things are dragged together. */
export function dropLabel(dragged: Dragged, act: DropAct, many = 1): string {
  const name = many > 1 ? `${many} things` : `“${draggedName(dragged)}”`;
  switch (act.act) {
    case 'none':
      return act.why;
    case 'move-pin':
      return `Move the pin ${name} to ${act.slot}`;
    case 'unpin':
      return `Unpin ${name}`;
    case 'pin':
      return dragged.kind === 'item' && (dragged.item.type === 'original' || dragged.item.type === 'program')
        ? `Add a shortcut to ${name} and pin it as ${act.slot}`
        : `Pin ${name} as ${act.slot}`;
    case 'add-to':
      return `Add ${name} to “${act.collection.name}”${act.before ? `, before “${act.before.name}”` : ''}`;
    case 'move-member':
      return `Put ${name} before “${act.before.name}”`;
    case 'lay': {
      const { region, before, bundle } = act.where;
      if (bundle) return `Add ${name} to the bundle “${bundle.name}”`;
      const verb = act.moving ? 'Move' : 'Put';
      return before
        ? `${verb} ${name} before “${before.name}”`
        : `${verb} ${name} in “${region?.name ?? act.board.name}”`;
    }
    case 'tag':
      return `Tag ${name} “${act.tag.name}”`;
    case 'file':
      return `${act.how === 'move' ? 'Move' : 'Copy'} ${name} into “${act.into.name}”`;
    case 'open-with':
      return `Open ${name} with ${act.program.name}`;
  }
}
