/** The index against GNU find, and what it costs to look again. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, renameSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { EntryView } from '@rellin/contract';
import { fromBytes } from '@rellin/core/paths';
import { seeded } from '@rellin/core/random';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
const ODD = [
  'new\nline.txt',
  'tab\t.txt',
  'back\\slash',
  'quote\'"',
  '100%',
  ' lead',
  '-dash',
  'ü composed',
  'ü decomposed',
  '海鳥',
  '🐦',
  'a'.repeat(255),
  'CASE',
  'case',
];

function tree(root: string): void {
  const random = seeded(5);
  const folders = [root];
  for (let i = 0; i < 60; i++) {
    const folder = join(random.pick(folders), `folder ${i}`);
    mkdirSync(folder);
    folders.push(folder);
  }
  for (let i = 0; i < 900; i++)
    writeFileSync(
      join(random.pick(folders), `file ${i}.${random.pick(['csv', 'md', 'png', 'xyz'])}`),
      'x'.repeat(random.int(0, 3000)),
    );
  mkdirSync(join(root, 'odd'));
  for (const name of ODD) writeFileSync(join(root, 'odd', name), name);
  writeFileSync(Buffer.concat([Buffer.from(join(root, 'odd/latin ')), Buffer.from([0xe9, 0xff])]), 'bytes');
  symlinkSync('../nowhere', join(root, 'odd/dangling'));
  symlinkSync('loop b', join(root, 'odd/loop a'));
  symlinkSync('loop a', join(root, 'odd/loop b'));
  mkdirSync(join(root, '.git'));
  writeFileSync(join(root, '.git/left out'), '');
  mkdirSync(join(root, 'kept'));
  for (const name of ['a.tmp', 'b.txt']) writeFileSync(join(root, 'kept', name), '');
}

beforeAll(async () => {
  rellin = await Rellin.make({}, (r) => tree(r.place));
});
afterAll(() => rellin.remove());

/** What find says of the place: path, type, size, time to the microsecond, inode. */
function found(): string[] {
  const out = execFileSync(
    'find',
    [
      rellin.place,
      '-mindepth',
      '1',
      '-name',
      '.git',
      '-prune',
      '-o',
      '-mindepth',
      '1',
      '-printf',
      '%P\\t%y\\t%s\\t%T@\\t%i\\0',
    ],
    { maxBuffer: 1 << 26 },
  );
  const lines: string[] = [];
  for (let from = 0, to = out.indexOf(0); to >= 0; from = to + 1, to = out.indexOf(0, from))
    lines.push(fromBytes(out.subarray(from, to)));
  // milliseconds as a number hold a quarter of a microsecond: what lies closer below the next is that one, also here
  const rounded = (_: string, seconds: string, parts: string) =>
    `\t${(Math.floor(Number(seconds) * 1000 + Number(parts.slice(0, 9)) / 1e6) / 1000).toFixed(3)}\t`;
  return lines.map((l) => l.replace(/\t(\d+)\.(\d+)\t/, rounded)).sort();
}

async function indexed(): Promise<string[]> {
  const rows = (await rellin.sql(
    `SELECT original_path(place_id, id) AS path, type, size, mtime, inode FROM original WHERE place_id = 1 AND parent_id <> 0`,
  )) as { path: string; type: string; size: string; mtime: number; inode: number }[];
  const letter: Record<string, string> = { file: 'f', folder: 'd', link: 'l' };
  return rows
    .map((r) => `${r.path}\t${letter[r.type]}\t${r.size}\t${(Math.floor(r.mtime) / 1000).toFixed(3)}\t${r.inode}`)
    .sort();
}

/** Row writes in the place's partition so far. */
async function writes(): Promise<number> {
  const [row] = await rellin.sql(
    `SELECT pg_stat_force_next_flush(), n_tup_ins + n_tup_upd + n_tup_del AS n FROM pg_stat_user_tables WHERE relname = 'original_p1'`,
  );
  return Number(row!['n']);
}

const rescan = async () => {
  await until(
    () => rellin.get('/activity'),
    (going) => going.length === 0,
  );
  const before = (await rellin.sql(`SELECT scanned_at::text AS scanned_at FROM place_status WHERE place_id = 1`))[0]![
    'scanned_at'
  ];
  await rellin.post('/places/1/scan');
  await until(
    async () =>
      (await rellin.sql(`SELECT scanned_at::text AS scanned_at FROM place_status WHERE place_id = 1`))[0]![
        'scanned_at'
      ],
    (at) => String(at) !== String(before),
  );
};

describe('the index', () => {
  it('holds what GNU find finds: names as bytes, types, sizes, times, inodes', async () => {
    expect(await indexed()).toEqual(found());
  });

  it('writes nothing where nothing changed', async () => {
    const before = await until(writes, (n) => n > 900);
    await rescan();
    await rescan();
    expect(await writes()).toBe(before);
  });

  it('agrees with find after a storm of changes, live', async () => {
    const random = seeded(6);
    for (let round = 0; round < 4; round++) {
      const all = execFileSync('find', [rellin.place, '-mindepth', '1', '-name', 'f*', '-print0'], {
        maxBuffer: 1 << 26,
        encoding: 'utf8',
      })
        .split('\0')
        .filter((p) => p && !p.includes('/odd/'));
      const gone = new Set<string>();
      for (let i = 0; i < 60; i++) {
        const path = random.pick(all);
        if ([...gone].some((g) => path === g || path.startsWith(`${g}/`))) continue;
        const roll = random.next();
        try {
          if (roll < 0.25) rmSync(path, { recursive: true });
          else if (roll < 0.6) renameSync(path, join(rellin.place, `f moved ${round}-${i}`));
          else if (roll < 0.8) writeFileSync(join(rellin.place, `f new ${round}-${i}.txt`), 'new');
          else {
            mkdirSync(join(rellin.place, `f tree ${round}-${i}/x/y`), { recursive: true });
            renameSync(path, join(rellin.place, `f tree ${round}-${i}/x/y/in`));
          }
          if (roll < 0.6 || roll >= 0.8) gone.add(path);
        } catch {
          // it went with a folder above it
        }
      }
      const want = found().filter((l) => !l.includes('\td\t'));
      await until(
        async () => (await indexed()).filter((l) => !l.includes('\td\t')),
        (now) => JSON.stringify(now) === JSON.stringify(want),
      );
    }
    // nothing was lost on the way: a scan of the whole finds no difference in names
    const names = (lines: string[]) => lines.map((l) => l.split('\t')[0]);
    expect(names(await indexed())).toEqual(names(found()));
    const entries = (await rellin.get('/places'))[0]!.entries;
    expect(entries).toBe(found().length);
  });

  it('agrees with find after changes made while Rellin was stopped', async () => {
    await rellin.stop();
    const random = seeded(8);
    for (let i = 0; i < 30; i++) writeFileSync(join(rellin.place, `while away ${i}.md`), 'x'.repeat(i));
    const folders = execFileSync(
      'find',
      [rellin.place, '-mindepth', '1', '-maxdepth', '1', '-type', 'd', '-name', 'f*', '-print0'],
      { encoding: 'utf8' },
    )
      .split('\0')
      .filter(Boolean);
    renameSync(random.pick(folders), join(rellin.place, 'kept/moved here'));
    await rellin.start();
    expect(await indexed()).toEqual(found());
  });

  /** PostgreSQL fails three times in what a query does with what is known of places, and then no more. */
  async function whileItFails(name: string, query: string, work: () => Promise<void>): Promise<void> {
    // a sequence counts on when all else is rolled back
    await rellin.sql(`CREATE SEQUENCE ${name}`);
    await rellin.sql(`GRANT USAGE ON SEQUENCE ${name} TO rellin`);
    await rellin.sql(
      `CREATE FUNCTION ${name}() RETURNS boolean LANGUAGE plpgsql AS $$ BEGIN
         IF current_query() LIKE '${query}%' AND nextval('${name}') <= 3 THEN RAISE EXCEPTION 'no room'; END IF;
         RETURN true; END $$`,
    );
    await rellin.sql(`CREATE POLICY ${name} ON place_status USING (${name}()) WITH CHECK (true)`);
    await rellin.sql(`ALTER TABLE place_status ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY`);
    try {
      await work();
      await until(
        () => rellin.sql(`SELECT last_value::int AS asked FROM ${name}`),
        ([row]) => (row!['asked'] as number) > 3,
      );
    } finally {
      await rellin.sql(`ALTER TABLE place_status DISABLE ROW LEVEL SECURITY`);
      await rellin.sql(`DROP POLICY ${name} ON place_status`);
    }
  }

  it.each([
    ['what_is_known_is_read', 'SELECT next_id FROM place_status'],
    ['what_is_new_is_written', 'UPDATE place_status SET next_id'],
  ])('agrees with find though PostgreSQL fails while %s', async (name, query) => {
    await whileItFails(name, query, async () => {
      const folder = join(rellin.place, name);
      mkdirSync(join(folder, 'deep/er'), { recursive: true });
      writeFileSync(join(folder, 'deep/er/one.txt'), 'one');
      renameSync(join(rellin.place, 'odd/CASE'), join(folder, 'deep/CASE'));
      renameSync(join(folder, 'deep/CASE'), join(rellin.place, 'odd/CASE'));
      await until(indexed, (now) => now.join('\n') === found().join('\n'));
    });
  });

  it('is looked through again by itself where PostgreSQL failed meanwhile', async () => {
    await whileItFails('a_place_is_scanned', 'SELECT next_id', async () => {
      await rellin.post('/places/1/scan');
      await until(
        () => rellin.get('/places'),
        ([place]) => place!.scan === 'failed',
      );
      await until(
        () => rellin.get('/places'),
        ([place]) => place!.scan === 'done',
      );
    });
    expect(await indexed()).toEqual(found());
  });

  it('tells kinds anew where the tables that tell them are others, once', async () => {
    writeFileSync(join(rellin.place, 'kinds.csv'), 'a,b');
    const { id } = await rellin.add(join(rellin.place, 'kinds.csv'));
    await rellin.stop();
    // as an earlier version, without these tables, had it
    await rellin.sql(`UPDATE original SET kind = 'text', mime = 'text/plain' WHERE name = 'kinds.csv'`);
    await rellin.sql(`UPDATE shortcut SET kind = 'text' WHERE id = $1`, [id]);
    await rellin.sql(`UPDATE place_status SET kinds = 'former'`);
    await rellin.start();
    const ask = () => rellin.post('/searches/ask', { query: 'kind:table name:kinds.csv' });
    expect((await until(ask, ({ count }) => count === 1)).answers[0]).toMatchObject({ mime: 'text/csv' });
    await until(
      () => rellin.shortcut(id),
      (s) => s.kind === 'table',
    );
    expect(await rellin.sql(`SELECT kinds FROM place_status`)).toEqual([
      { kinds: expect.stringMatching(/^[0-9a-f]{64}$/) },
    ]);
    // no more than once: what is written by hand after that stays
    await rellin.stop();
    await rellin.sql(`UPDATE original SET kind = 'text' WHERE name = 'kinds.csv'`);
    await rellin.start();
    expect((await ask()).count).toBe(0);
  });

  it('leaves out what the place’s patterns say, and takes it up again', async () => {
    await rellin.call('PATCH', '/places/1', { excludes: ['*.tmp', '/odd/'] });
    await until(indexed, (lines) => !lines.some((l) => l.startsWith('kept/a.tmp') || l.startsWith('odd')));
    expect((await indexed()).some((l) => l.startsWith('kept/b.txt'))).toBe(true);
    await rellin.call('PATCH', '/places/1', { excludes: [] });
    await until(indexed, (lines) => lines.some((l) => l.startsWith('kept/a.tmp')));
  });

  it('tells the browser of a change on disk within a second', async () => {
    const events = await fetch(`${rellin.address}/api/events`, {
      headers: { authorization: `Bearer ${rellin.token}` },
    });
    const reader = events.body!.pipeThrough(new TextDecoderStream()).getReader();
    await reader.read();
    const started = performance.now();
    rellin.write('noticed.txt');
    let heard = '';
    while (!heard.includes('originals')) heard += (await reader.read()).value ?? '';
    expect(performance.now() - started).toBeLessThan(1000);
    await reader.cancel();
  });
});

describe('a folder of 50,000 files', () => {
  it('is listed page by page in natural order', async () => {
    const folder = join(rellin.place, 'large');
    mkdirSync(folder);
    for (let i = 0; i < 50_000; i++) writeFileSync(join(folder, `item ${i}.txt`), '');
    const row = await until(
      async () =>
        (await rellin.get('/originals/1/folder/1', { limit: 500 })).entries.find((e: EntryView) => e.name === 'large'),
      (e) => e?.children === 50_000,
      60_000,
    );
    const page = await rellin.get(`/originals/1/folder/${row!.id}`, { offset: 49998, limit: 200 });
    expect(page.total).toBe(50_000);
    expect(page.entries.map((e) => e.name)).toEqual(['item 49998.txt', 'item 49999.txt']);
    const last = Number(page.entries[1]!.id);
    expect((await rellin.get(`/originals/1/folder/${row!.id}`, { limit: 1, at: last })).atIndex).toBe(49_999);
    const first = await rellin.get(`/originals/1/folder/${row!.id}`, { limit: 3 });
    expect(first.entries.map((e) => e.name)).toEqual(['item 0.txt', 'item 1.txt', 'item 2.txt']);
  });

  it('loses nothing that happens while it is looked through', async () => {
    const folder = join(rellin.place, 'large');
    let done = false;
    const looking = rescan().then(() => (done = true));
    // one question between, so that what is written does not outrun what looks
    for (let i = 0; !done; i++) {
      for (let k = 0; k < 5; k++) writeFileSync(join(folder, `while ${i}-${k}.txt`), 'x');
      rmSync(join(folder, `item ${i}.txt`), { force: true });
      await rellin.get('/places');
    }
    await looking;
    const want = found().filter((line) => line.startsWith('large/'));
    const now = await until(
      async () => (await indexed()).filter((line) => line.startsWith('large/')),
      (lines) => lines.length === want.length,
      20_000,
    );
    expect(now).toEqual(want);
  });
});
