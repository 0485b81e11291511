import fc from 'fast-check';
import { distance } from 'fastest-levenshtein';
import { describe, expect, it } from '@jest/globals';
import {
  fewestCharacters,
  Finder,
  fold,
  foldWithMap,
  matchWord,
  usageFactor,
  withinOneSlip,
  wordStarts,
  type FindItem,
} from './index.js';

const item = (id: string, name: string, more: Partial<FindItem> = {}): FindItem => ({
  id,
  group: 'shortcut',
  name,
  ...more,
});
const names = (finder: Finder, query: string, limit?: number) =>
  finder.search(query, limit).map((a) => finder.get(a.id)!.name);

/** Optimal string alignment, the restricted Damerau–Levenshtein distance: the naive table. */
function alignment(a: string, b: string): number {
  const d = Array.from({ length: a.length + 1 }, (_, i) =>
    Array.from({ length: b.length + 1 }, (_, k) => (i === 0 ? k : k === 0 ? i : 0)),
  );
  for (let i = 1; i <= a.length; i++)
    for (let k = 1; k <= b.length; k++) {
      d[i]![k] = Math.min(d[i - 1]![k]! + 1, d[i]![k - 1]! + 1, d[i - 1]![k - 1]! + (a[i - 1] === b[k - 1] ? 0 : 1));
      if (i > 1 && k > 1 && a[i - 1] === b[k - 2] && a[i - 2] === b[k - 1])
        d[i]![k] = Math.min(d[i]![k]!, d[i - 2]![k - 2]! + 1);
    }
  return d[a.length]![b.length]!;
}

describe('folding', () => {
  it('drops case and marks', () => {
    expect(fold('Éİßﬁ Straße')).toBe('eissfi strasse');
  });
  it('maps each folded letter back into the original', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 30 }), (s) => {
        const { folded, map } = foldWithMap(s);
        expect(map).toHaveLength(folded.length + 1);
        for (let i = 1; i < map.length; i++) expect(map[i]).toBeGreaterThanOrEqual(map[i - 1]!);
        expect(map[map.length - 1]).toBe(s.length);
      }),
      { seed: 41 },
    );
  });
});

describe('one slip', () => {
  it('agrees with the naive table on random pairs', () => {
    const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 7 });
    fc.assert(
      fc.property(word, word, (a, b) => {
        expect(withinOneSlip(a, b)).toBe(alignment(a, b) <= 1);
      }),
      { seed: 42, numRuns: 3000 },
    );
  });
  it('the table itself stands beside fastest-levenshtein where nothing is transposed', () => {
    // known distances: kitten/sitting 3, saturday/sunday 3, intention/execution 5; CA/ABC is 3 in the restricted form
    expect([
      alignment('kitten', 'sitting'),
      alignment('saturday', 'sunday'),
      alignment('intention', 'execution'),
      alignment('ca', 'abc'),
    ]).toEqual([3, 3, 5, 3]);
    expect(distance('kitten', 'sitting')).toBe(3);
  });
});

describe('one word', () => {
  const match = (word: string, text: string) => matchWord(word, fold(text), wordStarts(fold(text), text));
  it('ranks whole over start over word start over inner run over letters in order', () => {
    const order = ['log', 'logbook', 'ringing log', 'catalogue', 'lots of gulls'].map((t) => match('log', t)!.quality);
    expect([...order].sort((a, b) => b - a)).toEqual(order);
  });
  it('takes camel humps and digits as starts of words', () => {
    expect(match('tp', 'tidePlotter')!.quality).toBeGreaterThan(match('tp', 'stepladder')?.quality ?? 0);
    expect(match('2026', 'tides2026')!.quality).toBeGreaterThan(0.75);
  });
  it('forgives one slip from four letters on, not below', () => {
    expect(match('rignin', 'ringing')).toBeDefined();
    expect(match('tdie', 'tide table')).toBeDefined();
    expect(match('tdi', 'tide')).toBeUndefined();
    expect(match('xyzw', 'ringing')).toBeUndefined();
  });
  it('returns ranges that spell the word where no slip was made', () => {
    const text = fc.string({ unit: fc.constantFrom('a', 'b', 'c', ' ', '-'), minLength: 1, maxLength: 20 });
    const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), minLength: 1, maxLength: 3 });
    fc.assert(
      fc.property(word, text, (w, t) => {
        const m = match(w, t);
        if (!m) return;
        expect(m.ranges.map(([f, e]) => t.slice(f, e)).join('')).toBe(w);
        expect(m.quality).toBeGreaterThan(0);
        expect(m.quality).toBeLessThanOrEqual(1);
      }),
      { seed: 43, numRuns: 2000 },
    );
  });
});

describe('the finder', () => {
  const finder = new Finder([
    item('1', 'Ringing log', { trail: 'Marrowick › Ringing › 2026' }),
    item('2', 'Tide table', { alsoCalled: ['high water'] }),
    item('3', 'Grant draft', { description: 'for the coastal fund', weight: 4 }),
    { id: '4', group: 'original', name: 'Tide table' },
    { id: '5', group: 'original', name: 'ringing-log-2026.csv' },
  ]);
  it('finds by name, other names, description and trail; every word must match somewhere', () => {
    expect(names(finder, 'high wat')).toEqual(['Tide table']);
    expect(names(finder, 'coastal')).toEqual(['Grant draft']);
    expect(names(finder, 'log marrowick')).toEqual(['Ringing log']);
    expect(names(finder, 'log coastal')).toEqual([]);
    expect(names(finder, '')).toEqual([]);
  });
  it('puts the shortcut before the plain original of equal quality', () => {
    expect(finder.search('tide').map((a) => a.group)).toEqual(['shortcut', 'original']);
  });
  it('lets an exact name lead whatever is used more', () => {
    const f = new Finder([item('a', 'Logs of all years', { weight: 1000 }), item('b', 'logs')]);
    expect(names(f, 'logs')[0]).toBe('logs');
  });
  it('lifts what is used more, up to twice', () => {
    expect(usageFactor(0)).toBe(1);
    expect(usageFactor(1e9)).toBe(2);
    const f = new Finder([item('a', 'Log one'), item('b', 'Log two', { weight: 5 })]);
    expect(names(f, 'log')).toEqual(['Log two', 'Log one']);
  });
  it('marks the letters in the name as written', () => {
    const f = new Finder([item('a', 'Émigré list')]);
    expect(f.search('emig')[0]!.ranges).toEqual([[0, 4]]);
  });
  it('answers the same whether typed at once or letter by letter', () => {
    const pool = [
      'ringing log',
      'tide table',
      'weather record',
      'grant draft',
      'net positions',
      'boat manual',
      'moth trap form',
      'slipway checklist',
      'engine hours',
      'logs',
    ];
    const typed = fc.string({ unit: fc.constantFrom(...'rintgdelabohmsw '), minLength: 1, maxLength: 9 });
    fc.assert(
      fc.property(typed, (query) => {
        const stepwise = new Finder(pool.map((name, i) => item(String(i), name)));
        for (let n = 1; n < query.length; n++) stepwise.search(query.slice(0, n));
        const fresh = new Finder(pool.map((name, i) => item(String(i), name)));
        expect(stepwise.search(query)).toEqual(fresh.search(query));
      }),
      { seed: 44, numRuns: 1500 },
    );
  });
  it('forgets what is deleted and takes what is changed', () => {
    const f = new Finder([item('a', 'Old name')]);
    f.put(item('a', 'New name'));
    expect(names(f, 'old')).toEqual([]);
    expect(names(f, 'new')).toEqual(['New name']);
    f.delete('a');
    expect(f.size).toBe(0);
  });
});

describe('the fewest characters', () => {
  it('really bring the item into the first three, and no shorter fragment of its own does', () => {
    const pool = ['Ringing log', 'Rings', 'Ring stock', 'Ringbook', 'Tide table', 'Tideplotter', 'Tracks', 'Today'];
    const finder = new Finder(pool.map((name, i) => item(String(i), name)));
    for (let i = 0; i < pool.length; i++) {
      const found = fewestCharacters(finder, String(i))!;
      expect(finder.search(found.typed, 3)[found.rank - 1]!.id).toBe(String(i));
      expect(found.typed).toHaveLength(found.characters);
      for (let n = 1; n < found.characters; n++)
        expect(finder.search(fold(pool[i]!).slice(0, n), 3).some((a) => a.id === String(i))).toBe(false);
    }
  });
  it('is unknown for what is not there', () => {
    expect(fewestCharacters(new Finder(), 'x')).toBeUndefined();
  });
});
