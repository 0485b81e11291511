/**
 * Saved searches three ways on one real tree: the test in memory, our SQL on a real PostgreSQL, and GNU find where it
 * can say the same (checks.md: -size in bytes by c, -newermt is strictly newer, -iname in a UTF-8 locale).
 */
import { execFileSync } from 'node:child_process';
import { lutimesSync, mkdirSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { fold } from '@rellin/core/match';
import {
  compileQuery,
  formatQuery,
  parseQuery,
  SYSTEM_ZONE,
  type Condition,
  type QueryNode,
  type QueryRecord,
} from '@rellin/core/query';
import { seeded } from '@rellin/core/random';
import { sqlOf } from '@rellin/core/oracles';
import type { ShortcutDetail } from '@rellin/contract';
import { Rellin } from './testing/harness.js';

const NOW = Date.UTC(2026, 10, 25, 12);
const FOLDERS = ['', 'Ringing', 'Ringing/2026', 'Ringing/2026/Logs', 'ringing', 'Bücher', 'a b', 'Ringing/2025'];
const NAMES = [
  'tide',
  'Tide',
  'log',
  'Müller',
  '100%',
  'under_score',
  'back\\slash',
  'two words',
  "quo'te",
  'ß',
  'É',
  '[x]',
  '{y}',
  '*',
  'лодка',
];
const ENDS = ['.csv', '.CSV', '.md', '.tar.gz', '', '.png', '.'];

let rellin: Rellin;
let records: (QueryRecord & { key: string })[];
let tagId = '';

beforeAll(async () => {
  const random = seeded(77);
  rellin = await Rellin.make({}, (r) => {
    for (const folder of FOLDERS) mkdirSync(join(r.place, folder), { recursive: true });
    for (let i = 0; i < 260; i++) {
      const path = join(
        r.place,
        random.pick(FOLDERS),
        `${random.pick(NAMES)}${i % 3 === 0 ? i : ''}${random.pick(ENDS)}`,
      );
      writeFileSync(path, 'x'.repeat(random.pick([0, 1, 999, 1000, 1001, 1024, 4096])));
      const at = new Date(NOW - random.int(0, 800) * 43_200_000);
      utimesSync(path, at, at);
    }
    symlinkSync('tide.csv', join(r.place, 'a link.csv'));
    lutimesSync(join(r.place, 'a link.csv'), 1_700_000_000, 1_700_000_000);
  });
  const files = await rellin.sql(`SELECT place_id, id FROM original WHERE type = 'file' ORDER BY id`);
  const made: ShortcutDetail[] = [];
  for (const { place_id, id } of files.filter((_, i) => i % 20 === 0))
    made.push(await rellin.post('/shortcuts', { placeId: place_id as number, originalId: id as number }));
  for (const s of made.slice(0, 5)) await rellin.open(s.id);
  await rellin.post('/pins', { target: 'shortcut', targetId: made[0]!.id });
  tagId = (
    await rellin.post('/tags', {
      name: 'Küste',
      originals: files
        .filter((_, i) => i % 17 === 0)
        .map((f) => ({ placeId: Number(f['place_id']), originalId: Number(f['id']) })),
    })
  ).id;
  records = await read();
});
afterAll(() => rellin.remove());

/** What the index holds, as the records a test in memory looks at. */
async function read(): Promise<typeof records> {
  const rows = await rellin.sql(`
    SELECT o.place_id, o.id::text, o.parent_id::text, o.name, o.type, o.kind, o.size::float8, o.mtime, o.birth,
      (SELECT count(*)::int FROM original c WHERE c.place_id = o.place_id AND c.parent_id = o.id) AS children,
      EXISTS (SELECT 1 FROM tagging g WHERE g.original_id = o.id) AS tagged,
      s.id IS NOT NULL AS shortcut, p.id IS NOT NULL AS pinned, extract(epoch FROM u.last_opened) * 1000 AS opened
    FROM original o LEFT JOIN shortcut s ON s.place_id = o.place_id AND s.original_id = o.id
    LEFT JOIN usage u ON u.shortcut_id = s.id LEFT JOIN pin p ON p.shortcut_id = s.id`);
  const of = new Map(rows.map((r) => [r['id'] as string, r]));
  const above = (r: Record<string, unknown>): string[] => {
    const parent = of.get(r['parent_id'] as string);
    if (!parent || parent === r) return [];
    return parent['name'] === '' ? ['place'] : [...above(parent), fold(parent['name'] as string)];
  };
  return rows
    .filter((r) => r['name'] !== '')
    .map((r) => ({
      key: r['id'] as string,
      name: r['name'] as string,
      folded: fold(r['name'] as string),
      type: r['type'] as QueryRecord['type'],
      kind: r['kind'] as QueryRecord['kind'],
      size: r['size'] as number,
      modified: r['mtime'] as number,
      created: r['birth'] as number,
      opened: r['opened'] === null ? null : Number(r['opened']),
      folders: above(r),
      tags: r['tagged'] ? [fold('Küste')] : [],
      shortcut: r['shortcut'] as boolean,
      pinned: r['pinned'] as boolean,
      away: false,
      children: r['type'] === 'folder' ? (r['children'] as number) : null,
    }));
}

const context = () => ({
  now: NOW,
  zone: SYSTEM_ZONE,
  away: [],
  places: [{ id: 1, folded: 'place' }],
  tagIds: (name: string) => (fold(name) === fold('Küste') ? [tagId] : []),
});
const inMemory = (node: QueryNode) =>
  records
    .filter(compileQuery(node, context()))
    .map((r) => r.key)
    .sort();
async function inSql(node: QueryNode): Promise<string[]> {
  const { text, parameters } = sqlOf(node, context());
  const rows = await rellin.sql(`SELECT o.id::text FROM original o WHERE o.name <> '' AND ${text}`, parameters);
  return rows.map((r) => r['id'] as string).sort();
}
const parsed = (text: string): QueryNode => {
  const result = parseQuery(text);
  if (!result.ok) throw new Error(`${text}: ${result.error.message}`);
  return result.tree;
};

const word = fc.constantFrom('tide', 'LOG', 'muller', '%', '_', '\\', "'", 'ss', 'e', 'лод', '2', ' ', '.', 'csv');
const condition: fc.Arbitrary<Condition> = fc.oneof(
  word.map((text): Condition => ({ type: 'word', text })),
  fc
    .constantFrom('*.csv', 't*', '?*ü*', '*[0-9].md', '{tide,log}*', '\\[x\\]*', '\\**', '*_*', '*.', '[!a-z]*')
    .map((glob): Condition => ({ type: 'name', glob })),
  fc
    .constantFrom(['csv'], ['md', 'gz'], ['png', ''])
    .map((values): Condition => ({ type: 'ext', values: [...values] })),
  fc
    .constantFrom('table', 'folder', 'text', 'archive', 'link')
    .map((kind): Condition => ({ type: 'kind', values: [kind as 'table'] })),
  fc
    .constantFrom(
      ['Ringing'],
      ['ringing', '2026'],
      ['bucher'],
      ['place'],
      ['place', 'Ringing'],
      ['2026', 'Ringing'],
      ['a b'],
    )
    .map((folders): Condition => ({ type: 'in', folders: [...folders] })),
  fc
    .constantFrom([0, 0], [1, 1000], [null, 1001], [1001, null], [1024, 1024])
    .map(([min, max]): Condition => ({ type: 'size', min: min!, max: max! })),
  fc
    .constantFrom(
      'modified:2026',
      'modified<2026-03',
      'modified>=90d',
      'modified:2025-06..2026-02',
      'created:today',
      'modified:last-week',
      'opened:1y',
      'opened:never',
      'opened<2026',
    )
    .map((t) => parsed(t) as Condition),
  fc.constantFrom('KUSTE', 'none').map((name): Condition => ({ type: 'tag', name })),
  fc
    .constantFrom('file', 'folder', 'link', 'shortcut', 'pinned', 'tagged', 'away', 'empty')
    .map((what): Condition => ({ type: 'is', what: what as 'file' })),
);
const { tree } = fc.letrec<{ tree: QueryNode }>((tie) => ({
  tree: fc.oneof(
    { maxDepth: 3 },
    condition as fc.Arbitrary<QueryNode>,
    fc.array(tie('tree'), { minLength: 1, maxLength: 3 }).map((of): QueryNode => ({ type: 'all', of })),
    fc.array(tie('tree'), { minLength: 1, maxLength: 3 }).map((of): QueryNode => ({ type: 'any', of })),
    tie('tree').map((of): QueryNode => ({ type: 'not', of })),
  ),
}));

describe('a saved search', () => {
  it('says the same in memory and in SQL, whatever it asks', async () => {
    await fc.assert(
      fc.asyncProperty(tree, async (node) => {
        expect([formatQuery(node), await inSql(node)]).toEqual([formatQuery(node), inMemory(node)]);
      }),
      { seed: 51, numRuns: 250 },
    );
  });

  it('lets through something and not everything, or the comparison would say little', () => {
    const shares = fc.sample(condition, { seed: 52, numRuns: 200 }).map((c) => inMemory(c).length / records.length);
    expect(shares.filter((s) => s > 0 && s < 1).length).toBeGreaterThan(120);
  });

  // what find says, relative to the place; a name with a newline would break the lines, so they are ended by NUL
  const byFind = (...args: string[]) =>
    execFileSync('find', [rellin.place, '-mindepth', '1', ...args, '-printf', '%i\\0'], {
      env: { ...process.env, LC_ALL: 'C.UTF-8' },
      encoding: 'utf8',
    })
      .split('\0')
      .filter((n) => n !== '')
      .sort();
  it.each<[string, string[]]>([
    ['*.csv', ['-iname', '*.csv']],
    ['t?de*', ['-iname', 't?de*']],
    // an accent is another letter to find: a range that É folds into would differ
    ['[k-n]*', ['-iname', '[k-n]*']],
    ['name:*_* -is:folder', ['-name', '*_*', '-not', '-type', 'd']],
    ['is:file size>1000', ['-type', 'f', '-size', '+1000c']],
    ['size<1000', ['-type', 'f', '-size', '-1000c']],
    ['size:1024', ['-type', 'f', '-size', '1024c']],
    ['is:link', ['-type', 'l']],
    ['is:empty', ['-empty']],
    ['*.md OR *.png', ['(', '-iname', '*.md', '-o', '-iname', '*.png', ')']],
    ['-(*.csv OR is:folder)', ['-not', '(', '-iname', '*.csv', '-o', '-type', 'd', ')']],
    ['in:Ringing/2026', ['-ipath', '*/ringing/2026/*']],
    ['modified<2026-01', ['-not', '-newermt', '2025-12-31 23:59:59.999']],
    [
      'modified:2026-03..2026-06',
      ['-newermt', '2026-02-28 23:59:59.999', '-not', '-newermt', '2026-06-30 23:59:59.999'],
    ],
  ])('%s is what find says', async (query, args) => {
    const node = parsed(query);
    const inodes = new Map(
      (await rellin.sql(`SELECT id::text, inode::text FROM original`)).map((r) => [r['id'], r['inode']]),
    );
    const ours = inMemory(node).map((key) => String(inodes.get(key)));
    expect(ours.sort()).toEqual(byFind(...args));
    expect(await inSql(node)).toEqual(inMemory(node));
  });
});
