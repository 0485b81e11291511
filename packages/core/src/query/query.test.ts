import { execFileSync } from 'node:child_process';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { minimatch } from 'minimatch';
import { KINDS } from '../kinds/index.js';
import { fold } from '../match/index.js';
import {
  boundsOf,
  compileQuery,
  countConditions,
  formatQuery,
  globBytesTest,
  globTest,
  snippetOf,
  IS_WORDS,
  NAMED_TIMES,
  parseQuery,
  parseSize,
  rowsOf,
  simplified,
  spanOf,
  SYSTEM_ZONE,
  treeOf,
  writeSize,
  type Condition,
  type QueryError,
  type QueryNode,
  type QueryRecord,
  type TimeWord,
  type Zone,
} from './index.js';
import { sqlOf } from '../oracles/index.js';

const read = (text: string): QueryNode => {
  const parsed = parseQuery(text);
  if (!parsed.ok) throw new Error(`${text}: ${parsed.error.message}`);
  return parsed.tree;
};
const trouble = (text: string): QueryError => {
  const parsed = parseQuery(text);
  if (parsed.ok) throw new Error(`${text} was read as ${formatQuery(parsed.tree)}`);
  return parsed.error;
};

/** Any condition a person could write. */
const timeWord: fc.Arbitrary<TimeWord> = fc.oneof(
  fc.constantFrom(...NAMED_TIMES).map((name): TimeWord => ({ type: 'named', name })),
  fc.record({ type: fc.constant('ago' as const), count: fc.nat(400), unit: fc.constantFrom('d', 'w', 'm', 'y') }),
  fc
    .record({
      year: fc.integer({ min: 1970, max: 2040 }),
      month: fc.integer({ min: 1, max: 12 }),
      day: fc.integer({ min: 1, max: 28 }),
      how: fc.nat(2),
    })
    .map(({ year, month, day, how }): TimeWord => ({
      type: 'date',
      year,
      month: how > 0 ? month : null,
      day: how > 1 ? day : null,
    })),
);
const field = fc.constantFrom('modified', 'created', 'opened') as fc.Arbitrary<'modified' | 'created' | 'opened'>;
const text = fc.string({ minLength: 1, maxLength: 12, unit: 'grapheme' }).filter((t) => t.trim() !== '');
const size = fc.integer({ min: 0, max: 5_000_000_000 });
const condition: fc.Arbitrary<Condition> = fc.oneof(
  text.map((t): Condition => ({ type: 'word', text: t })),
  fc.constantFrom('*.csv', 'a?c', '[a-f]*.{md,txt}', '* *').map((glob): Condition => ({ type: 'name', glob })),
  fc
    .uniqueArray(fc.constantFrom('csv', 'md', 'tar', 'png'), { minLength: 1, maxLength: 3 })
    .map((values): Condition => ({ type: 'ext', values })),
  fc
    .uniqueArray(fc.constantFrom(...KINDS), { minLength: 1, maxLength: 3 })
    .map((values): Condition => ({ type: 'kind', values })),
  fc
    .array(
      text.filter((t) => !t.includes('/')),
      { minLength: 1, maxLength: 3 },
    )
    .map((folders): Condition => ({ type: 'in', folders })),
  fc.tuple(size, size, fc.nat(2)).map(([a, b, how]): Condition => ({
    type: 'size',
    min: how === 1 ? null : Math.min(a, b),
    max: how === 2 ? null : Math.max(a, b),
  })),
  fc.record({
    type: fc.constant('time' as const),
    field,
    op: fc.constantFrom(':', '<', '<=', '>', '>='),
    word: timeWord,
  }) as fc.Arbitrary<Condition>,
  fc.tuple(field, timeWord, timeWord, fc.nat(2)).map(([f, a, b, how]): Condition => ({
    type: 'time-range',
    field: f,
    from: how === 1 ? null : a,
    to: how === 2 ? null : b,
  })),
  fc.constant<Condition>({ type: 'never-opened' }),
  text.map((name): Condition => ({ type: 'tag', name })),
  text.map((t): Condition => ({ type: 'text', text: t })),
  fc.constantFrom(...IS_WORDS).map((what): Condition => ({ type: 'is', what })),
);
const { tree } = fc.letrec<{ tree: QueryNode }>((tie) => ({
  tree: fc.oneof(
    { maxDepth: 4, withCrossShrink: true },
    condition as fc.Arbitrary<QueryNode>,
    fc.array(tie('tree'), { minLength: 1, maxLength: 4 }).map((of): QueryNode => ({ type: 'all', of })),
    fc.array(tie('tree'), { minLength: 1, maxLength: 4 }).map((of): QueryNode => ({ type: 'any', of })),
    tie('tree').map((of): QueryNode => ({ type: 'not', of })),
  ),
}));

describe('reading', () => {
  it.each<[string, QueryNode]>([
    ['', { type: 'all', of: [] }],
    ['tide', { type: 'word', text: 'tide' }],
    ['"tide table"', { type: 'word', text: 'tide table' }],
    ['*.csv', { type: 'name', glob: '*.csv' }],
    ['ext:csv,.md', { type: 'ext', values: ['csv', 'md'] }],
    ['size>10MB', { type: 'size', min: 10_000_001, max: null }],
    ['size<=1MiB', { type: 'size', min: null, max: 1_048_576 }],
    ['size:1kB..2kB', { type: 'size', min: 1000, max: 2000 }],
    ['in:Ringing/2026', { type: 'in', folders: ['Ringing', '2026'] }],
    [
      'in:"Coastal fund"/2026',
      {
        type: 'all',
        of: [
          { type: 'in', folders: ['Coastal fund'] },
          { type: 'word', text: '/2026' },
        ],
      },
    ],
    ['opened:never', { type: 'never-opened' }],
    ['-is:folder', { type: 'not', of: { type: 'is', what: 'folder' } }],
    [
      'modified:7d kind:table OR tag:boat',
      {
        type: 'any',
        of: [
          {
            type: 'all',
            of: [
              { type: 'time', field: 'modified', op: ':', word: { type: 'ago', count: 7, unit: 'd' } },
              { type: 'kind', values: ['table'] },
            ],
          },
          { type: 'tag', name: 'boat' },
        ],
      },
    ],
    [
      'a -(b OR c)',
      {
        type: 'all',
        of: [
          { type: 'word', text: 'a' },
          {
            type: 'not',
            of: {
              type: 'any',
              of: [
                { type: 'word', text: 'b' },
                { type: 'word', text: 'c' },
              ],
            },
          },
        ],
      },
    ],
  ])('%s', (written, expected) => expect(read(written)).toEqual(expected));

  it.each<[string, number, string, string | null]>([
    ['modfied:7d', 0, 'modfied', 'modified'],
    ['kind:tabel', 5, 'tabel', 'table'],
    ['is:foldr', 3, 'foldr', 'folder'],
    ['size>ten', 5, 'ten', null],
    ['modified:2026-02-30', 9, '2026-02-30', null],
    ['(a OR b', 0, 'never closed', null],
    ['a)', 1, 'closes nothing', null],
    ['a OR', 2, 'missing', null],
    ['"open', 0, 'no end', null],
    ['name>x', 4, 'name:', ':'],
    ['size:5MB..1MB', 5, 'ends before', null],
    ['kind:', 5, 'kind', null],
    ['()', 1, 'no condition', null],
  ])('says of “%s” where and what', (written, at, holds, suggestion) => {
    const error = trouble(written);
    expect(error.at).toBe(at);
    expect(`${error.message} ${error.suggestion ?? ''}`).toContain(holds);
    expect(error.suggestion ?? null).toBe(suggestion);
  });

  it('never throws, and an error lies within the text', () => {
    const pieces = fc.array(
      fc.oneof(
        fc.string({ maxLength: 6, unit: 'binary' }),
        fc.constantFrom('(', ')', '-', '"', 'OR', 'size', ':', '>', '..', '{', '[', '\\', ' '),
      ),
      { maxLength: 30 },
    );
    fc.assert(
      fc.property(pieces, (list) => {
        const written = list.join('');
        const parsed = parseQuery(written);
        if (parsed.ok) return;
        expect(parsed.error.at).toBeGreaterThanOrEqual(0);
        expect(parsed.error.at).toBeLessThanOrEqual(written.length);
        expect(parsed.error.message).not.toBe('');
      }),
      { seed: 41, numRuns: 2000 },
    );
  });
});

describe('writing', () => {
  it('what is written reads back to the same tree, and is written the same again', () => {
    fc.assert(
      fc.property(tree, (node) => {
        const written = formatQuery(node);
        const again = parseQuery(written);
        expect(again).toEqual({ ok: true, tree: simplified(node) });
        expect(formatQuery(simplified(node))).toBe(written);
      }),
      { seed: 42, numRuns: 1500 },
    );
  });

  it('the builder’s rows say what the tree says', () => {
    fc.assert(
      fc.property(tree, (node) => {
        expect(treeOf(rowsOf(node))).toEqual(simplified(node));
      }),
      { seed: 43, numRuns: 800 },
    );
  });

  it('a group nobody has put anything into says nothing yet', () => {
    expect(treeOf({ type: 'group', of: 'any', parts: [] })).toEqual({ type: 'all', of: [] });
    expect(treeOf({ type: 'group', of: 'all', parts: [{ type: 'group', of: 'none', parts: [] }] })).toEqual({
      type: 'all',
      of: [],
    });
  });

  it('sizes are written as they were meant', () => {
    for (const text of [
      'size>1GB',
      'size>=1GB',
      'size<10kB',
      'size<=10kB',
      'size>50kB',
      'size>=1',
      'size<=0',
      'size:1kB..2MiB',
    ])
      expect(formatQuery(read(text))).toBe(text);
  });

  it('sizes keep their bytes', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2 ** 50 }), (bytes) => expect(parseSize(writeSize(bytes))).toBe(bytes)),
      { seed: 44 },
    );
    // IEC 80000-13: decimal and binary prefixes
    expect([parseSize('1 kB'), parseSize('1KiB'), parseSize('1.5GiB'), parseSize('10')]).toEqual([
      1000, 1024, 1_610_612_736, 10,
    ]);
  });
});

describe('bounds on effort', () => {
  it('a thousand conditions, a hundred deep, a long word', () => {
    const many = read(Array.from({ length: 1000 }, (_, i) => `a${i}`).join(' OR '));
    expect(countConditions(many)).toBe(1000);
    expect(compileQuery(many, CONTEXT)(record({ name: 'xa999' }))).toBe(true);
    expect(trouble(Array.from({ length: 1001 }, () => 'a').join(' ')).message).toContain('1000');
    expect(read(`${'('.repeat(90)}a${')'.repeat(90)}`)).toEqual({ type: 'word', text: 'a' });
    expect(trouble(`${'('.repeat(5000)}a`).message).toContain('100 deep');
    expect(read('x'.repeat(10_000))).toMatchObject({ type: 'word' });
    expect(trouble('x'.repeat(30_000)).message).toContain('characters');
  });

  it('a pattern made to be slow is answered', () => {
    const test = globTest(`${'a*'.repeat(60)}b`);
    expect(test('a'.repeat(250))).toBe(false);
    expect(test(`${'a'.repeat(250)}b`)).toBe(true);
    expect(trouble(`name:${'{a,b}'.repeat(10)}`).message).toContain('64');
  });
});

const CONTEXT = { now: Date.UTC(2026, 10, 25, 12), zone: SYSTEM_ZONE };
const record = ({ name, ...more }: Partial<QueryRecord> & { name?: string }): QueryRecord => ({
  folded: fold(name ?? 'x'),
  type: 'file',
  kind: 'file',
  size: 0,
  modified: 0,
  created: 0,
  opened: null,
  folders: [],
  tags: [],
  shortcut: false,
  pinned: false,
  away: false,
  children: null,
  ...more,
});

describe('the test over a record', () => {
  const lets = (query: string, more: Parameters<typeof record>[0]) => compileQuery(read(query), CONTEXT)(record(more));

  it('words stand anywhere in the name, case and accents aside', () => {
    expect(lets('muller', { name: 'Frau Müller.odt' })).toBe(true);
    expect(lets('MÜLLER', { name: 'muller.txt' })).toBe(true);
    expect(lets('"a b"', { name: 'xa bx' })).toBe(true);
    expect(lets('a b', { name: 'b then a' })).toBe(true);
    expect(lets('a b', { name: 'a' })).toBe(false);
  });

  it('folders by a run of whole names, the place’s among them', () => {
    const folders = ['marrowick', 'ringing', '2026', 'logs'];
    expect(lets('in:ringing/2026', { folders })).toBe(true);
    expect(lets('in:Marrowick', { folders })).toBe(true);
    expect(lets('in:ringing/logs', { folders })).toBe(false);
    expect(lets('in:ring', { folders })).toBe(false);
  });

  it('an extension is what follows the last dot; a folder has none', () => {
    expect(lets('ext:gz', { name: 'a.tar.GZ' })).toBe(true);
    expect(lets('ext:profile', { name: '.profile' })).toBe(false);
    expect(lets('ext:d', { name: 'conf.d', type: 'folder' })).toBe(false);
  });

  it('what is not wanted, what is empty, what bears a tag', () => {
    expect(lets('-is:folder -ext:csv', { name: 'a.csv' })).toBe(false);
    expect(lets('is:empty', { size: 0 })).toBe(true);
    expect(lets('is:empty', { type: 'folder', children: 2 })).toBe(false);
    expect(lets('tag:"Field Work"', { tags: ['field work'] })).toBe(true);
    expect(lets('opened:never', {})).toBe(true);
    expect(lets('opened>2026-01', { opened: null })).toBe(false);
  });

  it('not and or are those of logic, whatever the tree', () => {
    const some = fc.record({ name: text, size, kind: fc.constantFrom(...KINDS) });
    fc.assert(
      fc.property(tree, tree, some, (a, b, more) => {
        const r = record(more);
        const is = (node: QueryNode) => compileQuery(node, CONTEXT)(r);
        expect(is({ type: 'not', of: a })).toBe(!is(a));
        expect(is({ type: 'all', of: [a, b] })).toBe(is(a) && is(b));
        expect(is({ type: 'any', of: [a, b] })).toBe(is(a) || is(b));
        expect(is(simplified(a))).toBe(is(a));
      }),
      { seed: 45, numRuns: 500 },
    );
  });
});

describe('globs', () => {
  // minimatch with these options is `find -name` on plain globs (checks.md)
  const reference = (glob: string, name: string) =>
    minimatch(name, glob, { dot: true, nobrace: true, noext: true, nonegate: true, nocomment: true, nocase: true });

  it('agree with minimatch on plain patterns', () => {
    const sign = fc.constantFrom('a', 'b', 'c', '.', '*', '?', '[a-b]', '[!c]', '*.', ' ', '-');
    const letter = fc.constantFrom('a', 'b', 'c', 'A', '.', ' ', '-');
    fc.assert(
      fc.property(
        fc.array(sign, { minLength: 1, maxLength: 7 }),
        fc.array(letter, { minLength: 1, maxLength: 8 }),
        (g, n) => {
          const [glob, name] = [g.join(''), n.join('')];
          // two names that the reference takes for folders, not for names
          fc.pre(name !== '.' && name !== '..' && glob !== '.' && glob !== '..');
          // "**" is a word of its own there
          fc.pre(!glob.includes('**'));
          expect([glob, name, globTest(glob)(fold(name))]).toEqual([glob, name, reference(glob, name)]);
        },
      ),
      { seed: 46, numRuns: 3000 },
    );
  });

  it('over bytes say the same as over text, or leave it to that where a name is not plain', () => {
    const sign = fc.constantFrom('a', 'b', 'é', '.', '*', '?', '[a-b]', '[!c]', '{a,*b}', ' ', '[]');
    const letter = fc.constantFrom('a', 'b', 'c', 'é', '.', ' ', '海');
    fc.assert(
      fc.property(fc.array(sign, { minLength: 1, maxLength: 6 }), fc.array(letter, { maxLength: 8 }), (g, n) => {
        const [glob, name] = [g.join(''), fold(n.join(''))];
        const bytes = new TextEncoder().encode(`x${name}y`);
        const said = globBytesTest(glob)(bytes, 1, bytes.length - 1);
        if (bytes.every((b) => b < 128)) expect([glob, name, said]).toEqual([glob, name, globTest(glob)(name)]);
        else expect([undefined, globTest(glob)(name)]).toContain(said);
      }),
      { seed: 48, numRuns: 3000 },
    );
  });

  it('braces are alternatives, nested ones too', () => {
    const test = globTest('*.{md,t{x,e}t}');
    expect(['a.md', 'a.txt', 'a.tet', 'a.tt', 'a.m'].map((n) => test(n))).toEqual([true, true, true, false, false]);
    expect(globTest('{a')('{a')).toBe(true);
    expect(globTest('\\{a,b}')('{a,b}')).toBe(true);
  });
});

/** A zone by the system's own tables, from GNU date: an outside reference for days across changes of the clock. */
function zoneByDate(name: string): { zone: Zone; midnight(day: string): number } {
  const midnight = (day: string) =>
    Number(execFileSync('date', ['-d', day, '+%s'], { env: { TZ: name }, encoding: 'utf8' })) * 1000;
  const parts = new Intl.DateTimeFormat('en-CA', {
    timeZone: name,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    weekday: 'short',
  });
  return {
    midnight,
    zone: {
      startOf: (year, month, day) => midnight(new Date(Date.UTC(year, month - 1, day)).toISOString().slice(0, 10)),
      dayOf: (instant) => {
        const of = Object.fromEntries(parts.formatToParts(instant).map((p) => [p.type, p.value]));
        return {
          year: Number(of['year']),
          month: Number(of['month']),
          day: Number(of['day']),
          weekday: ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'].indexOf(of['weekday']!) + 1,
        };
      },
    },
  };
}

describe('times', () => {
  const HOUR = 3_600_000;
  const { zone, midnight } = zoneByDate('Europe/Berlin');
  const span = (word: string, now: number) => {
    const c = read(`modified:${word}`) as Extract<Condition, { type: 'time' }>;
    return spanOf(c.word, now, zone);
  };

  it('a day of the spring change has 23 hours, one of the autumn 25', () => {
    const spring = span('2026-03-29', 0);
    const autumn = span('2026-10-25', 0);
    expect([(spring.to! - spring.from) / HOUR, (autumn.to! - autumn.from) / HOUR]).toEqual([23, 25]);
    expect(span('today', midnight('2026-03-29') + 12 * HOUR)).toEqual(spring);
    expect(span('yesterday', midnight('2026-10-26') + HOUR)).toEqual(autumn);
    expect(span('7d', midnight('2026-04-02') + 3 * HOUR)).toEqual({ from: midnight('2026-03-26'), to: null });
  });

  it('weeks begin on Monday, also over the end of a year', () => {
    // 2027-01-01 is a Friday
    const now = midnight('2027-01-01') + HOUR;
    expect(span('this-week', now)).toEqual({ from: midnight('2026-12-28'), to: midnight('2027-01-04') });
    expect(span('last-week', now)).toEqual({ from: midnight('2026-12-21'), to: midnight('2026-12-28') });
    expect(span('last-month', now)).toEqual({ from: midnight('2026-12-01'), to: midnight('2027-01-01') });
    expect(span('last-year', now)).toEqual({ from: midnight('2026-01-01'), to: midnight('2027-01-01') });
    expect(span('1m', midnight('2026-03-31') + HOUR).from).toBe(midnight('2026-02-28'));
    expect(span('1y', midnight('2028-02-29') + HOUR).from).toBe(midnight('2027-02-28'));
  });

  it('before, until, from and after meet without a gap', () => {
    fc.assert(
      fc.property(timeWord, fc.integer({ min: 1.6e12, max: 1.9e12 }), (word, now) => {
        const of = (op: '<' | '<=' | '>' | '>=') =>
          boundsOf({ type: 'time', field: 'modified', op, word }, now, SYSTEM_ZONE);
        expect(of('<').to).toBe(of('>=').from);
        if (of('<=').to !== null) expect(of('<=').to).toBe(of('>').from);
      }),
      { seed: 47 },
    );
  });
});

describe('the SQL', () => {
  it('never holds what the person wrote', () => {
    const context = { ...CONTEXT, away: [3], places: [{ id: 1, folded: 'marrowick' }], tagIds: () => [] };
    fc.assert(
      fc.property(tree, (node) => {
        const { text: sql, parameters } = sqlOf(node, context, 4);
        const numbers = [...sql.matchAll(/\$(\d+)/g)].map((m) => Number(m[1]));
        expect(new Set(numbers)).toEqual(new Set(parameters.map((_, i) => i + 4)));
        // all that is left is ours: no sign of a text of theirs
        expect(sql).toMatch(/^[\x20-\x7e\n]*$/);
      }),
      { seed: 48, numRuns: 500 },
    );
    const evil = `'; DROP TABLE original; --`;
    expect(sqlOf({ type: 'word', text: evil }, context).text).not.toContain('DROP');
  });
});

describe('a snippet', () => {
  it('marks the words where case and accents differ, with what is around them', () => {
    const body =
      'First line.\nThe hand net hangs beside the M\u00fcller winch, above the slipway at the north end of the yard.';
    expect(snippetOf(body, 'muller WINCH')).toBe(
      'The hand net hangs beside the «M\u00fcller» «winch», above the slipway at the north end of',
    );
    expect(snippetOf(body, 'line')).toBe('First «line».');
    expect(snippetOf(body, 'winch muller')).toBeUndefined();
    expect(snippetOf(body, 'mull')).toBeUndefined();
    expect(snippetOf(body, '…')).toBeUndefined();
  });

  it('holds just the letters of the line', () => {
    const words = fc.array(fc.constantFrom('Ebbe', '\u00c9bb', 'a\u0308b', 'stra\u00dfe', 'x', '\u6d77'), {
      minLength: 1,
      maxLength: 12,
    });
    fc.assert(
      fc.property(words, fc.nat(11), (line, at) => {
        const asked = line[at % line.length]!;
        const snippet = snippetOf(line.join(' '), asked)!;
        expect(line.join(' ')).toContain(snippet.replace(/[«»]/g, ''));
        expect(snippet).toContain('«');
      }),
      { seed: 49 },
    );
  });
});

describe('a pattern meant to hold the reader up', () => {
  it.each([
    ['brackets', '['.repeat(20_000)],
    ['braces', '{'.repeat(20_000)],
    ['pairs of braces', '{a,b}'.repeat(4000)],
    ['stars', '*a'.repeat(10_000)],
    ['escaped ends', '[\\]'.repeat(6000)],
  ])('of %s is refused with its reason, at once', (_name, text) => {
    const started = performance.now();
    const result = parseQuery(text.slice(0, 20_000));
    expect(performance.now() - started).toBeLessThan(500);
    expect(result.ok ? '' : result.error.message).toMatch(/pattern cannot be used/);
  });

  it.each([
    ['brackets', '['.repeat(499) + '*'],
    ['braces', '{'.repeat(499) + '*'],
    ['stars', '*a'.repeat(249) + 'b'],
    ['sets', '*[a]'.repeat(120) + 'b'],
  ])('of %s that is just short enough takes no time over names', (_name, text) => {
    const started = performance.now();
    const test = globTest(text);
    for (let i = 0; i < 500; i++) test('a'.repeat(250));
    expect(performance.now() - started).toBeLessThan(2000);
  });
});
