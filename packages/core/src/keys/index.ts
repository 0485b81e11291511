/**
 * Keys of the person's own for shortcuts and collections: one key, two in a row, or one with modifiers. What Rellin or
 * the browser uses already is refused with the reason. Names are those of KeyboardEvent.key (UI Events, W3C), letters
 * small.
 */

export type KeysCheck = { ok: true; keys: string } | { ok: false; reason: string };

/**
 * One line of the list of keys: where they count, the caps, and what they do. A single capital letter can be changed.
 */
export interface KeyLine {
  where: string;
  keys: string;
  what: string;
}

const lines = (where: string, all: readonly (readonly [string, string])[]): KeyLine[] =>
  all.map(([keys, what]) => ({ where, keys, what }));

/**
 * Every key of Rellin's own: what the handlers, the menus, the list of keys, the settings and the check for clashes go
 * by.
 */
export const KEY_LINES: readonly KeyLine[] = [
  ...lines('Anywhere', [
    ['1 … 9', 'Open the pin with that key'],
    ['/ or Ctrl K', 'Find line'],
    ['N', 'Add a shortcut'],
    ['Ctrl V', 'Add a shortcut to the path or address in the clipboard'],
    ['Ctrl Z', 'Undo'],
    ['Ctrl Shift Z', 'Redo'],
    ['I', 'Hide the card, or show it'],
    ['S', 'Hide the pin strip, or show it'],
    ['H', 'Quiet screen: hide names, recents and counts'],
    ['?', 'This list of keys'],
  ]),
  ...lines('On a row', [
    ['↑ ↓ PgUp PgDn Home End', 'Move'],
    ['Letters typed quickly', 'Go to the name that begins with them'],
    ['Enter', 'Open; all that are chosen'],
    ['Space', 'Select'],
    ['V', 'Preview'],
    ['O', 'Open with another program'],
    ['W', 'Show where it is'],
    ['C', 'Copy path'],
    ['P', 'Pin, unpin; for an original: add shortcut and pin'],
    ['F2', 'Rename the shortcut; in Originals: the original'],
    ['D', 'Describe; other names'],
    ['A', 'Add to a collection'],
    ['T', 'Tags'],
    ['G', 'Goes with; in a collection: add several; in Originals: type a path'],
    ['M', 'Move or copy the original'],
    ['R', 'Change target'],
    ['B', 'Picture'],
    ['E', 'On a saved search: mark as seen; on a pin: put it into the menu at the end'],
    ['Del', 'Remove; in a collection or on a board: from there only'],
    ['Shift ↑ ↓, Ctrl A', 'Choose several'],
    ['Shift F10', 'All that can be done'],
  ]),
  ...lines('Originals', [
    ['Backspace', 'One folder up'],
    ['Ctrl X, Ctrl C, Ctrl V', 'Cut, copy, paste originals'],
  ]),
  ...lines('In a collection', [
    ['Alt ↑ ↓', 'Move it in the own order'],
    ['K', 'Keep it first, whatever the order'],
    ['X', 'Remove it from the collection or the board'],
  ]),
  ...lines('On a board', [
    ['← → ↑ ↓', 'From thing to thing'],
    ['Alt and an arrow', 'Move it to the next free cell, or one place on'],
    ['U', 'Unbundle'],
    ['Alt while dragging', 'Put it exactly there'],
  ]),
  ...lines('Pin strip, find line', [
    ['Alt ← →', 'Move the pin that has the focus'],
    ['Del', 'Unpin it'],
    ['→ ←, Backspace', 'In a menu: go deeper, come back'],
    ['Shift Enter', 'In the find line: what can be done with the answer'],
  ]),
];

/** The single letters among them, which a person may change or switch off. */
export const LETTER_KEYS: readonly KeyLine[] = KEY_LINES.filter((line) => /^[A-Z]$/.test(line.keys));

/**
 * Rellin's letter → the one the person put in its place, '' for none; small letters. Those not named are as they are.
 */
export type KeyMap = Readonly<Record<string, string>>;

/**
 * Which of Rellin's keys a typed one stands for: itself unless it was changed; `undefined` for a letter that stands for
 * none. Keys that are no letters are as they are.
 *
 * @example meantKey('j', { p: 'j' }) // 'p'
 */
export function meantKey(typed: string, map: KeyMap): string | undefined {
  const letter = typed.toLowerCase();
  const meant = Object.keys(map).find((key) => map[key] === letter);
  if (meant !== undefined) return meant;
  return letter in map ? undefined : typed;
}

/** The letter that runs one of Rellin's keys now, as on its cap; '' where it has none. */
export const shownLetter = (key: string, map: KeyMap): string => (map[key.toLowerCase()] ?? key).toUpperCase();

const IS_LETTER_KEY = new Set(LETTER_KEYS.map((line) => line.keys.toLowerCase()));

/**
 * Checks a map of letters: each stands for one of Rellin's, none for two, none for what is the person's own already
 * (`taken`: keys → what they open). Returns what stands against it.
 */
export function checkKeyMap(map: KeyMap, taken: ReadonlyMap<string, string> = new Map()): string | undefined {
  for (const [key, own] of Object.entries(map)) {
    if (!IS_LETTER_KEY.has(key)) return `“${key}” is none of Rellin’s letters.`;
    if (typeof own !== 'string' || !/^[a-z]?$/.test(own)) return `“${own}” is no letter.`;
  }
  const runs = new Map<string, string>();
  for (const { keys, what } of LETTER_KEYS) {
    const letter = shownLetter(keys, map).toLowerCase();
    if (letter === '') continue;
    const other = runs.get(letter);
    if (other !== undefined) return `${letter.toUpperCase()} would mean two things: “${other}” and “${what}”.`;
    runs.set(letter, what);
    for (const [own, name] of taken)
      if (own === letter || own.startsWith(`${letter} `)) return `${shownKeys(own)} opens “${name}” already.`;
  }
  return undefined;
}

/** Rellin's own keys without a modifier, with what they do. */
function ownUses(map: KeyMap): Map<string, string> {
  const uses = new Map<string, string>([
    ['/', 'Find line'],
    ['?', 'This list of keys'],
    ...[...'123456789'].map((digit) => [digit, `pin ${digit}`] as const),
  ]);
  for (const { keys, what } of LETTER_KEYS) {
    const letter = shownLetter(keys, map).toLowerCase();
    if (letter !== '') uses.set(letter, what);
  }
  return uses;
}

/** Chords that browsers keep for themselves or that desktops take (common practice). */
const BROWSER = new Set(
  ['ctrl', 'ctrl+shift', 'alt'].flatMap((mod) =>
    [...'abcdefghijklmnopqrstuvwxyz0123456789'].map((key) => `${mod}+${key}`),
  ),
);

const ORDER = ['ctrl', 'alt', 'shift'] as const;

/** "Ctrl + Alt+T" and "j  T" as they are kept: "ctrl+alt+t", "j t". */
export function normalKeys(text: string): string {
  return text
    .trim()
    .toLowerCase()
    .replace(/\s*\+\s*/g, '+')
    .split(/\s+/)
    .map((stroke) => {
      const parts = stroke.split('+').filter(Boolean);
      const mods = ORDER.filter((m) => parts.includes(m));
      const key = parts.find((p) => !(ORDER as readonly string[]).includes(p));
      return [...mods, ...(key === undefined ? [] : [key])].join('+');
    })
    .join(' ');
}

/** What a press is called in these words; `undefined` for a modifier alone. */
export function strokeOf(event: {
  key: string;
  ctrlKey: boolean;
  altKey: boolean;
  shiftKey: boolean;
}): string | undefined {
  const key = event.key.toLowerCase();
  if (['control', 'alt', 'shift', 'meta'].includes(key) || key === '+' || key === ' ') return undefined;
  const mods = [...(event.ctrlKey ? ['ctrl'] : []), ...(event.altKey ? ['alt'] : [])];
  // shift is part of which character comes out, except beside other modifiers
  if (event.shiftKey && mods.length > 0) mods.push('shift');
  return [...mods, key].join('+');
}

/** Whether keys may be used, `taken` being those of others with what they open, `map` the letters changed. */
export function checkKeys(text: string, taken: ReadonlyMap<string, string> = new Map(), map: KeyMap = {}): KeysCheck {
  const keys = normalKeys(text);
  const uses = ownUses(map);
  const strokes = keys.split(' ');
  const no = (reason: string): KeysCheck => ({ ok: false, reason });
  if (keys === '' || strokes.length > 2) return no('Press one key, two in a row, or one with Ctrl+Alt or Alt+Shift.');
  for (const [i, stroke] of strokes.entries()) {
    const parts = stroke.split('+');
    const key = parts[parts.length - 1]!;
    if (!/^([a-z0-9]|f([2-9]|1[0-2]))$/.test(key)) return no(`“${stroke}” is no letter, digit or function key.`);
    if (/^f\d/.test(key) && parts.length === 1)
      return no(`${key.toUpperCase()} belongs to the browser, or to renaming.`);
    if (parts.length > 1) {
      if (strokes.length > 1) return no('Two in a row are two plain keys.');
      if (BROWSER.has(stroke))
        return no(`${shownKeys(stroke)} belongs to the browser. With Ctrl+Alt or Alt+Shift it is free.`);
      continue;
    }
    // the second of two is asked for only after the first
    if (i > 0) continue;
    const use = uses.get(key);
    if (use) return no(`${key.toUpperCase()} is Rellin's own: ${use}.`);
    if (/\d/.test(key)) return no(`${key} is kept for pins.`);
  }
  for (const [other, name] of taken) {
    if (other === keys) return no(`${shownKeys(keys)} opens “${name}” already.`);
    if (other.startsWith(`${keys} `) || keys.startsWith(`${other} `))
      return no(
        `${shownKeys(keys)} and ${shownKeys(other)} (“${name}”) begin alike; one of them could never be reached.`,
      );
  }
  return { ok: true, keys };
}

/** As shown on a key cap: "J, T" and "Ctrl+Alt+T". */
export function shownKeys(keys: string): string {
  const word = (part: string) =>
    part.length === 1 || /^f\d/.test(part) ? part.toUpperCase() : part[0]!.toUpperCase() + part.slice(1);
  return keys
    .split(' ')
    .map((stroke) => stroke.split('+').map(word).join('+'))
    .join(', ');
}
