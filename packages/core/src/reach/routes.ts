/**
 * Routes to a thing and what each costs in steps and seconds (docs/models.md 2).
 * A step is one act on one thing: a click on a label, a chord, a choice from an open list, opening one folder, a word
 * typed. Where choosing among n is priced it stands for M; the two are never added for the same decision.
 */
import type { ReachConstants } from './constants.js';
import { choosing, pointing, totalSeconds, type Operator } from './operators.js';

export type RouteKind =
  | 'pin-key'
  | 'pin-click'
  | 'own-key'
  | 'collection'
  | 'tag'
  | 'search'
  | 'board'
  | 'find'
  | 'folders'
  /** By a link in a folder, in any file program. */
  | 'alias'
  /** By a desktop entry, its own or one in a menu. */
  | 'entry'
  /** By the command in a terminal. */
  | 'command';

/** Routes that do not lead through Rellin's window. */
const OUTSIDE = new Set<RouteKind>(['alias', 'entry', 'command']);

/** How one comes to Rellin: it is there already, another window is in front, a system-wide key, an entry on a panel. */
export type Coming = 'here' | 'window' | 'key' | 'entry';

export interface Route {
  kind: RouteKind;
  steps: number;
  seconds: number;
  operators: Operator[];
}

/** A label on the strip, as it lies on screen; pixels. */
export interface StripLabel {
  centreX: number;
  centreY: number;
  width: number;
  height: number;
}

/** The frame's sizes at the test width; the pointer is taken to rest in the middle of the view. */
export const FRAME = { left: 18, top: 59, height: 38, gap: 6, restX: 554, restY: 433 } as const;

/** Pixels of a label on the strip: key cap, tether and text at 14.5 px semi-bold. */
export const labelWidth = (name: string) => 66 + 8 * name.length;

/** Where labels of these texts come to lie on the strip. */
export function layStrip(labels: readonly string[]): StripLabel[] {
  let x = FRAME.left as number;
  return labels.map((label) => {
    const width = labelWidth(label);
    const at = { centreX: x + width / 2, centreY: FRAME.top + FRAME.height / 2, width, height: FRAME.height };
    x += width + FRAME.gap;
    return at;
  });
}

/** Nobody looks through a longer list entry by entry. */
const MOST_LOOKED_THROUGH = 400;

const route = (kind: RouteKind, steps: number, operators: Operator[]): Route => ({
  kind,
  steps,
  seconds: totalSeconds(operators),
  operators,
});

/** A pin's own key: M + K, and M + K again for each further key of a chord. */
export function byPinKey(keys: number, c: ReachConstants): Route {
  const operators: Operator[] = [];
  for (let i = 0; i < keys; i++) operators.push({ label: 'M', seconds: c.M }, { label: 'K', seconds: c.K });
  return route('pin-key', 1, operators);
}

/** A click on the pin's label: choice among all labels now on the strip, hand to the pointer, pointing, click. */
export function byPinClick(slot: number, strip: readonly StripLabel[], uses: number, c: ReachConstants): Route {
  const label = strip[slot]!;
  const distance = Math.hypot(label.centreX - FRAME.restX, label.centreY - FRAME.restY);
  return route('pin-click', 1, [
    { label: `choice of ${strip.length}`, seconds: choosing(strip.length, uses, c) },
    { label: 'H', seconds: c.H },
    { label: 'pointing', seconds: pointing(distance, Math.min(label.width, label.height), c) },
    { label: '2B', seconds: 2 * c.B },
  ]);
}

/** The find line: its key, the fewest characters that bring the thing into the first three, choice of three, Enter. */
export function byFindLine(characters: number, rank: 1 | 2 | 3, uses: number, c: ReachConstants): Route {
  const operators: Operator[] = [
    { label: 'M', seconds: c.M },
    { label: 'K for /', seconds: c.K },
    { label: `${characters}K`, seconds: characters * c.K },
    { label: 'choice of 3', seconds: choosing(3, uses, c) },
  ];
  if (rank > 1) operators.push({ label: `${rank - 1}K down`, seconds: (rank - 1) * c.K });
  operators.push({ label: 'K for Enter', seconds: c.K });
  return route('find', 3, operators);
}

/**
 * The route through the folders: the view of originals, the place among the places, then one choice and one double
 * click a level.
 * `siblings` are the real numbers of entries on each level from the place down to the thing itself, each ≥ 1.
 */
export function byFolderRoute(places: number, siblings: readonly number[], uses: number, c: ReachConstants): Route {
  const operators: Operator[] = [
    { label: 'H', seconds: c.H },
    { label: 'P to Originals', seconds: c.P },
    { label: '2B', seconds: 2 * c.B },
    { label: `choice of ${places} places`, seconds: choosing(places, uses, c) },
    { label: 'P', seconds: c.P },
    { label: '2B', seconds: 2 * c.B },
  ];
  for (const n of siblings) {
    operators.push(
      { label: `choice of ${n}`, seconds: choosing(Math.min(n, MOST_LOOKED_THROUGH), uses, c) },
      { label: 'P', seconds: c.P },
      { label: '4B', seconds: 4 * c.B },
    );
  }
  return route('folders', 2 + siblings.length, operators);
}

/** The shortcut's own keys, "t", "j t" or "alt+shift+t": M + K for each stroke, and K for each key held with it. */
export function byOwnKey(keys: string, c: ReachConstants): Route {
  const operators: Operator[] = [];
  for (const stroke of keys.split(' ')) {
    const held = stroke.split('+').length - 1;
    operators.push({ label: 'M', seconds: c.M }, { label: held > 0 ? `${held + 1}K` : 'K', seconds: (held + 1) * c.K });
  }
  return route('own-key', 1, operators);
}

/** The first part of a route: up to a menu or list that is open. */
export interface Way {
  steps: number;
  operators: Operator[];
}

/** To a menu on the strip: by its key, or by a click where that is quicker or it has none. */
export function wayByPin(
  slot: number,
  keys: number,
  strip: readonly StripLabel[],
  uses: number,
  c: ReachConstants,
): Way {
  const click = byPinClick(slot, strip, uses, c);
  const key = keys > 0 ? byPinKey(keys, c) : undefined;
  return key && key.seconds < click.seconds ? key : click;
}

/** To one of `n` in a view that lists them: the view, the choice, a click. */
export function wayByView(n: number, uses: number, c: ReachConstants): Way {
  return {
    steps: 2,
    operators: [
      { label: 'H', seconds: c.H },
      { label: 'P to the view', seconds: c.P },
      { label: '2B', seconds: 2 * c.B },
      { label: `choice of ${n}`, seconds: choosing(Math.min(n, MOST_LOOKED_THROUGH), uses, c) },
      { label: 'P', seconds: c.P },
      { label: '2B', seconds: 2 * c.B },
    ],
  };
}

/** A row of an open menu, and how many are in view; pixels. */
const MENU_ROW = 34;
const MENU_ROWS = 20;

/** From an open menu to one of its `n` entries: choice, pointing over half of the menu, a click. */
export function through({ steps, operators }: Way, n: number, uses: number, c: ReachConstants): Way {
  const distance = (Math.min(n, MENU_ROWS) * MENU_ROW) / 2;
  return {
    steps: steps + 1,
    operators: [
      ...operators,
      { label: `choice of ${n}`, seconds: choosing(Math.min(n, MOST_LOOKED_THROUGH), uses, c) },
      { label: 'pointing', seconds: pointing(distance, MENU_ROW, c) },
      { label: '2B', seconds: 2 * c.B },
    ],
  };
}

/** A thing in a collection, under a tag or among the answers of a saved search, `n` there. */
export function byGroup(
  kind: 'collection' | 'tag' | 'search' | 'entry',
  way: Way,
  n: number,
  uses: number,
  c: ReachConstants,
): Route {
  const { steps, operators } = through(way, n, uses, c);
  return route(kind, steps, operators);
}

/** Where a thing lies on a board, as one comes to it. */
export interface OnBoard {
  /** Boards to choose from; 1 where it is the one the view opens with. */
  boards: number;
  /** Regions of the board, and what lies in the thing's own, bundles as one. */
  regions: number;
  members: number;
  /** Pixels from where the pointer was last to the thing, or to its bundle. */
  distance: number;
  /** How many things its bundle holds; 0 where it lies by itself. */
  bundled: number;
}

/** Height of a label on a board; pixels. */
const BOARD_LABEL = 40;

/**
 * A board: the view, the board where it is not the first, the region and the thing in it, a double click. Of a bundle
 * one thing more is chosen: its list is opened first.
 */
export function byBoard(on: OnBoard, uses: number, c: ReachConstants): Route {
  const operators: Operator[] = [
    { label: 'H', seconds: c.H },
    { label: 'P to Boards', seconds: c.P },
    { label: '2B', seconds: 2 * c.B },
  ];
  let steps = 1;
  const choice = (n: number, of: string) =>
    operators.push({ label: `choice of ${n}${of}`, seconds: choosing(Math.min(n, MOST_LOOKED_THROUGH), uses, c) });
  if (on.boards > 1) {
    choice(on.boards, ' boards');
    operators.push({ label: 'P', seconds: c.P }, { label: '2B', seconds: 2 * c.B });
    steps++;
  }
  if (on.regions > 1) choice(on.regions, ' regions');
  choice(on.members, '');
  operators.push({ label: 'pointing', seconds: pointing(on.distance, BOARD_LABEL, c) });
  steps++;
  if (on.bundled === 0) {
    operators.push({ label: '4B', seconds: 4 * c.B });
    return route('board', steps, operators);
  }
  operators.push({ label: '2B', seconds: 2 * c.B });
  return route('board', steps + 1, through({ steps, operators }, on.bundled, uses, c).operators);
}

/** A link that lies in a folder, reached in any file program: one choice and one double click a level. */
export function byAlias(siblings: readonly number[], uses: number, c: ReachConstants): Route {
  const operators: Operator[] = [{ label: 'H', seconds: c.H }];
  for (const n of siblings)
    operators.push(
      { label: `choice of ${n}`, seconds: choosing(Math.min(n, MOST_LOOKED_THROUGH), uses, c) },
      { label: 'P', seconds: c.P },
      { label: '4B', seconds: 4 * c.B },
    );
  return route('alias', siblings.length, operators);
}

/** To what has a desktop entry of its own: by the system's key for it, or by a click where it lies on a panel. */
export function wayByEntry(how: Coming, c: ReachConstants): Way {
  return { steps: 1, operators: comingBy(how === 'key' ? 'key' : 'entry', c) };
}

/** A pin's own desktop entry. */
export function byOwnEntry(how: Coming, c: ReachConstants): Route {
  const { steps, operators } = wayByEntry(how, c);
  return route('entry', steps, operators);
}

/** An entry among `n` in the desktop's menu: the menu, the choice, a click. */
export function byEntry(n: number, uses: number, c: ReachConstants): Route {
  return route('entry', 2, [
    { label: 'H', seconds: c.H },
    { label: 'P to the menu', seconds: c.P },
    { label: '2B', seconds: 2 * c.B },
    { label: `choice of ${n}`, seconds: choosing(n, uses, c) },
    { label: 'P', seconds: c.P },
    { label: '2B', seconds: 2 * c.B },
  ]);
}

const COMMAND = 'rellin open ';

/** The command, its word and so many characters of the name, in a terminal that is there. */
export function byCommand(characters: number, c: ReachConstants): Route {
  const typed = COMMAND.length + characters;
  return route('command', 3, [
    { label: 'M', seconds: c.M },
    { label: `${typed}K`, seconds: typed * c.K },
    { label: 'K for Enter', seconds: c.K },
  ]);
}

/** The way to Rellin itself, which is part of every route within it; none where it has the focus. */
export function comingBy(how: Coming, c: ReachConstants): Operator[] {
  switch (how) {
    case 'here':
      return [];
    case 'window':
      return [
        { label: 'M', seconds: c.M },
        { label: '2K to the window', seconds: 2 * c.K },
      ];
    case 'key':
      return [
        { label: 'M', seconds: c.M },
        { label: '2K for the system’s key', seconds: 2 * c.K },
      ];
    case 'entry':
      return [
        { label: 'H', seconds: c.H },
        { label: 'P to the entry', seconds: c.P },
        { label: '2B', seconds: 2 * c.B },
      ];
  }
}

/** A route with the way to Rellin before it. The entry that opens the find line spares its key. */
export function withComing(to: Route, how: Coming, c: ReachConstants): Route {
  const before = comingBy(how, c);
  if (before.length === 0 || OUTSIDE.has(to.kind)) return to;
  const spared = to.kind === 'find' && how !== 'window' ? ['M', 'K for /'] : [];
  const rest = to.operators.filter((o) => !spared.includes(o.label));
  return route(to.kind, to.steps + 1, [...before, ...rest]);
}

/** The quickest of the routes, or `undefined` where there is none. Ties go to fewer steps. */
export function bestRoute(routes: readonly Route[]): Route | undefined {
  return [...routes].sort((a, b) => a.seconds - b.seconds || a.steps - b.steps)[0];
}
