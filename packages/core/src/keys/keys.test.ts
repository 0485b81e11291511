import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  checkKeyMap,
  checkKeys,
  LETTER_KEYS,
  meantKey,
  normalKeys,
  shownKeys,
  shownLetter,
  strokeOf,
  type KeyMap,
} from './index.js';

const reason = (text: string, taken?: ReadonlyMap<string, string>) => {
  const checked = checkKeys(text, taken);
  return checked.ok ? checked.keys : checked.reason;
};
const press = (key: string, ...mods: string[]) =>
  strokeOf({ key, ctrlKey: mods.includes('ctrl'), altKey: mods.includes('alt'), shiftKey: mods.includes('shift') });

describe('keys of one’s own', () => {
  it('are one key, two in a row, or one with modifiers that are free', () => {
    expect(reason('j')).toBe('j');
    expect(reason(' J  T ')).toBe('j t');
    expect(reason('Alt+Ctrl + t')).toBe('ctrl+alt+t');
    expect(reason('shift+alt+7')).toBe('alt+shift+7');
  });

  it('are refused where Rellin or the browser uses them, with the use', () => {
    expect(reason('n')).toContain('Add a shortcut');
    expect(reason('v')).toContain('Preview');
    expect(reason('3')).toContain('pin 3');
    expect(reason('n j')).toContain('Add a shortcut');
    expect(reason('ctrl+t')).toContain('belongs to the browser');
    expect(reason('alt+d')).toContain('belongs to the browser');
    expect(reason('f5')).toContain('belongs to the browser');
  });

  it('are refused where they are none', () => {
    for (const text of ['', '   ', 'j k l', 'ctrl+', 'enter', 'ü', 'ctrl+alt+j k'])
      expect(checkKeys(text).ok).toBe(false);
  });

  it('are refused where they are taken, or one begins as the other', () => {
    const taken = new Map([
      ['j t', 'Tide table'],
      ['y', 'Boat'],
    ]);
    expect(reason('j t', taken)).toContain('opens “Tide table” already');
    expect(reason('j', taken)).toContain('begin alike');
    expect(reason('y x', taken)).toContain('begin alike');
    expect(reason('j r', taken)).toBe('j r');
  });

  it('never let through two of which one hides the other, whatever is tried', () => {
    const stroke = fc.constantFrom('j', 'q', 'b', 'z', 'n', '1', 'ctrl+alt+j', 'alt+j', 'f3');
    const text = fc.array(stroke, { minLength: 1, maxLength: 2 }).map((s) => s.join(' '));
    fc.assert(
      fc.property(fc.array(text, { maxLength: 20 }), (tries) => {
        const taken = new Map<string, string>();
        for (const t of tries) {
          const checked = checkKeys(t, taken);
          if (checked.ok) taken.set(checked.keys, t);
        }
        const all = [...taken.keys()];
        for (const a of all) for (const b of all) if (a !== b) expect(b.startsWith(`${a} `)).toBe(false);
      }),
      { seed: 81, numRuns: 300 },
    );
  });

  it('are normal once, and shown as on a key cap', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-zA-Z +]{0,12}$/), (text) => {
        expect(normalKeys(normalKeys(text))).toBe(normalKeys(text));
      }),
      { seed: 82, numRuns: 300 },
    );
    expect(shownKeys('j t')).toBe('J, T');
    expect(shownKeys('ctrl+alt+f3')).toBe('Ctrl+Alt+F3');
  });
});

describe('letters that were changed', () => {
  const letters = LETTER_KEYS.map((line) => line.keys.toLowerCase());

  it('stand for what they took the place of, and what was left means nothing', () => {
    const map = { p: 'j', c: '' };
    expect(checkKeyMap(map)).toBeUndefined();
    expect(meantKey('J', map)).toBe('p');
    expect(meantKey('p', map)).toBeUndefined();
    expect(meantKey('c', map)).toBeUndefined();
    expect(meantKey('T', map)).toBe('T');
    expect(meantKey('1', map)).toBe('1');
    expect([shownLetter('P', map), shownLetter('C', map), shownLetter('T', map)]).toEqual(['J', '', 'T']);
  });

  it('are refused where one would mean two things, with both', () => {
    expect(checkKeyMap({ p: 't' })).toContain('Pin');
    expect(checkKeyMap({ p: 't' })).toContain('Tags');
    expect(checkKeyMap({ p: 't', t: 'p' })).toBeUndefined();
    expect(checkKeyMap({ p: 'j' }, new Map([['j t', 'Tide table']]))).toBe('J, T opens “Tide table” already.');
    expect(checkKeyMap({ q: 'j' })).toContain('none of Rellin’s letters');
    expect(checkKeyMap({ p: 'jj' })).toContain('no letter');
    expect(checkKeyMap({ p: 3 as unknown as string })).toContain('no letter');
  });

  it('leave free for a key of one’s own what Rellin no longer uses, and take what it uses now', () => {
    const map = { p: 'j' };
    expect(checkKeys('p', new Map(), map)).toEqual({ ok: true, keys: 'p' });
    expect(checkKeys('j', new Map(), map).ok).toBe(false);
  });

  it('never let one key mean two things, whatever map passes', () => {
    const maps = fc.dictionary(
      fc.constantFrom(...letters),
      fc.constantFrom('', ...'abcdefghijklmnopqrstuvwxyz'),
    ) as fc.Arbitrary<KeyMap>;
    fc.assert(
      fc.property(maps, (map) => {
        if (checkKeyMap(map) !== undefined) return;
        const meant = [...'abcdefghijklmnopqrstuvwxyz'].flatMap((typed) => meantKey(typed, map) ?? []);
        const runs = meant.filter((key) => letters.includes(key));
        expect(new Set(runs).size).toBe(runs.length);
        for (const letter of letters) {
          const shown = shownLetter(letter, map).toLowerCase();
          if (shown !== '') expect(meantKey(shown, map)).toBe(letter);
        }
      }),
      { seed: 83, numRuns: 500 },
    );
  });
});

describe('a press', () => {
  it('is called as keys are kept', () => {
    expect(press('J')).toBe('j');
    expect(press('T', 'ctrl', 'alt')).toBe('ctrl+alt+t');
    expect(press('T', 'alt', 'shift')).toBe('alt+shift+t');
    expect(press('Shift', 'shift')).toBeUndefined();
  });
});
