/**
 * Keys of the person's own for shortcuts and collections: one key, two in a row, or one with modifiers. What Rellin or the
 * browser uses already is refused with the reason. Names are those of KeyboardEvent.key (UI Events, W3C), letters small.
 */

export type KeysCheck = { ok: true; keys: string } | { ok: false; reason: string };

/** Keys that mean something anywhere in Rellin, with what. */
const ANYWHERE: Record<string, string> = {
  '/': 'the find line',
  '?': 'the list of keys',
  n: 'adding a shortcut',
  i: 'the card',
  s: 'the strip',
  h: 'the quiet screen',
  ...Object.fromEntries([...'123456789'].map((digit) => [digit, `pin ${digit}`])),
};

/** Keys on a row or a pin. */
const ON_A_ROW: Record<string, string> = {
  v: 'Look',
  w: 'Show where it is',
  c: 'Copy path',
  p: 'Pin',
  a: 'Add to collection',
  t: 'Tags',
  d: 'Describe',
  g: 'Goes with, and typing a path',
  r: 'Repoint',
  m: 'File into',
  o: 'Open with',
  b: 'Picture',
  k: 'Keep first',
  x: 'Take out',
  e: 'putting a pin aside',
};

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

/** Whether keys may be used, `taken` being those of others with what they open. */
export function checkKeys(text: string, taken: ReadonlyMap<string, string> = new Map()): KeysCheck {
  const keys = normalKeys(text);
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
    const use = ANYWHERE[key] ?? ON_A_ROW[key];
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
