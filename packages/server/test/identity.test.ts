/** The decision table on a real file system: each row live, and again with the server down meanwhile. */
import {
  copyFileSync,
  linkSync,
  lstatSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
  unlinkSync,
  writeFileSync,
  chmodSync,
  symlinkSync,
} from 'node:fs';
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { ShortcutDetail } from '@rellin/contract';
import type { DiskFault } from '../src/disk/port.js';
import { BOUND_BY_PERMISSIONS, Rellin, until } from './testing/harness.js';

interface Row {
  name: string;
  /** Folder of its own for the row, so that rows do not meet. */
  make(folder: string): string;
  happen(folder: string): void;
  state: ShortcutDetail['state'];
  /** Where it points then, below the folder. */
  at: string;
  /** Where the file system keeps no birth times, if that is another. */
  withoutBirth?: { state: Row['state']; at: string };
}

const put = (path: string, text: string) => {
  mkdirSync(join(path, '..'), { recursive: true });
  writeFileSync(path, text);
  return path;
};
const one = (folder: string) => put(join(folder, 'one.txt'), `original of ${folder}`);

const ROWS: Row[] = [
  {
    name: 'edited in place',
    make: one,
    happen: (f) => writeFileSync(join(f, 'one.txt'), 'longer than before, and edited'),
    state: 'ready',
    at: 'one.txt',
  },
  {
    name: 'renamed',
    make: one,
    happen: (f) => renameSync(join(f, 'one.txt'), join(f, 'two.txt')),
    state: 'followed',
    at: 'two.txt',
  },
  {
    name: 'renamed and edited',
    make: one,
    happen: (f) => {
      renameSync(join(f, 'one.txt'), join(f, 'two.txt'));
      writeFileSync(join(f, 'two.txt'), 'edited after the rename');
    },
    state: 'followed',
    at: 'two.txt',
    withoutBirth: { state: 'lost', at: 'one.txt' },
  },
  {
    name: 'moved into a new folder',
    make: one,
    happen: (f) => {
      mkdirSync(join(f, 'new/deeper'), { recursive: true });
      renameSync(join(f, 'one.txt'), join(f, 'new/deeper/one.txt'));
    },
    state: 'followed',
    at: 'new/deeper/one.txt',
  },
  {
    name: 'the folder above renamed',
    make: (f) => put(join(f, 'in/one.txt'), f),
    happen: (f) => renameSync(join(f, 'in'), join(f, 'in 2026')),
    state: 'followed',
    at: 'in 2026/one.txt',
  },
  {
    name: 'a folder of folders moved',
    make: (f) => put(join(f, 'a/b/c/one.txt'), f),
    happen: (f) => {
      mkdirSync(join(f, 'z'));
      renameSync(join(f, 'a/b'), join(f, 'z/b'));
      rmSync(join(f, 'a'), { recursive: true });
    },
    state: 'followed',
    at: 'z/b/c/one.txt',
  },
  {
    name: 'saved over by a new file',
    make: one,
    happen: (f) => {
      writeFileSync(join(f, '.one.tmp'), 'saved anew');
      renameSync(join(f, '.one.tmp'), join(f, 'one.txt'));
    },
    state: 'saved-over',
    at: 'one.txt',
  },
  {
    name: 'the old one kept as a backup, a new one written',
    make: one,
    happen: (f) => {
      renameSync(join(f, 'one.txt'), join(f, 'one.txt.bak'));
      writeFileSync(join(f, 'one.txt'), 'written anew');
    },
    state: 'saved-over',
    at: 'one.txt',
  },
  {
    name: 'exchanged with another known file',
    make: (f) => {
      put(join(f, 'other.txt'), `the other of ${f}`);
      return one(f);
    },
    happen: (f) => {
      renameSync(join(f, 'one.txt'), join(f, '.swap'));
      renameSync(join(f, 'other.txt'), join(f, 'one.txt'));
      renameSync(join(f, '.swap'), join(f, 'other.txt'));
    },
    state: 'followed',
    at: 'other.txt',
    withoutBirth: { state: 'saved-over', at: 'one.txt' },
  },
  {
    name: 'moved over another file',
    make: (f) => {
      put(join(f, 'b.txt'), `b of ${f}`);
      return one(f);
    },
    happen: (f) => renameSync(join(f, 'one.txt'), join(f, 'b.txt')),
    state: 'followed',
    at: 'b.txt',
  },
  {
    name: 'copied while the original stays',
    make: one,
    happen: (f) => copyFileSync(join(f, 'one.txt'), join(f, 'copy.txt')),
    state: 'ready',
    at: 'one.txt',
  },
  {
    name: 'removed, nothing alike',
    make: one,
    happen: (f) => unlinkSync(join(f, 'one.txt')),
    state: 'lost',
    at: 'one.txt',
  },
  {
    name: 'removed, its inode number used again',
    make: one,
    happen: (f) => {
      unlinkSync(join(f, 'one.txt'));
      for (let i = 0; i < 8; i++) writeFileSync(join(f, `fresh ${i}.txt`), `fresh ${i}`);
    },
    state: 'lost',
    at: 'one.txt',
  },
  {
    name: 'copied elsewhere and removed, as a move between file systems does',
    make: one,
    happen: (f) => {
      mkdirSync(join(f, 'there'));
      copyFileSync(join(f, 'one.txt'), join(f, 'there/one.txt'));
      unlinkSync(join(f, 'one.txt'));
    },
    state: 'followed',
    at: 'there/one.txt',
  },
  {
    name: 'removed, two copies remain',
    make: one,
    happen: (f) => {
      copyFileSync(join(f, 'one.txt'), join(f, 'c1.txt'));
      copyFileSync(join(f, 'one.txt'), join(f, 'c2.txt'));
      unlinkSync(join(f, 'one.txt'));
    },
    state: 'unsure',
    at: 'one.txt',
  },
  {
    name: 'replaced by a folder',
    make: one,
    happen: (f) => {
      unlinkSync(join(f, 'one.txt'));
      mkdirSync(join(f, 'one.txt'));
    },
    state: 'unsure',
    at: 'one.txt',
  },
  {
    name: 'replaced by a link',
    make: one,
    happen: (f) => {
      unlinkSync(join(f, 'one.txt'));
      symlinkSync('nowhere', join(f, 'one.txt'));
    },
    state: 'unsure',
    at: 'one.txt',
  },
  {
    name: 'only its case changed',
    make: one,
    happen: (f) => renameSync(join(f, 'one.txt'), join(f, 'ONE.txt')),
    state: 'followed',
    at: 'ONE.txt',
  },
  {
    name: 'a hard link remains under another name',
    make: (f) => {
      const path = one(f);
      linkSync(path, join(f, 'second name.txt'));
      return path;
    },
    happen: (f) => unlinkSync(join(f, 'one.txt')),
    state: 'followed',
    at: 'second name.txt',
  },
  {
    name: 'a folder itself renamed',
    make: (f) => {
      put(join(f, 'box/x.txt'), f);
      return join(f, 'box');
    },
    happen: (f) => renameSync(join(f, 'box'), join(f, 'crate')),
    state: 'followed',
    at: 'crate',
    withoutBirth: { state: 'lost', at: 'box' },
  },
];

const slug = (name: string) => name.replace(/\W+/g, '-');

/** Rules for the port to the disk, and the file by which they reach it. */
const faultsOf = (rellin: Rellin) => join(rellin.base, 'disk-faults.json');
const setFaults = (rellin: Rellin, faults: DiskFault[]) => writeFileSync(faultsOf(rellin), JSON.stringify(faults));
const withPort = (prepare: (rellin: Rellin) => void, places = ['place']) =>
  Rellin.make({ places, env: (r) => ({ RELLIN_DISK_FAULTS: faultsOf(r) }) }, prepare);
/** Every fifth look below these fails. */
const failing = (...below: string[]): DiskFault[] =>
  below.flatMap((path) =>
    (['lstat', 'readdir', 'open'] as const).map((call) => ({
      call,
      below: `${path}/`,
      fault: { code: 'EIO' },
      each: 5,
    })),
  );

describe.each([
  ['live', 'live'],
  ['with Rellin stopped meanwhile', 'down'],
  ['on a disk of which every fifth look fails', 'failing'],
  ['on a file system that keeps no birth times', 'no birth'],
])('%s', (_, mode) => {
  let rellin: Rellin;
  const shortcuts = new Map<string, ShortcutDetail>();
  beforeAll(async () => {
    const paths = new Map<string, string>();
    rellin = await withPort((r) => {
      for (const row of ROWS) paths.set(row.name, row.make(join(r.place, slug(row.name))));
      if (mode === 'no birth') setFaults(r, [{ call: 'lstat', below: `${r.place}/`, fault: { birth: 0 } }]);
    });
    for (const row of ROWS) shortcuts.set(row.name, await rellin.add(paths.get(row.name)!));
    if (mode === 'down') {
      await rellin.stop();
      for (const row of ROWS) row.happen(join(rellin.place, slug(row.name)));
      await rellin.start();
    }
    if (mode === 'failing') setFaults(rellin, failing(rellin.place));
  });
  afterAll(() => rellin.remove());

  it.each(ROWS.map((row) => [row.name, row] as const))('%s', async (_name, row) => {
    const folder = join(rellin.place, slug(row.name));
    const made = shortcuts.get(row.name)!;
    const { state, at } = (mode === 'no birth' && row.withoutBirth) || row;
    if (mode !== 'down') {
      row.happen(folder);
      // a state that does not change is waited for by a change that comes after it
      const mark = rellin.write(`marks/${slug(row.name)}.txt`);
      await until(
        () =>
          rellin.post('/originals/locate', { path: mark }).then(
            () => true,
            () => false,
          ),
        Boolean,
      );
    }
    const now = await until(
      () => rellin.shortcut(made.id),
      (s) => s.state === state,
    );
    expect(now.location).toBe(join(folder, at));
    // a disk that fails now may refuse now
    if (mode === 'failing') return;
    if (state === 'followed') expect((await rellin.open(made.id)).argv[1]).toBe(join(folder, at));
    if (state === 'lost') expect((await rellin.refusal(rellin.open(made.id))).kind).toBe('original-lost');
    if (state === 'unsure') expect((await rellin.refusal(rellin.open(made.id))).kind).toBe('original-unsure');
  });
});

describe('what a file system rarely does, through the port', () => {
  let rellin: Rellin;
  beforeAll(async () => {
    rellin = await withPort(() => undefined, ['place', 'second']);
  });
  afterAll(() => rellin.remove());
  beforeEach(() => setFaults(rellin, []));

  it.each([
    ['and keeps birth times', []],
    ['and keeps none', [{ call: 'lstat', below: '/', fault: { birth: 0 } } as const]],
  ])('gives the inode number to another file %s: not followed', async (_, more) => {
    setFaults(rellin, [...more]);
    const path = rellin.write(`reused ${more.length}/one.txt`, 'what was here first');
    const made = await rellin.add(path);
    const { ino } = lstatSync(path);
    await rellin.stop();
    unlinkSync(path);
    const other = rellin.write(`reused ${more.length}/other.txt`, 'something else');
    setFaults(rellin, [...more, { call: 'lstat', below: other, fault: { inode: ino } }]);
    await rellin.start();
    await until(
      () => rellin.shortcut(made.id),
      (s) => s.state === 'lost',
    );
  });

  it('fails now and then while a file is carried to another place: followed there', async () => {
    const path = rellin.write('carried/one.txt', 'carried to the second place');
    const made = await rellin.add(path);
    const second = join(rellin.base, 'second');
    setFaults(rellin, failing(rellin.place, second));
    copyFileSync(path, join(second, 'one.txt'));
    unlinkSync(path);
    const now = await until(
      () => rellin.shortcut(made.id),
      (s) => s.state === 'followed',
    );
    expect(now.location).toBe(join(second, 'one.txt'));
  });

  it('fails now and then while its place goes and comes: away, never lost, and ready again', async () => {
    const second = join(rellin.base, 'second');
    writeFileSync(join(second, 'stays.txt'), 'stays in the second place');
    const made = await until(
      () => rellin.add(join(second, 'stays.txt')).catch(() => undefined),
      (s) => s !== undefined,
    );
    setFaults(rellin, failing(second));
    const states = new Set<string>();
    const is = (state: string) =>
      until(
        () => rellin.shortcut(made!.id),
        (s) => states.add(s.state).has(state),
      );
    renameSync(second, join(rellin.base, 'pulled'));
    await is('away');
    states.delete('ready');
    renameSync(join(rellin.base, 'pulled'), second);
    await is('ready');
    expect(states.has('lost')).toBe(false);
  });

  it('does not let Rellin look: no access, and ready again once it does', async () => {
    const path = rellin.write('closed/one.txt');
    const made = await rellin.add(path);
    setFaults(rellin, [{ call: 'lstat', below: path, fault: { code: 'EACCES' } }]);
    expect((await rellin.refusal(rellin.open(made.id))).kind).toBe('no-access');
    expect((await rellin.shortcut(made.id)).state).toBe('no-access');
    setFaults(rellin, []);
    expect((await rellin.open(made.id)).argv[1]).toBe(path);
    expect((await rellin.shortcut(made.id)).state).toBe('ready');
  });

  it('fails for good: the shortcut stays as it was, in the index as well, and what is elsewhere is not taken for it', async () => {
    const path = rellin.write('failing/one.txt', 'one of two alike');
    const made = await rellin.add(path);
    setFaults(rellin, [{ call: 'lstat', below: path, fault: { code: 'EIO' } }]);
    rellin.write('failing/copy.txt', 'one of two alike');
    await rellin.post('/places/1/scan');
    await rellin.settled();
    expect(await rellin.shortcut(made.id)).toMatchObject({ state: 'ready', location: path });
    setFaults(rellin, []);
    expect((await rellin.open(made.id)).argv[1]).toBe(path);
  });
});

describe('further', () => {
  let rellin: Rellin;
  beforeAll(async () => {
    rellin = await Rellin.make({ places: ['place', 'second'], command: BOUND_BY_PERMISSIONS });
  });
  afterAll(() => rellin.remove());

  it('gone and back: lost, then ready by itself', async () => {
    const path = rellin.write('back/one.txt', 'comes back');
    const made = await rellin.add(path);
    const aside = join(rellin.base, 'aside.txt');
    renameSync(path, aside);
    await until(
      () => rellin.shortcut(made.id),
      (s) => s.state === 'lost',
    );
    renameSync(aside, path);
    await until(
      () => rellin.shortcut(made.id),
      (s) => s.state === 'ready',
    );
  });

  it('PostgreSQL fails while it is looked at what moved: it is followed as soon as it can be looked at', async () => {
    const folder = join(rellin.place, 'while the database fails');
    const { id } = await rellin.add(put(join(folder, 'one.txt'), 'followed in the end'));
    // what is asked of shortcuts by their ids fails three times; a sequence counts on when all else is rolled back
    await rellin.sql(`CREATE SEQUENCE failing`);
    await rellin.sql(`GRANT USAGE ON SEQUENCE failing TO rellin`);
    await rellin.sql(
      `CREATE FUNCTION may_be_read() RETURNS boolean LANGUAGE plpgsql AS $$ BEGIN
         IF current_query() LIKE '%"shortcut" WHERE id = ANY%' AND nextval('failing') <= 3 THEN
           RAISE EXCEPTION 'it cannot be read'; END IF;
         RETURN true; END $$`,
    );
    await rellin.sql(`CREATE POLICY failing ON shortcut USING (may_be_read()) WITH CHECK (true)`);
    await rellin.sql(`ALTER TABLE shortcut ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY`);
    try {
      renameSync(join(folder, 'one.txt'), join(folder, 'two.txt'));
      const found = await until(
        () => rellin.shortcut(id),
        (s) => s.state === 'followed',
      );
      expect(found.location).toBe(join(folder, 'two.txt'));
      const [row] = await rellin.sql(`SELECT last_value::int AS asked FROM failing`);
      expect(row!['asked']).toBeGreaterThan(3);
    } finally {
      await rellin.sql(`ALTER TABLE shortcut DISABLE ROW LEVEL SECURITY`);
    }
  });

  it('thousands in a folder that moves follow in one act', async () => {
    const files = 2100;
    for (let i = 0; i < files; i++) rellin.write(`thousands/${i}.txt`, `${i}`);
    const at = await until(
      () => rellin.post('/originals/locate', { path: join(rellin.place, 'thousands') }).catch(() => undefined),
      (found) => found !== undefined,
    );
    const { placeId, originalId } = at!;
    await until(
      () => rellin.get(`/originals/${placeId}/folder/${originalId}`, { limit: 1 }),
      (folder) => folder.total === files,
    );
    const fromFolder = { placeId, originalId, only: 'files' as const };
    await rellin.post('/collections', { name: 'thousands', fromFolder });
    const followed = () =>
      rellin.sql(
        `SELECT count(*)::int AS n FROM shortcut WHERE state = 'followed' AND identity->>'path' LIKE 'thousands moved/%'`,
      );
    renameSync(join(rellin.place, 'thousands'), join(rellin.place, 'thousands moved'));
    await until(followed, ([row]) => row!['n'] === files);
    const lines = (await rellin.get('/journal')).filter((line) => line.act === 'follow');
    expect(lines[0]!.summary).toContain('2100');
  });

  it('a place that is not there: away with its shortcuts, never lost; back again: ready', async () => {
    const path = put(join(rellin.base, 'second/on the drive.txt'), 'drive');
    const made = await until(
      () => rellin.add(path).catch(() => undefined),
      (s) => s !== undefined,
    );
    renameSync(join(rellin.base, 'second'), join(rellin.base, 'pulled'));
    const away = await until(
      () => rellin.shortcut(made!.id),
      (s) => s.state !== 'ready',
    );
    expect(away.state).toBe('away');
    expect((await rellin.refusal(rellin.open(made!.id))).kind).toBe('original-away');
    renameSync(join(rellin.base, 'pulled/on the drive.txt'), join(rellin.base, 'pulled/renamed meanwhile.txt'));
    renameSync(join(rellin.base, 'pulled'), join(rellin.base, 'second'));
    const back = await until(
      () => rellin.shortcut(made!.id),
      (s) => s.state === 'followed',
    );
    expect(back.location).toBe(join(rellin.base, 'second/renamed meanwhile.txt'));
  });

  it('an empty folder where a place was is not the place', async () => {
    await until(
      () => rellin.get('/places'),
      (p) => p.every((x) => x.state === 'here'),
    );
    renameSync(join(rellin.base, 'second'), join(rellin.base, 'unmounted'));
    mkdirSync(join(rellin.base, 'second'));
    await until(
      () => rellin.get('/places'),
      (p) => p.find((x) => x.name === 'second')!.state === 'away',
    );
    const s = (await rellin.shortcuts()).find((x) => x.location.includes('renamed meanwhile'))!;
    await until(
      () => rellin.shortcut(s.id),
      (x) => x.state === 'away',
    );
    rmSync(join(rellin.base, 'second'), { recursive: true });
    renameSync(join(rellin.base, 'unmounted'), join(rellin.base, 'second'));
    await until(
      () => rellin.shortcut(s.id),
      (x) => x.state !== 'away',
    );
  });

  it('pairs exchanged one after another by way of the same third name: each is followed to its own', async () => {
    const folder = join(rellin.place, 'exchanged');
    const made = [];
    for (let i = 0; i < 40; i++) made.push(await rellin.add(put(join(folder, `${i}.txt`), `one of forty: ${i}`)));
    const third = join(folder, 'third');
    for (let i = 0; i < 40; i += 2) {
      renameSync(join(folder, `${i}.txt`), third);
      renameSync(join(folder, `${i + 1}.txt`), join(folder, `${i}.txt`));
      renameSync(third, join(folder, `${i + 1}.txt`));
    }
    for (const [i, { id }] of made.entries()) {
      const now = join(folder, `${i % 2 === 0 ? i + 1 : i - 1}.txt`);
      await until(
        () => rellin.shortcut(id),
        (s) => s.location === now && s.state === 'followed',
      );
      expect(readFileSync(now, 'utf8')).toBe(`one of forty: ${i}`);
    }
  });

  it('the same in steps that are met one by one', async () => {
    const folder = join(rellin.place, 'steps');
    const [a, b] = [put(join(folder, 'a.txt'), 'text of a'), put(join(folder, 'b.txt'), 'text of b')];
    const [one, two] = [await rellin.add(a), await rellin.add(b)];
    const at = (id: string, location: string) =>
      until(
        () => rellin.shortcut(id),
        (s) => s.location === location,
      );
    const third = join(folder, 'third.txt');
    renameSync(a, third);
    await at(one.id, third);
    renameSync(b, a);
    await at(two.id, a);
    renameSync(third, b);
    await at(one.id, b);
  });

  it('a large file is known by its whole content, also where Rellin was stopped before it was read', async () => {
    const path = join(rellin.place, 'long.wav');
    const bytes = (middle: number) => {
      const all = Buffer.alloc(24 << 20, 7);
      all.fill(middle, 1 << 20, 2 << 20);
      return all;
    };
    writeFileSync(path, bytes(1));
    const made = await rellin.add(path);
    const digest = async () =>
      (await rellin.sql(`SELECT identity->>'digest' AS digest FROM shortcut WHERE id = $1`, [made.id]))[0]!['digest'];
    await rellin.stop();
    await rellin.start();
    const sum = execFileSync('sha256sum', [path], { encoding: 'utf8' }).split(' ')[0];
    expect(await until(digest, (d) => d !== null)).toBe(sum);
    // two of the same size and ends come to lie elsewhere; one of them is it
    await rellin.stop();
    writeFileSync(join(rellin.base, 'second/not it.wav'), bytes(2));
    writeFileSync(join(rellin.base, 'second/it.wav'), bytes(1));
    unlinkSync(path);
    await rellin.start();
    const now = await until(
      () => rellin.shortcut(made.id),
      (s) => s.state === 'followed',
    );
    expect(now.location).toBe(join(rellin.base, 'second/it.wav'));
  });

  it('what went elsewhere while Rellin was stopped is followed, however late Rellin comes to it', async () => {
    const base = { clock: '' };
    const other = await Rellin.make(
      {
        places: ['place', 'second'],
        command: [process.execPath, '--import', join(import.meta.dirname, 'testing/clock.mjs')],
        env: {
          get RELLIN_TEST_CLOCK() {
            return base.clock;
          },
        } as Record<string, string>,
      },
      (r) => {
        base.clock = join(r.base, 'clock');
        writeFileSync(join(r.place, 'long.wav'), Buffer.alloc(24 << 20, 7));
      },
    );
    try {
      const made = await other.add(join(other.place, 'long.wav'));
      await until(
        async () =>
          (await other.sql(`SELECT identity->>'digest' AS d FROM shortcut WHERE id = $1`, [made.id]))[0]!['d'],
        Boolean,
      );
      await other.stop();
      copyFileSync(join(other.place, 'long.wav'), join(other.base, 'second/long.wav'));
      unlinkSync(join(other.place, 'long.wav'));
      writeFileSync(base.clock, String(3_600_000));
      await other.start();
      const now = await until(
        () => other.shortcut(made.id),
        (s) => s.state === 'followed',
      );
      expect(now.location).toBe(join(other.base, 'second/long.wav'));
    } finally {
      await other.remove();
    }
  });

  it('a follow can be undone, and is then not repeated', async () => {
    const path = rellin.write('taken/one.txt', 'taken back');
    const made = await rellin.add(path);
    const to = join(rellin.place, 'taken/elsewhere.txt');
    renameSync(path, to);
    await until(
      () => rellin.shortcut(made.id),
      (s) => s.state === 'followed',
    );
    const line = (await rellin.get('/journal')).find((l) => l.act === 'follow' && l.summary.includes('elsewhere'))!;
    expect(line).toMatchObject({ by: 'automatic', inStack: false });
    expect(line.summary).toContain('same inode and birth');
    await rellin.post(`/journal/${line.id}/undo`);
    const lost = await until(
      () => rellin.shortcut(made.id),
      (s) => s.state === 'lost',
    );
    expect(lost.location).toBe(path);
    writeFileSync(to, 'touched again');
    const mark = rellin.write('taken/mark.txt');
    await until(
      () =>
        rellin.post('/originals/locate', { path: mark }).then(
          () => true,
          () => false,
        ),
      Boolean,
    );
    expect((await rellin.shortcut(made.id)).state).toBe('lost');
    expect(readFileSync(to, 'utf8')).toBe('touched again');
  });

  it('noting a change makes it ready', async () => {
    const path = rellin.write('noted/one.txt', 'noted');
    const made = await rellin.add(path);
    renameSync(path, path.replace('one', 'two'));
    await until(
      () => rellin.shortcut(made.id),
      (s) => s.state === 'followed',
    );
    await rellin.post('/shortcuts/acknowledge', { ids: [made.id] });
    expect(await rellin.shortcut(made.id)).toMatchObject({ state: 'ready', followedFrom: null });
  });

  it('permission withdrawn: no access, and ready again when it is given back', async () => {
    const path = rellin.write('closed/one.txt');
    const made = await rellin.add(path);
    chmodSync(join(rellin.place, 'closed'), 0o000);
    await rellin.refusal(rellin.open(made.id));
    expect((await rellin.shortcut(made.id)).state).toBe('no-access');
    chmodSync(join(rellin.place, 'closed'), 0o755);
    expect((await rellin.open(made.id)).argv[1]).toBe(path);
    expect((await rellin.shortcut(made.id)).state).toBe('ready');
  });
});
