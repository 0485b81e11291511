/**
 * The server ended as by `kill -9` at each point of the acts that touch the disk, and other trouble under them. After
 * the next start catalogue and disk agree, no link leads elsewhere than recorded, and what was acknowledged is there.
 *
 * `npm run test:faults` goes through every point; here some of each act are taken.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  lstatSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ShortcutDetail } from '@rellin/contract';
import { BOUND_BY_PERMISSIONS, Rellin, until } from './testing/harness.js';
import { CAN_MOUNT } from './testing/mounts.js';

const ALL = process.env['RELLIN_ALL_FAULTS'] === '1';
/** Of the points of an act every so many-th is taken, beginning with one of the first three. */
const STRIDE = ALL ? 1 : 7;
const MOST_POINTS = 60;

let rellin: Rellin;
let faults: string;
let drive: string;
beforeAll(async () => {
  const base = { file: '' };
  rellin = await Rellin.make(
    {
      places: ['place', 'drive'],
      command: [...BOUND_BY_PERMISSIONS, '--import', join(import.meta.dirname, 'testing/clock.mjs')],
      env: {
        get RELLIN_FAULTS() {
          return base.file;
        },
        get RELLIN_TEST_CLOCK() {
          return `${base.file}-clock`;
        },
      } as Record<string, string>,
    },
    (r) => {
      base.file = faults = join(r.base, 'faults');
      drive = join(r.base, 'drive');
      if (CAN_MOUNT) execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=256k', 'rellin-test', drive]);
      writeFileSync(join(drive, 'label.txt'), 'the drive');
    },
  );
});
afterAll(async () => {
  await rellin.stop();
  if (CAN_MOUNT) execFileSync('umount', [drive]);
  await rellin.remove();
});

const at = (path: string) => join(rellin.place, path);
const known = (path: string) => until(() => rellin.post('/originals/locate', { path }).catch(() => undefined), Boolean);
const list = (path: string) => (existsSync(path) ? readdirSync(path).sort() : []);
const publications = () => rellin.get('/aliases/publications');
const alive = () => rellin.get('/session').then(Boolean, () => false);

let round = 0;
/** A fresh folder with two files and two folders that have shortcuts, and a collection of the folders. */
async function scene() {
  const name = `round ${++round}`;
  rellin.write(`${name}/in/a.txt`, `a ${round}`);
  rellin.write(`${name}/in/b.txt`, `b ${round}`);
  rellin.write(`${name}/out/a.txt`, `stood there ${round}`);
  const shortcuts: ShortcutDetail[] = [];
  for (const sub of ['in', 'out']) {
    await known(at(`${name}/${sub}`));
    shortcuts.push(await rellin.add(at(`${name}/${sub}`), { name: `${sub} ${round}` }));
  }
  const collection = await rellin.post('/collections', {
    name,
    shortcutIds: shortcuts.map((s) => s.id),
  });
  return { name, shortcuts, collection };
}
type Scene = Awaited<ReturnType<typeof scene>>;

/**
 * Every link that is recorded stands as recorded and leads to its original; nothing half made lies about (what was
 * replaced is kept for the undo).
 */
async function agree(): Promise<void> {
  const records = await until(
    () => rellin.sql(`SELECT * FROM written_link WHERE place_id = 1`),
    (rows) => rows.every((r) => r['next_path'] === null),
  );
  for (const r of records) {
    const path = at(String(r['now_path']));
    const s = lstatSync(path);
    expect(s.isSymbolicLink()).toBe(r['form'] === 'link');
    if (r['form'] !== 'link') continue;
    expect(readlinkSync(path)).toBe(r['now_content']);
    expect(existsSync(path)).toBe(true);
  }
  const links = execFileSync('find', [rellin.place, '-type', 'l'], { encoding: 'utf8' }).split('\n').filter(Boolean);
  expect(links.sort()).toEqual(
    records
      .filter((r) => r['form'] === 'link')
      .map((r) => at(String(r['now_path'])))
      .sort(),
  );
  expect(
    execFileSync('find', [rellin.place, '-name', '.rellin-*', '!', '-name', '.rellin-replaced-*'], {
      encoding: 'utf8',
    }),
  ).toBe('');
  for (const s of await rellin.shortcuts())
    if (s.state === 'ready' || s.state === 'followed') expect(existsSync(s.location)).toBe(true);
}

/**
 * Does an act again and again, each time in a fresh scene and ended at another point, until it comes to its end; after
 * each end Rellin is started and `holds` looks at what is there. Returns how many ends there were.
 */
async function endedEverywhere<T>(
  prepare: (s: Scene) => Promise<T>,
  act: (s: Scene, prepared: T) => Promise<unknown>,
  holds: (s: Scene, prepared: T, acknowledged: boolean) => Promise<void>,
): Promise<number> {
  let ends = 0;
  for (let point = ALL ? 0 : round % 3; point < MOST_POINTS; point += STRIDE) {
    const s = await scene();
    const prepared = await prepare(s);
    writeFileSync(faults, String(point));
    const acknowledged = await act(s, prepared).then(
      () => true,
      () => false,
    );
    // what goes on behind an act that was acknowledged may meet the point as well
    const done = await until(
      async () => (acknowledged && !(await behind()) ? 'whole' : (await alive()) ? undefined : 'ended'),
      (is) => is !== undefined,
    );
    if (done === 'ended') {
      ends++;
      await rellin.kill();
      await rellin.start();
    }
    const met = !existsSync(faults);
    rmSync(faults, { force: true });
    await holds(s, prepared, acknowledged);
    await agree();
    if (!met) return ends;
  }
  return ends;
}

/** Whether links are still being brought in step. */
async function behind(): Promise<boolean> {
  if (!(await alive())) return true;
  const rows = await rellin.sql(`SELECT count(*)::int AS n FROM written_link WHERE next_path IS NOT NULL`);
  return Number(rows[0]!['n']) > 0;
}

describe('ended as by kill -9', () => {
  it('while publishing: the folder is whole, or there was no such act', async () => {
    const ends = await endedEverywhere(
      async () => undefined,
      (s) =>
        rellin.post('/aliases/publications', { source: 'collection', sourceId: s.collection.id, folder: at(s.name) }),
      async (s, _, acknowledged) => {
        const there = (await publications()).filter((p) => p.sourceId === s.collection.id);
        if (acknowledged) expect(there).toHaveLength(1);
        const names = s.shortcuts.map((x) => x.name).sort();
        await until(
          () => list(at(`${s.name}/${s.name}`)),
          (now) => now.join() === (there.length === 1 ? names : []).join(),
        );
        for (const p of there) await rellin.call('DELETE', `/aliases/publications/${p.id}`);
      },
    );
    expect(ends).toBeGreaterThan(0);
  }, 600_000);

  it('while a published one changes: new names for old, none twice', async () => {
    const ends = await endedEverywhere(
      (s) =>
        rellin.post('/aliases/publications', {
          source: 'collection',
          sourceId: s.collection.id,
          folder: at(s.name),
        }),
      async (s) => {
        await rellin.post('/shortcuts/rename', {
          names: s.shortcuts.map((x) => ({ id: x.id, name: `new ${x.name}` })),
        });
        await until(
          async () => (await alive()) && !list(at(`${s.name}/${s.name}`)).every((name) => name.startsWith('new ')),
          (waits) => !waits,
        );
      },
      async (s, p) => {
        const names = (await rellin.shortcuts())
          .filter((x) => s.shortcuts.some((y) => y.id === x.id))
          .map((x) => x.name);
        await until(
          () => list(p.path!),
          (now) => now.join() === names.sort().join(),
        );
        await rellin.call('DELETE', `/aliases/publications/${p.id}`);
      },
    );
    expect(ends).toBeGreaterThan(0);
  }, 600_000);

  it('while an original is followed: shortcut and alias go along', async () => {
    const ends = await endedEverywhere(
      (s) => rellin.post('/aliases', { shortcutId: s.shortcuts[0]!.id, folder: at(s.name), name: 'alias' }),
      async (s, alias) => {
        renameSync(at(`${s.name}/in`), at(`${s.name}/moved`));
        await until(
          async () => ((await alive()) ? readlinkSync(alias.path) : 'ended'),
          (target) => target === 'moved' || target === 'ended',
        );
      },
      async (s, alias) => {
        await until(
          () => rellin.shortcut(s.shortcuts[0]!.id),
          (x) => x.location === at(`${s.name}/moved`),
        );
        await until(
          () => readlinkSync(alias.path),
          (target) => target === 'moved',
        );
        await rellin.call('DELETE', `/aliases/${alias.id}`);
      },
    );
    expect(ends).toBeGreaterThan(0);
  }, 600_000);

  const seen = new Set<unknown>();
  const content = (path: string) => (existsSync(path) ? readFileSync(path, 'utf8') : undefined);
  /** Both files in the one folder or both in the other, and what stood there never lost. */
  const whole = (s: Scene) => {
    const n = s.name.split(' ')[1];
    const [ina, inb, outa, outb] = ['in/a.txt', 'in/b.txt', 'out/a.txt', 'out/b.txt'].map((f) =>
      content(at(`${s.name}/${f}`)),
    );
    const before = [`a ${n}`, `b ${n}`, `stood there ${n}`, undefined];
    const after = [undefined, undefined, `a ${n}`, `b ${n}`];
    return { is: [ina, inb, outa, outb], before, after };
  };
  const file = async (s: Scene) => {
    const originals = [];
    for (const f of ['a.txt', 'b.txt']) {
      const found = (await known(at(`${s.name}/in/${f}`)))!;
      originals.push({ placeId: found.placeId, originalId: found.originalId });
    }
    return rellin.post('/filing', {
      originals,
      into: { shortcutId: s.shortcuts[1]!.id },
      how: 'move',
      clash: 'replace',
    });
  };

  it('while filing: all is filed, or nothing is', async () => {
    const ends = await endedEverywhere(
      async (s) => void (await known(at(`${s.name}/in/b.txt`))),
      file,
      async (s, _, acknowledged) => {
        const { is, before, after } = whole(s);
        if (acknowledged) expect(is).toEqual(after);
        else expect([before, after]).toContainEqual(is);
      },
    );
    expect(ends).toBeGreaterThan(0);
  }, 600_000);

  it('while that is undone: all is back, or nothing is', async () => {
    const ends = await endedEverywhere(
      async (s) => void (await file(s)),
      () => rellin.post('/journal/undo'),
      async (s, _, acknowledged) => {
        const { is, before, after } = whole(s);
        const [line] = (await rellin.get('/journal')).filter((l) => l.act === 'file-move');
        if (acknowledged) expect(is).toEqual(before);
        else expect(is).toEqual(line!.undoneAt ? before : after);
      },
    );
    expect(ends).toBeGreaterThan(0);
  }, 600_000);

  const bothKnown = (s: Scene) => Promise.all(['a', 'b'].map((name) => known(at(`${s.name}/in/${name}.txt`))));
  const exchange = ([a, b]: Awaited<ReturnType<typeof bothKnown>>) =>
    rellin.post('/filing/rename', {
      names: [
        { placeId: a!.placeId, originalId: a!.originalId, name: 'b.txt' },
        { placeId: b!.placeId, originalId: b!.originalId, name: 'a.txt' },
      ],
    });
  /** What bears the two names; nothing else lies there, under whatever name. */
  const bears = (s: Scene) => {
    expect(list(at(`${s.name}/in`))).toEqual(['a.txt', 'b.txt']);
    const n = s.name.split(' ')[1];
    const [before, after] = [
      [`a ${n}`, `b ${n}`],
      [`b ${n}`, `a ${n}`],
    ];
    return { is: ['a', 'b'].map((name) => content(at(`${s.name}/in/${name}.txt`))), before, after };
  };

  it('while names are exchanged: each is under its new name, or under its old one', async () => {
    const ends = await endedEverywhere(
      bothKnown,
      (_, both) => exchange(both),
      async (s, _, acknowledged) => {
        const { is, before, after } = bears(s);
        // what was done, and told in the journal, stays done
        const isTold = (await rellin.get('/journal')).find((l) => l.act === 'rename-original' && !seen.has(l.id));
        if (isTold) seen.add(isTold.id);
        expect(is).toEqual(acknowledged || isTold ? after : before);
      },
    );
    expect(ends).toBeGreaterThan(0);
  }, 600_000);

  it('while that is undone: each is back under its old name, or still under its new one', async () => {
    const ends = await endedEverywhere(
      async (s) => exchange(await bothKnown(s)),
      () => rellin.post('/journal/undo'),
      async (s, _, acknowledged) => {
        const { is, before, after } = bears(s);
        const [line] = (await rellin.get('/journal')).filter((l) => l.act === 'rename-original');
        if (acknowledged) expect(is).toEqual(before);
        else expect(is).toEqual(line!.undoneAt ? before : after);
      },
    );
    expect(ends).toBeGreaterThan(0);
  }, 600_000);

  const bin = () => join(rellin.base, 'share/Trash');
  const bothRefs = async (s: Scene) => {
    const both = [];
    for (const name of ['a', 'b']) both.push(await known(at(`${s.name}/in/${name}.txt`)));
    return both.map((b) => ({ placeId: b!.placeId, originalId: b!.originalId }));
  };
  /** Which of the two lie in the bin and which where they were: each once, each as it was. */
  const wherever = (s: Scene) => {
    const n = s.name.split(' ')[1];
    const texts = (folder: string) =>
      list(folder)
        .map((name) => readFileSync(join(folder, name), 'utf8'))
        .filter((text) => ['a', 'b'].some((x) => text === `${x} ${n}`))
        .sort();
    const [binned, there] = [texts(join(bin(), 'files')), texts(at(`${s.name}/in`))];
    expect([...binned, ...there].sort()).toEqual([`a ${n}`, `b ${n}`]);
    // no info file without its thing, and none the other way round
    expect(list(join(bin(), 'info'))).toEqual(list(join(bin(), 'files')).map((name) => `${name}.trashinfo`));
    return binned.length;
  };
  const inBin = async (s: Scene) => {
    const lie = (await rellin.get('/bin/originals')).flatMap((b) => b.originals);
    return lie.filter((d) => d.path?.startsWith(at(s.name))).map((d) => d.id);
  };

  it('while originals are deleted: both are in the bin, or both where they were', async () => {
    const ends = await endedEverywhere(
      bothRefs,
      (_, originals) => rellin.post('/bin/originals', { originals }),
      async (s, _, acknowledged) => {
        const binned = wherever(s);
        expect([0, 2]).toContain(binned);
        if (acknowledged) expect(binned).toBe(2);
      },
    );
    expect(ends).toBeGreaterThan(0);
  }, 600_000);

  it('while that is undone, and while they are restored: both are back, or both in the bin', async () => {
    for (const bringBack of [
      () => rellin.post('/journal/undo'),
      async (s: Scene) => rellin.post('/bin/originals/restore', { ids: await inBin(s) }),
    ]) {
      const ends = await endedEverywhere(
        async (s) => rellin.post('/bin/originals', { originals: await bothRefs(s) }),
        bringBack,
        async (s, _, acknowledged) => {
          const binned = wherever(s);
          expect([0, 2]).toContain(binned);
          if (acknowledged) expect(binned).toBe(0);
        },
      );
      expect(ends).toBeGreaterThan(0);
    }
  }, 600_000);

  /** One into a folder with a link left in its place, one into the bin. */
  const sweep = async (s: Scene) => {
    const [a, b] = await bothRefs(s);
    const [swept, into] = s.shortcuts.map((x) => ({ placeId: x.placeId!, originalId: x.originalId! }));
    return rellin.post('/sweeps/run', {
      folders: [swept!],
      at: Date.now(),
      moves: [
        { to: 'folder', ...into!, things: [{ placeId: a!.placeId, ids: [a!.originalId] }] },
        { to: 'bin', things: [{ placeId: b!.placeId, ids: [b!.originalId] }] },
      ],
      linkDays: 3,
      search: 'saved',
    });
  };
  /** Whether the two are swept, or lie where they were; nothing between. */
  const isSwept = (s: Scene): boolean => {
    const n = s.name.split(' ')[1];
    const moved = content(at(`${s.name}/out/a (2).txt`)) === `a ${n}`;
    const link = at(`${s.name}/in/a.txt`);
    expect(lstatSync(link).isSymbolicLink()).toBe(moved);
    expect(readFileSync(link, 'utf8')).toBe(`a ${n}`);
    expect(content(at(`${s.name}/out/a.txt`))).toBe(`stood there ${n}`);
    expect(list(at(`${s.name}/in`))).toEqual(moved ? ['a.txt'] : ['a.txt', 'b.txt']);
    const texts = list(join(bin(), 'files')).map((name) => readFileSync(join(bin(), 'files', name), 'utf8'));
    expect(texts.includes(`b ${n}`)).toBe(moved);
    expect(list(join(bin(), 'info'))).toEqual(list(join(bin(), 'files')).map((name) => `${name}.trashinfo`));
    return moved;
  };
  /** The log says so, and what it says is undone: the link goes with it. */
  const takenBack = async (s: Scene, swept: boolean) => {
    const log = await rellin.get('/sweeps/log');
    const open = log.filter((r) => r.undoneAt === null);
    expect(open).toHaveLength(swept ? 1 : 0);
    for (const { journalId } of open) await rellin.post(`/journal/${journalId!}/undo`);
    expect(isSwept(s)).toBe(false);
    expect(await rellin.get('/searches')).toEqual([]);
  };

  it('while a folder is swept, and while that is undone: all of it went, or nothing did', async () => {
    const ends = await endedEverywhere(bothRefs, sweep, async (s, _, acknowledged) => {
      const swept = isSwept(s);
      if (acknowledged) expect(swept).toBe(true);
      await takenBack(s, swept);
    });
    expect(ends).toBeGreaterThan(0);
    const undone = await endedEverywhere(
      sweep,
      () => rellin.post('/journal/undo'),
      async (s, _, acknowledged) => {
        const swept = isSwept(s);
        if (acknowledged) expect(swept).toBe(false);
        await takenBack(s, swept);
      },
    );
    expect(undone).toBeGreaterThan(0);
  }, 600_000);
});

/** A scene of which the collection lies published, in step. */
async function publishedScene() {
  const s = await scene();
  const folder = at(`${s.name}/${s.name}`);
  await rellin.post('/aliases/publications', {
    source: 'collection',
    sourceId: s.collection.id,
    folder: at(s.name),
  });
  await until(
    () => list(folder),
    (names) => names.length === 2,
  );
  return { ...s, folder };
}

describe('other trouble under links', () => {
  it('a clock set back: what is done meanwhile holds, is undone and done again in its order, and outlives an end', async () => {
    const s = await publishedScene();
    const [inside] = s.shortcuts;
    await rellin.open(inside!.id);
    const before = (await rellin.shortcut(inside!.id)).weight;
    writeFileSync(`${faults}-clock`, String(-40 * 86_400_000));
    renameSync(at(`${s.name}/in`), at(`${s.name}/in, moved`));
    await until(
      () => rellin.shortcut(inside!.id),
      (now) => now.state === 'followed',
    );
    await until(
      () => list(s.folder).map((name) => resolve(s.folder, readlinkSync(join(s.folder, name)))),
      (targets) => targets.includes(at(`${s.name}/in, moved`)),
    );
    await rellin.open(inside!.id);
    expect((await rellin.shortcut(inside!.id)).weight).toBeGreaterThan(before);
    const rename = (name: string) => rellin.call('PATCH', `/shortcuts/${inside!.id}`, { name });
    await rename('first name');
    await rename('second name');
    await rellin.post('/journal/undo');
    await rellin.post('/journal/undo');
    await rellin.post('/journal/redo');
    expect((await rellin.shortcut(inside!.id)).name).toBe('first name');
    await rellin.kill();
    await rellin.start();
    await until(
      () => list(s.folder),
      (names) => names.includes('first name'),
    );
    rmSync(`${faults}-clock`);
    expect((await rellin.refusal(rename('').then(() => undefined))).kind).toBe('not-valid');
    await rellin.post('/journal/redo');
    expect((await rellin.shortcut(inside!.id)).name).toBe('second name');
    await until(
      () => list(s.folder),
      (names) => names.includes('second name'),
    );
    await agree();
  });

  it('permission withdrawn: said, nothing half written, and written once it is given back', async () => {
    const s = await publishedScene();
    chmodSync(s.folder, 0o555);
    await rellin.call('PATCH', `/shortcuts/${s.shortcuts[0]!.id}`, { name: 'withheld' });
    const refused = await until(publications, (all) => all.some((p) => JSON.stringify(p).includes('does not let')));
    expect(JSON.stringify(refused)).toContain('the system does not let Rellin write there');
    expect(list(s.folder)).toEqual([`in ${round}`, `out ${round}`]);
    chmodSync(s.folder, 0o755);
    await until(
      () => list(s.folder),
      (names) => names.join() === `out ${round},withheld`,
    );
    await agree();
  });

  it('more changes at once than the system tells of: followed all the same, links as well', async () => {
    const s = await publishedScene();
    // the server is still while the kernel's queue runs over
    rellin.signal('SIGSTOP');
    for (let i = 0; i < 17_000; i++) writeFileSync(at(`${s.name}/out/${i}.txt`), '');
    renameSync(at(`${s.name}/in`), at(`${s.name}/in, unheard`));
    rmSync(join(s.folder, `out ${round}`));
    rellin.signal('SIGCONT');
    const now = await until(
      () => rellin.shortcut(s.shortcuts[0]!.id),
      (shortcut) => shortcut.state === 'followed',
      60_000,
    );
    expect(now.location).toBe(at(`${s.name}/in, unheard`));
    await until(
      () => list(s.folder).map((name) => resolve(s.folder, readlinkSync(join(s.folder, name)))),
      (targets) => targets.includes(at(`${s.name}/in, unheard`)),
    );
    await until(
      () => rellin.get('/collections'),
      (all) => all.find((c) => c.id === s.collection.id)!.count === 1,
    );
    await agree();
  }, 90_000);
});

describe('a disk that does not take it', () => {
  (CAN_MOUNT ? it : it.skip)(
    'full, or only to be read: said, nothing half written, and written once it can be',
    async () => {
      const shortcut = await rellin.post('/shortcuts', {
        url: 'https://example.org/tides',
        name: 'Tides',
      });
      // not a byte is left
      spawnSync('dd', ['if=/dev/zero', `of=${join(drive, 'fill')}`, 'bs=1k'], { stdio: 'ignore' });
      const full = await rellin.post('/aliases', { shortcutId: shortcut.id, folder: drive });
      expect(full).toMatchObject({ state: 'failed', reason: 'It could not be written: the disk is full.' });
      expect(list(drive)).toEqual(['fill', 'label.txt']);
      rmSync(join(drive, 'fill'));
      const aliases = () => rellin.get('/aliases');
      await until(aliases, (all) => all.some((a) => a.id === full.id && a.state === 'there'));
      execFileSync('mount', ['-o', 'remount,ro', drive]);
      await rellin.call('PATCH', `/shortcuts/${shortcut.id}`, { name: 'Tide tables' });
      await rellin.call('DELETE', `/aliases/${full.id}`);
      expect(existsSync(full.path)).toBe(true);
      execFileSync('mount', ['-o', 'remount,rw', drive]);
      writeFileSync(join(drive, 'mark.txt'), '');
      await until(
        () => list(drive),
        (names) => names.join() === 'label.txt,mark.txt',
      );
    },
  );
});
