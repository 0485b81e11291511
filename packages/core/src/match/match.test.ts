import fc from 'fast-check';
import { distance } from 'fastest-levenshtein';
import { describe, expect, it } from '@jest/globals';
import {
  ShortestQueries,
  FIELD_WEIGHT,
  Finder,
  fold,
  foldWithMap,
  matchWord,
  queryWords,
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

const WORDS = [
  'ringing',
  'log',
  'logs',
  'tide',
  'table',
  'Boat',
  'manual',
  '2026',
  'ringLog',
  'tidal',
  'a',
  'sea',
  'season',
  '–x',
];
const someName = fc.array(fc.constantFrom(...WORDS), { minLength: 1, maxLength: 3 }).map((words) => words.join(' '));
const oneItem: fc.Arbitrary<FindItem> = fc.record({
  id: fc.integer({ min: 0, max: 30 }).map(String),
  group: fc.constantFrom('shortcut' as const, 'collection' as const, 'original' as const),
  name: someName,
  alsoCalled: fc.array(someName, { maxLength: 1 }),
  tags: fc.array(fc.constantFrom('boat', 'log', 'field work'), { maxLength: 2 }),
  trail: fc.option(someName, { nil: undefined }),
  description: fc.option(someName, { nil: undefined }),
  weight: fc.constantFrom(0, 0, 0, 1, 3, 40),
});
const someItems = fc.uniqueArray(oneItem, { selector: (i) => i.id, maxLength: 20 });
const someTyped = fc.oneof(
  fc.string({ unit: fc.constantFrom(...'rintgdelabos 2'), minLength: 1, maxLength: 9 }),
  someName.chain((name) => fc.integer({ min: 1, max: name.length }).map((n) => name.slice(0, n))),
);

/** docs/models.md 4, item by item: the mean over the words of the best field, times what use makes of it. */
function byDefinition(items: readonly FindItem[], typed: string) {
  const words = queryWords(typed);
  if (words.length === 0) return [];
  const groups = ['shortcut', 'collection', 'search', 'original'];
  const alike = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
  return items
    .flatMap((item) => {
      const fields: [number, string][] = [
        [FIELD_WEIGHT.name, item.name],
        ...(item.alsoCalled ?? []).map((text): [number, string] => [FIELD_WEIGHT.alsoCalled, text]),
        ...(item.tags ?? []).map((text): [number, string] => [FIELD_WEIGHT.tags, text]),
        [FIELD_WEIGHT.trail, item.trail ?? ''],
        [FIELD_WEIGHT.description, item.description ?? ''],
      ];
      const ofWords = words.map((word) =>
        Math.max(
          ...fields.map(([weight, text]) =>
            text === '' ? 0 : weight * (matchWord(word, fold(text), wordStarts(fold(text), text))?.quality ?? 0),
          ),
        ),
      );
      if (ofWords.some((q) => q === 0)) return [];
      const rank = (ofWords.reduce((a, b) => a + b, 0) / words.length) * usageFactor(item.weight ?? 0);
      return [{ item, rank, exact: fold(item.name) === fold(typed.trim()) }];
    })
    .sort(
      (a, b) =>
        Number(b.exact) - Number(a.exact) ||
        b.rank - a.rank ||
        groups.indexOf(a.item.group) - groups.indexOf(b.item.group) ||
        a.item.name.length - b.item.name.length ||
        alike(a.item.name, b.item.name) ||
        alike(a.item.id, b.item.id),
    )
    .map(({ item, rank, exact }) => ({ id: item.id, rank, exact }));
}

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
  it('answers as if each item were ranked by the definition, also after changes', () => {
    fc.assert(
      fc.property(
        someItems,
        fc.array(oneItem, { maxLength: 6 }),
        someTyped,
        fc.constantFrom(1, 3, 50),
        (all, more, typed, n) => {
          const finder = new Finder(all);
          finder.search(typed);
          const now = new Map(all.map((i) => [i.id, i]));
          for (const i of more) {
            if (now.size % 3 === 0) {
              finder.delete(i.id);
              now.delete(i.id);
            } else {
              finder.put(i);
              now.set(i.id, i);
            }
          }
          const answers = finder.search(typed, n).map(({ id, rank, exact }) => ({ id, rank, exact }));
          expect(answers).toEqual(byDefinition([...now.values()], typed).slice(0, n));
        },
      ),
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
  /**
   * The definition: its own fragments, shortest first, until some bring it into the first three; the one highest up.
   */
  const plainly = (finder: Finder, id: string) => {
    const words = queryWords(finder.get(id)!.name.replace(/[^\p{L}\p{N}]+/gu, ' '));
    const whole = words.join(' ');
    const initials = words
      .slice(0, 4)
      .map((w) => w[0])
      .join('');
    for (let n = 1; n <= 10; n++) {
      const tries = [whole, ...words, ...(n > 1 ? [initials] : [])]
        .filter((text) => text.length >= n && text[n - 1] !== ' ')
        .map((text) => text.slice(0, n));
      const found = tries.flatMap((typed) => {
        const place = finder.search(typed, 3).findIndex((a) => a.id === id);
        return place >= 0 ? [{ characters: n, rank: place + 1, typed }] : [];
      });
      const rank = Math.min(...found.map((f) => f.rank));
      if (found.length > 0) return found.find((f) => f.rank === rank);
    }
    return undefined;
  };

  it('are those of the definition, and stay so as items come, change and go', () => {
    const change = fc.oneof(oneItem, fc.integer({ min: 0, max: 30 }).map(String));
    fc.assert(
      fc.property(someItems, fc.array(change, { maxLength: 8 }), (all, changes) => {
        const finder = new Finder(all);
        const fewest = new ShortestQueries(finder);
        const kept = new Map(all.map((i) => [i.id, fewest.of(i.id)]));
        const agree = () => {
          for (const id of kept.keys()) if (finder.get(id)) expect(kept.get(id)).toEqual(plainly(finder, id));
        };
        agree();
        for (const c of changes)
          for (const id of typeof c === 'string' ? fewest.delete(c) : fewest.put(c)) kept.set(id, fewest.of(id));
        agree();
      }),
      { seed: 45, numRuns: 600 },
    );
  });
  it('are unknown for what is not there, and for more of one name than three', () => {
    expect(new ShortestQueries(new Finder()).of('x')).toBeUndefined();
    const finder = new Finder(['a', 'b', 'c', 'd'].map((id) => item(id, 'Tide')));
    expect(['a', 'b', 'c', 'd'].map((id) => new ShortestQueries(finder).of(id)?.rank)).toEqual([1, 2, 3, undefined]);
  });
});
