/**
 * The acts on an item: one list for the context menu, the card, the find line and the keys, always in the order of
 * GROUPS.
 */
import type { DialogRequest } from '../workspace/dialogRequest';
import type { BoardId, BoardItemId, PinTarget, PinView, PublicationSource } from '@rellin/contract';
import type { SearchActs } from './useSearchActs';
import type { Gather } from './useGather';
import type { Gathered, Item, Within, WithinBoard } from '../workspace/workspace';
import type { Commands } from '../workspace/useCommands';

/** What an act is for, in the order in which menus show them: a rule stands between two groups. */
const GROUPS = ['open', 'organise', 'here', 'change', 'remove'] as const;

export interface Act {
  id: string;
  label: string;
  /** Where many stand side by side. */
  short?: string;
  /** The key on a selected row. */
  key?: string;
  /** A second key for the same act. */
  otherKey?: string;
  /** `open` where nothing is said. */
  group?: (typeof GROUPS)[number];
  /** One level down in a menu: it is needed seldom. */
  rare?: boolean;
  /** In the colour of loss. */
  grave?: boolean;
  run(): void;
}

/** What acts are done with. */
export interface CommandContext {
  d: Commands;
  gather: Gather;
  searches: SearchActs;
  pins: readonly PinView[];
  takeOff(board: WithinBoard['board'], itemIds: readonly BoardItemId[], name: string): void;
  openDialog(request: DialogRequest): void;
  /** Nothing is chosen any more. */
  clear(): void;
  /** Shows a view of the page. */
  go(path: string): void;
  /** By which way the person came, kept with each opening. */
  route: string;
}

export function actsFor(item: Item, context: CommandContext, within?: Within): Act[] {
  return inGroups(actsOn(item, context, within));
}

/** In the order of their groups, otherwise as they stood. */
export function inGroups(acts: readonly Act[]): Act[] {
  const rank = (act: Act) => GROUPS.indexOf(act.group ?? 'open');
  return [...acts].sort((a, b) => rank(a) - rank(b));
}

function actsOn(item: Item, context: CommandContext, within?: Within): Act[] {
  switch (item.type) {
    case 'shortcut':
      return shortcutActs(item.shortcut, context, within);
    case 'original':
      return originalActs(item.entry, context);
    case 'program':
      return programActs(item.program, context);
    case 'collection':
      return collectionActs(item.collection, context, within);
    case 'tag':
      return tagActs(item.tag, context);
    case 'search':
      return searchActs(item.search, context, within);
  }
}

type Of<T extends Item['type'], K extends string> = Extract<Item, { type: T }> extends Record<K, infer V> ? V : never;

function pinActs(target: PinTarget, id: string, name: string, { d, pins }: CommandContext): Act[] {
  const pin = pins.find((p) => p.target === target && p.targetId === id);
  const group = 'organise';
  if (!pin) return [{ id: 'pin', label: 'Pin', key: 'P', group, run: () => void d.pin(target, id, name) }];
  const unpin: Act = { id: 'unpin', label: 'Unpin', key: 'P', group, run: () => void d.unpin(pin.id, name) };
  // the plan never moves what is no single shortcut
  if (target !== 'shortcut') return [unpin];
  const label = pin.kept ? 'Let the plan move its pin' : 'Keep its pin where it is';
  return [unpin, { id: 'keep-pin', label, group, rare: true, run: () => void d.keepPin(pin, !pin.kept) }];
}

/** A folder of links, or a menu, that is kept up to date. */
function publishAct(
  source: PublicationSource,
  { id, name }: { id: string; name: string },
  { openDialog }: CommandContext,
): Act {
  return {
    id: 'publish',
    label: 'Publish as links or a menu…',
    group: 'organise',
    rare: true,
    run: () => openDialog({ kind: 'publish', source, id, name }),
  };
}

/** What stands out of its place in the collection it was met in. */
function memberActs(name: string, { gather }: CommandContext, within: Within | undefined): Act[] {
  if (!within || 'board' in within) return [];
  const { collection, memberId, keepFirst } = within;
  return [
    {
      id: 'keep-first',
      label: keepFirst ? 'No longer keep first' : 'Keep first',
      key: 'K',
      group: 'here',
      run: () => void gather.keepFirst(collection, [memberId], !keepFirst),
    },
    {
      id: 'take-out',
      label: `Remove from “${collection.name}”`,
      key: 'X',
      otherKey: 'Delete',
      group: 'here',
      run: () => void gather.takeOut(collection, [memberId], `“${name}”`),
    },
  ];
}

function layAct(gathered: Gathered, openDialog: CommandContext['openDialog'], boardId?: BoardId): Act {
  return {
    id: 'lay-on-board',
    label: boardId === undefined ? 'Put on a board…' : 'To another region…',
    group: boardId === undefined ? 'organise' : 'here',
    run: () => openDialog({ kind: 'lay-on-board', gathered, ...(boardId !== undefined && { boardId }) }),
  };
}

/** Putting a shortcut on a board; where it was met on one, into another region or off it. */
function boardActs(
  name: string,
  gathered: Gathered,
  { takeOff, openDialog }: CommandContext,
  within: Within | undefined,
): Act[] {
  const on = within && 'board' in within ? within : undefined;
  const lay = layAct(gathered, openDialog, on?.board.id);
  if (!on) return [lay];
  const off: Act = {
    id: 'take-off',
    label: `Remove from “${on.board.name}”`,
    key: 'X',
    otherKey: 'Delete',
    group: 'here',
    run: () => takeOff(on.board, [on.itemId], `“${name}”`),
  };
  return [lay, off];
}

function shortcutActs(s: Of<'shortcut', 'shortcut'>, context: CommandContext, within?: Within): Act[] {
  const { d, openDialog, route } = context;
  const gathered: Gathered = { shortcuts: [{ id: s.id, name: s.name }] };
  const acts: Act[] = [
    { id: 'open', label: 'Open', key: 'Enter', run: () => void d.open({ shortcutId: s.id, route }) },
  ];
  if (s.target === 'original' && s.originalId)
    acts.push({
      id: 'preview',
      label: 'Preview',
      key: 'V',
      run: () => openDialog({ kind: 'preview', placeId: s.placeId!, originalId: s.originalId!, name: s.name }),
    });
  if (s.target === 'original')
    acts.push({
      id: 'open-with',
      label: 'Open with…',
      key: 'O',
      run: () => openDialog({ kind: 'open-with', shortcuts: [s] }),
    });
  if (s.target !== 'web') acts.push({ id: 'show', label: 'Show where it is', key: 'W', run: () => d.showWhereItIs(s) });
  acts.push(
    {
      id: 'copy',
      label: s.target === 'web' ? 'Copy address' : s.target === 'program' ? 'Copy program id' : 'Copy path',
      key: 'C',
      run: () => void d.copy(s.location),
    },
    ...pinActs('shortcut', s.id, s.name, context),
    collectAct(gathered, openDialog),
    { id: 'tags', label: 'Tags…', key: 'T', group: 'organise', run: () => openDialog({ kind: 'tags', gathered }) },
    ...boardActs(s.name, gathered, context, within),
    ...(s.target === 'original' && s.kind !== 'folder' ? [fileAct(gathered, openDialog)] : []),
    ...memberActs(s.name, context, within),
    {
      id: 'rename',
      label: 'Rename…',
      key: 'F2',
      group: 'change',
      run: () => openDialog({ kind: 'rename', shortcut: s }),
    },
    {
      id: 'describe',
      label: 'Describe…',
      key: 'D',
      group: 'change',
      run: () => openDialog({ kind: 'describe', shortcut: s }),
    },
    {
      id: 'repoint',
      label: 'Change target…',
      key: 'R',
      group: 'change',
      run: () => openDialog({ kind: 'repoint', shortcut: s }),
    },
    {
      id: 'goes-with',
      label: 'Goes with…',
      key: 'G',
      group: 'change',
      rare: true,
      run: () => openDialog({ kind: 'goes-with', shortcut: s }),
    },
    {
      id: 'picture',
      label: 'Picture…',
      key: 'B',
      group: 'change',
      rare: true,
      run: () => openDialog({ kind: 'picture', target: 'shortcut', shortcut: s }),
    },
    {
      id: 'own-key',
      label: 'Own key…',
      group: 'change',
      rare: true,
      run: () => openDialog({ kind: 'own-key', target: 'shortcut', id: s.id, name: s.name, keys: s.keys }),
    },
    {
      id: 'alias',
      label: 'Put an alias in a folder…',
      group: 'organise',
      rare: true,
      run: () => openDialog({ kind: 'alias', shortcut: s }),
    },
    ...(s.kind === 'folder' && s.originalId !== null
      ? [
          {
            id: 'sweep',
            label: 'Sweep this folder…',
            group: 'here' as const,
            rare: true,
            run: () => context.go(`/sweeps/new?in=${s.placeId!}/${s.originalId!}`),
          },
        ]
      : []),
    removeShortcutAct(s, d, within),
  );
  return acts;
}

/**
 * Where it was met in a collection or on a board, Delete removes it from there only, and this says that it goes
 * further.
 */
function removeShortcutAct(s: Of<'shortcut', 'shortcut'>, d: Commands, within: Within | undefined): Act {
  return {
    id: 'remove',
    label: within ? 'Remove shortcut everywhere' : 'Remove shortcut',
    ...(!within && { key: 'Delete' }),
    group: 'remove',
    grave: true,
    run: () => void d.removeShortcut(s),
  };
}

function fileAct(gathered: Gathered, openDialog: CommandContext['openDialog']): Act {
  return {
    id: 'file-into',
    label: 'Move or copy to…',
    key: 'M',
    group: 'organise',
    run: () => openDialog({ kind: 'file-into', gathered }),
  };
}

/** `short`: for the bar below a list, where several are meant. */
export function collectAct(gathered: Gathered, openDialog: CommandContext['openDialog']): Act {
  return {
    id: 'add-to',
    label: 'Add to collection…',
    short: 'Collect…',
    key: 'A',
    group: 'organise',
    run: () => openDialog({ kind: 'add-to-collection', gathered }),
  };
}

/** Making a shortcut of something that has none, or another of what has one. */
function addActs(
  request: Parameters<Commands['addShortcut']>[0],
  has: boolean,
  gathered: Gathered,
  context: CommandContext,
): Act[] {
  const { d, openDialog } = context;
  return [
    {
      id: 'add',
      label: has ? 'Add another shortcut' : 'Add shortcut',
      key: 'N',
      group: 'organise',
      run: () => void d.addShortcut(request),
    },
    {
      id: 'add-pin',
      label: 'Add shortcut and pin',
      key: 'P',
      group: 'organise',
      run: () => void d.addShortcut({ ...request, pin: true }),
    },
    collectAct(gathered, openDialog),
    layAct(gathered, openDialog),
  ];
}

function originalActs(e: Of<'original', 'entry'>, context: CommandContext): Act[] {
  const { d, gather, openDialog, route, go } = context;
  const where = { placeId: e.placeId, originalId: e.id };
  const gathered: Gathered = { shortcuts: [], originals: [{ ...where, name: e.name }] };
  const acts: Act[] = [
    { id: 'open', label: 'Open', key: 'Enter', run: () => void d.open({ ...where, route }) },
    {
      id: 'preview',
      label: 'Preview',
      key: 'V',
      run: () => openDialog({ kind: 'preview', placeId: e.placeId, originalId: e.id, name: e.name }),
    },
    {
      id: 'open-with',
      label: 'Open with…',
      key: 'O',
      run: () => openDialog({ kind: 'open-with', original: e }),
    },
    ...addActs(where, e.shortcut !== null, gathered, context),
    { id: 'tags', label: 'Tags…', key: 'T', group: 'organise', run: () => openDialog({ kind: 'tags', gathered }) },
    { ...fileAct(gathered, openDialog), label: 'Move or copy the original to…', group: 'change' },
    {
      id: 'rename-original',
      label: 'Rename the original…',
      key: 'F2',
      group: 'change',
      run: () => openDialog({ kind: 'rename-originals', entries: [e] }),
    },
    {
      id: 'duplicate-original',
      label: 'Duplicate the original',
      group: 'change',
      run: () => void d.duplicateOriginals([where]),
    },
    {
      id: 'delete-original',
      label: 'Delete the original',
      key: 'Delete',
      group: 'change',
      grave: true,
      run: () => void d.deleteOriginals([{ ...where, name: e.name }]),
    },
  ];
  if (e.type !== 'folder') return acts;
  const made = (work: ReturnType<Gather['make']>) => void work.then((c) => c && go(`/collections/${c.id}`));
  return [
    ...acts,
    {
      id: 'collect-inside',
      label: 'Make a collection of what is in it…',
      group: 'here',
      run: () => openDialog({ kind: 'collect-folder', folder: e }),
    },
    {
      id: 'mirror',
      label: 'Mirror this folder',
      group: 'here',
      run: () => made(gather.make({ name: e.name, type: 'mirror', folder: where })),
    },
    {
      id: 'search-here',
      label: 'Search only here…',
      group: 'here',
      run: () => go(`/searches/new?in=${e.placeId}/${e.id}`),
    },
    {
      id: 'sweep',
      label: 'Sweep this folder…',
      group: 'here',
      run: () => go(`/sweeps/new?in=${e.placeId}/${e.id}`),
    },
    { id: 'start-here', label: 'Start here', group: 'here', run: () => void d.startHere(where, e.name) },
  ];
}

function programActs(p: Of<'program', 'program'>, context: CommandContext): Act[] {
  const { d, route } = context;
  const gathered: Gathered = { shortcuts: [], programs: [{ programId: p.id, name: p.name }] };
  return [
    { id: 'open', label: 'Open', key: 'Enter', run: () => void d.open({ programId: p.id, route }) },
    ...addActs({ programId: p.id }, p.shortcut !== null, gathered, context),
  ];
}

function collectionActs(c: Of<'collection', 'collection'>, context: CommandContext, within?: Within): Act[] {
  const { gather, openDialog, go } = context;
  const acts: Act[] = [
    { id: 'open', label: 'Open', key: 'Enter', run: () => go(`/collections/${c.id}`) },
    ...pinActs('collection', c.id, c.name, context),
    {
      id: 'add-to',
      label: 'Add to collection…',
      key: 'A',
      group: 'organise',
      run: () =>
        openDialog({
          kind: 'add-to-collection',
          gathered: { shortcuts: [], collections: [{ id: c.id, name: c.name }] },
        }),
    },
    ...memberActs(c.name, context, within),
  ];
  if (c.type !== 'mirror')
    acts.push(
      {
        id: 'gather',
        label: 'Add several…',
        key: 'G',
        group: 'organise',
        run: () => openDialog({ kind: 'gather', collection: c }),
      },
      {
        id: 'new-inside',
        label: 'New collection in it…',
        group: 'organise',
        run: () => openDialog({ kind: 'new-collection', collectionType: 'plain', parentId: c.id }),
      },
      publishAct('collection', c, context),
    );
  if (c.type === 'working-set' && c.count > 0)
    acts.push({ id: 'empty', label: 'Empty', group: 'here', run: () => void gather.empty(c) });
  if (c.lastMembers > 0)
    acts.push({
      id: 'bring-back',
      label: 'Bring last time’s back',
      group: 'here',
      run: () => void gather.bringBack(c),
    });
  acts.push(
    {
      id: 'picture',
      label: 'Picture…',
      key: 'B',
      group: 'change',
      rare: true,
      run: () => openDialog({ kind: 'picture', target: 'collection', collection: c }),
    },
    {
      id: 'own-key',
      label: 'Own key…',
      group: 'change',
      rare: true,
      run: () =>
        openDialog({
          kind: 'own-key',
          target: 'collection',
          id: c.id,
          name: c.name,
          keys: c.keys,
          revision: c.revision,
        }),
    },
    {
      id: 'rename',
      label: 'Name and colour…',
      key: 'F2',
      group: 'change',
      run: () => openDialog({ kind: 'change-collection', collection: c }),
    },
    {
      id: 'remove',
      label: within ? 'Remove collection everywhere' : 'Remove collection',
      ...(!within && { key: 'Delete' }),
      group: 'remove',
      grave: true,
      run: () => void gather.removeCollection(c),
    },
  );
  return acts;
}

function tagActs(tag: Of<'tag', 'tag'>, context: CommandContext): Act[] {
  const { gather, openDialog, go } = context;
  return [
    { id: 'open', label: 'Show everything with this tag', key: 'Enter', run: () => go(`/collections/tag/${tag.id}`) },
    ...pinActs('tag', tag.id, tag.name, context),
    publishAct('tag', tag, context),
    {
      id: 'rename',
      label: 'Name and colour…',
      key: 'F2',
      group: 'change',
      run: () => openDialog({ kind: 'change-tag', tag }),
    },
    {
      id: 'remove',
      label: 'Remove tag',
      key: 'Delete',
      group: 'remove',
      grave: true,
      run: () => void gather.removeTag(tag),
    },
  ];
}

function searchActs(s: Of<'search', 'search'>, context: CommandContext, within?: Within): Act[] {
  const { searches, openDialog, go } = context;
  const gathered: Gathered = { shortcuts: [], searches: [{ id: s.id, name: s.name }] };
  return [
    { id: 'open', label: 'Show what it finds', key: 'Enter', run: () => go(`/searches/${s.id}`) },
    ...pinActs('search', s.id, s.name, context),
    collectAct(gathered, openDialog),
    { id: 'tags', label: 'Tags…', key: 'T', group: 'organise', run: () => openDialog({ kind: 'tags', gathered }) },
    ...memberActs(s.name, context, within),
    ...(s.came + s.went > 0
      ? [{ id: 'noted', label: 'Mark as seen', key: 'E', run: () => void searches.markSeen(s) }]
      : []),
    {
      id: 'mute',
      label: s.muted ? 'Show how many are new' : 'Do not count what is new',
      group: 'change',
      rare: true,
      run: () => void searches.change(s, { muted: !s.muted }),
    },
    publishAct('search', s, context),
    {
      id: 'rename',
      label: 'Name and colour…',
      key: 'F2',
      group: 'change',
      run: () => openDialog({ kind: 'change-search', search: s }),
    },
    {
      id: 'own-key',
      label: 'Own key…',
      group: 'change',
      rare: true,
      run: () => openDialog({ kind: 'own-key', target: 'search', id: s.id, name: s.name, keys: s.keys }),
    },
    {
      id: 'remove',
      label: within ? 'Remove saved search everywhere' : 'Remove saved search',
      ...(!within && { key: 'Delete' }),
      group: 'remove',
      grave: true,
      run: () => void searches.remove(s),
    },
  ];
}

/** The act that a key on a row stands for. */
export function actForKey(acts: readonly Act[], key: string): Act | undefined {
  const name = key.length === 1 ? key.toUpperCase() : key;
  return acts.find((act) => (act.key === name || act.otherKey === name) && act.id !== 'open');
}
