/** Filing on a real disk: moved and copied, clashes, undo, trouble of every kind, and what a crash leaves. */
import { execFileSync } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  linkSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { createHash, randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { FilingRequest, FilingView } from '@rellin/contract';
import type { ClashChoice } from '@rellin/core/filing';
import { seeded } from '@rellin/core/random';
import { Refused, Rellin, until } from './testing/harness.js';
import { CAN_MOUNT, OTHER_FILE_SYSTEM } from './testing/mounts.js';

let rellin: Rellin;
let drive: string;
const DRIVE_BYTES = 2 << 20;

beforeAll(async () => {
  rellin = await Rellin.make({ places: ['place', 'drive'] }, (r) => {
    drive = join(r.base, 'drive');
    // a file system of its own, small enough to fill
    if (CAN_MOUNT) execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${DRIVE_BYTES}`, 'rellin-test', drive]);
    writeFileSync(join(drive, 'label.txt'), 'the drive');
  });
});
afterAll(async () => {
  await rellin.stop();
  if (CAN_MOUNT) execFileSync('umount', [drive]);
  await rellin.remove();
});

const undo = () => rellin.post('/journal/undo');
const redo = () => rellin.post('/journal/redo');
let n = 0;

/** A fresh folder with these files in it, known to the index. */
async function folder(files: Record<string, string>, root = rellin.place): Promise<string> {
  const path = join(root, `work ${++n}`);
  mkdirSync(path, { recursive: true });
  for (const [name, text] of Object.entries(files)) {
    mkdirSync(join(path, name, '..'), { recursive: true });
    writeFileSync(join(path, name), text);
  }
  await located(path);
  return path;
}
async function located(path: string) {
  const found = await until(
    () => rellin.post('/originals/locate', { path }).catch(() => undefined),
    (l) => l !== undefined,
  );
  return { placeId: found!.placeId, originalId: found!.originalId };
}
interface More {
  how?: 'move' | 'copy';
  newFolder?: string;
  clash?: ClashChoice;
}
async function file(paths: string[], into: string, { how = 'move', newFolder, clash }: More = {}): Promise<FilingView> {
  return rellin.post('/filing', {
    originals: await Promise.all(paths.map(located)),
    into: { ...(await located(into)), newFolder },
    how,
    clash,
  });
}
/** Everything below a folder: paths, types, contents, times. */
function picture(root: string): Record<string, string> {
  const out: Record<string, string> = {};
  const walk = (path: string, name: string) => {
    for (const child of readdirSync(path).sort()) {
      const full = join(path, child);
      const s = lstatSync(full);
      const key = `${name}${child}`;
      if (s.isDirectory()) walk(full, `${key}/`);
      else
        out[key] = `${Math.round(s.mtimeMs)} ${s.isSymbolicLink() ? 'link' : readFileSync(full, 'utf8').slice(0, 40)}`;
    }
  };
  walk(root, '');
  return out;
}

describe('a new folder', () => {
  const make = async (into: string, newFolder: string) =>
    rellin.post('/filing/folder', { ...(await located(into)), newFolder });
  it('is made, known at once, undone while it is empty, and made again', async () => {
    const into = await folder({});
    const { path } = await make(into, ' Tides 2026 ');
    expect(path).toBe(join(into, 'Tides 2026'));
    expect(existsSync(path)).toBe(true);
    expect((await rellin.post('/originals/locate', { path })).type).toBe('folder');
    await undo();
    expect(existsSync(path)).toBe(false);
    await redo();
    expect(existsSync(path)).toBe(true);
    // what somebody put into it stays where it is
    writeFileSync(join(path, 'kept.txt'), 'kept');
    await undo();
    expect(readFileSync(join(path, 'kept.txt'), 'utf8')).toBe('kept');
  });
  it('is refused without a name, with one that is taken, that climbs, or in what is no folder', async () => {
    const into = await folder({ 'there.txt': 'x', 'taken/in it.txt': 'x' });
    for (const name of ['', '   ', 'taken', 'there.txt', '..', 'a/b', '.'])
      await expect(make(into, name)).rejects.toBeInstanceOf(Refused);
    await expect(make(join(into, 'there.txt'), 'new')).rejects.toBeInstanceOf(Refused);
    expect(readdirSync(into).sort()).toEqual(['taken', 'there.txt']);
  });
});

describe('filing into a folder', () => {
  it('moves, says so in the journal, and undo and redo put every file exactly where it was', async () => {
    const from = await folder({ 'a.csv': '1', 'b.csv': '2', 'trays/x.txt': 'x' });
    const into = await folder({ 'there.txt': 'stays' });
    utimesSync(join(from, 'a.csv'), 1_000_000, 1_000_000);
    const before = [picture(from), picture(into)];
    expect(await file([join(from, 'a.csv'), join(from, 'trays')], into)).toMatchObject({ state: 'done', filed: 2 });
    expect(Object.keys(picture(into)).sort()).toEqual(['a.csv', 'there.txt', 'trays/x.txt']);
    expect(Object.keys(picture(from))).toEqual(['b.csv']);
    const after = [picture(from), picture(into)];
    const [line] = await rellin.get('/journal', { limit: 1 });
    expect(line!.summary).toMatch(/^Moved 2 things into “work \d+”$/);
    await undo();
    expect([picture(from), picture(into)]).toEqual(before);
    await redo();
    expect([picture(from), picture(into)]).toEqual(after);
    await undo();
  });

  it('copies with the times, the original untouched; undo takes only the copy', async () => {
    const from = await folder({ 'a.csv': 'content', 'sub/b.txt': 'deep' });
    symlinkSync('a.csv', join(from, 'sub/link'));
    const into = await folder({});
    const before = picture(from);
    await file([join(from, 'a.csv'), join(from, 'sub')], into, { how: 'copy' });
    expect(picture(into)).toEqual(before);
    expect(picture(from)).toEqual(before);
    await undo();
    expect([picture(from), picture(into)]).toEqual([before, {}]);
  });

  it('a shortcut follows what was moved, and comes back with the undo', async () => {
    const from = await folder({ 'known.csv': 'k' });
    const into = await folder({});
    const made = await rellin.add(join(from, 'known.csv'));
    await file([join(from, 'known.csv')], into);
    const at = (path: string) =>
      until(
        () => rellin.shortcut(made.id),
        (s) => s.location === path && s.state !== 'lost',
      );
    const moved = await at(join(into, 'known.csv'));
    expect(moved.state).toBe('followed');
    await undo();
    // as it was before, without a word about where it came back from
    expect(await at(join(from, 'known.csv'))).toMatchObject({ state: 'ready', stateReason: '', followedFrom: null });
  });

  it('through a shortcut to the folder, and a shortcut to the file', async () => {
    const from = await folder({ 'by shortcut.txt': 's' });
    const into = await folder({});
    const target = await rellin.add(into);
    const source = await rellin.add(join(from, 'by shortcut.txt'));
    await rellin.post('/filing', { shortcutIds: [source.id], into: { shortcutId: target.id }, how: 'move' });
    expect(Object.keys(picture(into))).toEqual(['by shortcut.txt']);
    await undo();
  });

  it('makes a folder on the way, and undo takes it away again', async () => {
    const from = await folder({ 'a.txt': 'a' });
    const into = await folder({});
    await file([join(from, 'a.txt')], into, { newFolder: 'For the warden' });
    expect(Object.keys(picture(into))).toEqual(['For the warden/a.txt']);
    await undo();
    expect(readdirSync(into)).toEqual([]);
    expect(readdirSync(from)).toEqual(['a.txt']);
  });
});

describe('names that are taken', () => {
  const clash = async (choice?: ClashChoice) => {
    const from = await folder({ 'log.csv': 'new', 'free.csv': 'f' });
    const into = await folder({ 'log.csv': 'old' });
    const view = await file([join(from, 'log.csv'), join(from, 'free.csv')], into, { clash: choice });
    return { from, into, view };
  };
  const texts = (root: string) =>
    Object.fromEntries(
      readdirSync(root)
        .filter((x) => !x.startsWith('.'))
        .map((x) => [x, readFileSync(join(root, x), 'utf8')]),
    );

  it('are asked about, with nothing done yet', async () => {
    const { from, into, view } = await clash();
    expect(view).toMatchObject({
      state: 'clashes',
      total: 1,
      clashes: [{ name: 'log.csv', there: { size: 3 }, coming: { size: 3 } }],
    });
    expect([texts(from), texts(into)]).toEqual([{ 'log.csv': 'new', 'free.csv': 'f' }, { 'log.csv': 'old' }]);
  });

  it.each([
    ['keep-both', {}, { 'log.csv': 'old', 'log (2).csv': 'new', 'free.csv': 'f' }],
    ['replace', {}, { 'log.csv': 'new', 'free.csv': 'f' }],
    ['skip', { 'log.csv': 'new' }, { 'log.csv': 'old', 'free.csv': 'f' }],
  ])('%s, and undo brings both back whole', async (choice, left, there) => {
    const { from, into } = await clash(choice as ClashChoice);
    expect([texts(from), texts(into)]).toEqual([left, there]);
    await undo();
    expect([texts(from), texts(into)]).toEqual([{ 'log.csv': 'new', 'free.csv': 'f' }, { 'log.csv': 'old' }]);
    expect(readdirSync(into)).toEqual(['log.csv']);
  });

  it('a thousand of them at once are all kept', async () => {
    const many = Object.fromEntries(Array.from({ length: 1000 }, (_, i) => [`card ${i}.txt`, `new ${i}`]));
    const from = await folder(many);
    const into = await folder(Object.fromEntries(Object.keys(many).map((k) => [k, 'old'])));
    await located(join(from, 'card 999.txt'));
    const asked = await file(
      Object.keys(many).map((k) => join(from, k)),
      into,
    );
    expect(asked).toMatchObject({ state: 'clashes', total: 1000 });
    expect(
      await file(
        Object.keys(many).map((k) => join(from, k)),
        into,
        { clash: 'keep-both' },
      ),
    ).toMatchObject({ filed: 1000 });
    expect(readdirSync(into)).toHaveLength(2000);
    expect(readFileSync(join(into, 'card 7 (2).txt'), 'utf8')).toBe('new 7');
    await undo();
    expect([readdirSync(from).length, readdirSync(into).length]).toEqual([1000, 1000]);
  });
});

describe('bytes from outside', () => {
  const upload = async (into: string, name: string, bytes: Buffer | string, clash = '') => {
    const { placeId, originalId } = await located(into);
    const query = new URLSearchParams({
      name,
      placeId: String(placeId),
      originalId: String(originalId),
      ...(clash && { clash }),
    });
    const answer = await fetch(`${rellin.address}/api/filing/upload?${query.toString()}`, {
      method: 'POST',
      headers: { authorization: `Bearer ${rellin.token}`, 'content-type': 'application/octet-stream' },
      body: typeof bytes === 'string' ? bytes : new Uint8Array(bytes),
    });
    return (await answer.json()) as FilingView & { type?: string };
  };

  it('become a file, whole or not at all; clashes are asked about; undo takes it away', async () => {
    const into = await folder({ 'photo.png': 'old' });
    const bytes = Buffer.alloc(3_000_000, 7);
    expect(await upload(into, 'sound.wav', bytes)).toMatchObject({ state: 'done', filed: 1 });
    const digest = (path: string) => createHash('sha256').update(readFileSync(path)).digest('hex');
    expect(digest(join(into, 'sound.wav'))).toBe(createHash('sha256').update(bytes).digest('hex'));
    expect(await upload(into, 'photo.png', 'new')).toMatchObject({ state: 'clashes' });
    expect(await upload(into, 'photo.png', 'new', 'keep-both')).toMatchObject({ state: 'done' });
    expect(readdirSync(into).sort()).toEqual(['photo (2).png', 'photo.png', 'sound.wav']);
    await undo();
    await undo();
    expect(readdirSync(into)).toEqual(['photo.png']);
  });

  it.each(['../out.txt', 'a/b', '..', ''])('named “%s” are refused', async (name) => {
    const into = await folder({});
    expect((await upload(into, name, 'x')).type).toBe('urn:rellin:problem:not-valid');
    expect(readdirSync(into)).toEqual([]);
  });
});

describe('trouble', () => {
  const refused = async (work: Promise<unknown>) => (await rellin.refusal(work)).kind;

  it.each<[string, () => Promise<unknown>, string]>([
    [
      'a folder into itself',
      async () => {
        const f = await folder({ 'in/x': '1' });
        return file([join(f, 'in')], join(f, 'in'));
      },
      'conflict',
    ],
    [
      'a folder into one below it',
      async () => {
        const f = await folder({ 'in/deep/x': '1' });
        return file([join(f, 'in')], join(f, 'in/deep'));
      },
      'conflict',
    ],
    [
      'where it lies already',
      async () => {
        const f = await folder({ x: '1' });
        return file([join(f, 'x')], f);
      },
      'conflict',
    ],
    [
      'into a file',
      async () => {
        const f = await folder({ x: '1', y: '2' });
        return file([join(f, 'x')], join(f, 'y'));
      },
      'not-a-folder',
    ],
    [
      'nothing',
      async () => rellin.post('/filing', { into: await located(await folder({})), how: 'move' }),
      'not-valid',
    ],
    [
      'a new folder with a slash',
      async () => {
        const f = await folder({ x: '1' });
        return file([join(f, 'x')], await folder({}), { newFolder: 'a/b' });
      },
      'not-valid',
    ],
  ])('%s is refused', async (_name, work, kind) => {
    expect(await refused(work())).toBe(kind);
  });

  it('a file that vanished meanwhile: everything is put back', async () => {
    const from = await folder({ 'a.txt': 'a', 'z.txt': 'z' });
    const into = await folder({});
    const originals = await Promise.all([join(from, 'a.txt'), join(from, 'z.txt')].map(located));
    rmSync(join(from, 'z.txt'));
    const target = await located(into);
    expect(await refused(rellin.post('/filing', { originals, into: target, how: 'move' }))).toBe('not-found');
    expect([readdirSync(from), readdirSync(into)]).toEqual([['a.txt'], []]);
  });

  it('undo refuses where something else stands at the old name, and loses neither', async () => {
    const from = await folder({ 'a.txt': 'filed', 'b.txt': 'b' });
    const into = await folder({});
    await file([join(from, 'a.txt'), join(from, 'b.txt')], into);
    writeFileSync(join(from, 'a.txt'), 'another');
    expect(await refused(undo())).toBe('changed-since');
    expect(readFileSync(join(from, 'a.txt'), 'utf8')).toBe('another');
    expect(picture(into)).toMatchObject({ 'a.txt': expect.stringContaining('filed'), 'b.txt': expect.anything() });
    rmSync(join(from, 'a.txt'));
    await undo();
    expect(readFileSync(join(from, 'a.txt'), 'utf8')).toBe('filed');
  });

  it('undo of a copy refuses where the copy was edited since', async () => {
    const from = await folder({ 'a.txt': 'a' });
    const into = await folder({});
    await file([join(from, 'a.txt')], into, { how: 'copy' });
    writeFileSync(join(into, 'a.txt'), 'edited');
    expect(await refused(undo())).toBe('changed-since');
    expect(readFileSync(join(into, 'a.txt'), 'utf8')).toBe('edited');
    writeFileSync(join(into, 'a.txt'), 'a');
    await undo();
  });

  it('a file with two names keeps both, wherever it goes', async () => {
    const from = await folder({ 'a.txt': 'a' });
    linkSync(join(from, 'a.txt'), join(from, 'also.txt'));
    const into = await folder({});
    await file([join(from, 'a.txt')], into);
    expect(lstatSync(join(into, 'a.txt')).ino).toBe(lstatSync(join(from, 'also.txt')).ino);
    await undo();
    expect(readdirSync(from).sort()).toEqual(['a.txt', 'also.txt']);
  });

  // the superuser may write anywhere; there the read-only file system below stands for it
  (process.getuid?.() === 0 ? it.skip : it)('a folder that may not be written is said so', async () => {
    const from = await folder({ 'a.txt': 'a' });
    const into = await folder({});
    chmodSync(into, 0o555);
    expect(await refused(file([join(from, 'a.txt')], into))).toBe('no-access');
    chmodSync(into, 0o755);
  });
});

describe('across file systems', () => {
  /** Another file system at its path for a while, as where a drive was pulled: empty, and nothing can be written. */
  async function unplugged(meanwhile: () => Promise<void>): Promise<void> {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'ro,size=4k', 'rellin-test', drive]);
    try {
      await meanwhile();
    } finally {
      execFileSync('umount', [drive]);
    }
  }
  const withMount = CAN_MOUNT ? it : it.skip;
  // where nothing may be mounted, between two that are there already
  const other = CAN_MOUNT ? undefined : OTHER_FILE_SYSTEM;
  let apart: string;
  beforeAll(async () => {
    apart = other ? mkdtempSync(join(other, 'rellin-')) : drive;
    if (other) await rellin.post('/places', { root: apart, name: 'apart' });
  });
  afterAll(() => {
    if (other) rmSync(apart, { recursive: true, force: true });
  });

  (CAN_MOUNT || other ? it : it.skip)('copies, verifies, then removes; undo brings it all back', async () => {
    const from = await folder({ 'a.csv': 'a'.repeat(5000), 'sub/b.txt': 'b' });
    const into = await folder({}, apart);
    const before = picture(from);
    await file([join(from, 'a.csv'), join(from, 'sub')], into);
    expect([picture(from), picture(into)]).toEqual([{}, before]);
    expect(lstatSync(into).dev).not.toBe(lstatSync(from).dev);
    await undo();
    expect([picture(from), picture(into)]).toEqual([before, {}]);
    await redo();
    await undo();
  });

  withMount('a drive that fills half-way: nothing is half there, everything is put back', async () => {
    const from = await folder({ 'small.bin': 'x'.repeat(200_000), 'large.bin': 'y'.repeat(DRIVE_BYTES) });
    const into = await folder({}, drive);
    const before = picture(from);
    const full = await rellin.refusal(file([join(from, 'small.bin'), join(from, 'large.bin')], into));
    expect([full.kind, full.problem.status]).toEqual(['no-room', 507]);
    expect([picture(from), readdirSync(into)]).toEqual([before, []]);
  });

  withMount('onto a drive that is away: refused, nothing changed', async () => {
    const from = await folder({ 'a.txt': 'a' });
    const into = await folder({}, drive);
    const request: FilingRequest = {
      originals: [await located(join(from, 'a.txt'))],
      into: await located(into),
      how: 'move',
    };
    await unplugged(async () => {
      await until(
        () => rellin.get('/places'),
        (places) => places[1]!.state === 'away',
      );
      expect((await rellin.refusal(rellin.post('/filing', request))).kind).toBe('original-away');
      expect(readdirSync(from)).toEqual(['a.txt']);
    });
  });

  withMount(
    'a drive pulled half-way: every original stays, and what was begun is cleared when it is here again',
    async () => {
      const names = Array.from({ length: 400 }, (_, i) => `f${i}.txt`);
      const from = await folder(Object.fromEntries(names.map((name) => [name, `text of ${name}`])));
      const into = await folder({ 'own.txt': 'was here before' }, drive);
      const before = picture(from);
      const originals = await Promise.all(names.map((name) => located(join(from, name))));
      const target = await located(into);
      const told = rellin.refusal(rellin.post('/filing', { originals, into: target, how: 'move' }));
      await until(
        () => readdirSync(into).length,
        (there) => there > 20,
      );
      await unplugged(async () => {
        const refused = await told;
        expect(refused.kind).toBe('original-away');
        expect(refused.problem.detail).toContain('Everything is still where it was');
        expect(picture(from)).toEqual(before);
      });
      await until(
        () => readdirSync(into),
        (there) => there.length === 1,
      );
      expect(picture(from)).toEqual(before);
      await until(
        () => rellin.sql(`SELECT * FROM filing_busy`),
        (busy) => busy.length === 0,
      );
    },
  );

  withMount('a drive that may only be read', async () => {
    const from = await folder({ 'a.txt': 'a' });
    const into = await folder({}, drive);
    execFileSync('mount', ['-o', 'remount,ro', drive]);
    try {
      expect((await rellin.refusal(file([join(from, 'a.txt')], into))).kind).toBe('no-access');
    } finally {
      execFileSync('mount', ['-o', 'remount,rw', drive]);
    }
    expect(readdirSync(from)).toEqual(['a.txt']);
  });
});

describe('what was replaced', () => {
  it('waits hidden for 30 days, then goes; its filing can no longer be undone, and nothing else is touched', async () => {
    const from = await folder({ 'a.txt': 'new' });
    const into = await folder({ 'a.txt': 'old', 'b.txt': 'b' });
    await file([join(from, 'a.txt')], into, { clash: 'replace' });
    const hidden = () => readdirSync(into).filter((name) => name.startsWith('.rellin-'));
    expect(hidden().length).toBe(1);
    await rellin.stop();
    await rellin.sql(`UPDATE filing SET at = at - interval '29 days'`);
    await rellin.start();
    expect(hidden().length).toBe(1);
    await rellin.stop();
    await rellin.sql(`UPDATE filing SET at = at - interval '2 days'`);
    await rellin.start();
    expect(hidden()).toEqual([]);
    expect(picture(into)).toMatchObject({ 'a.txt': expect.stringContaining('new'), 'b.txt': expect.anything() });
    expect((await rellin.refusal(undo())).kind).toBe('changed-since');
  });
});

describe('after a crash', () => {
  /** Files ready to be filed, and the rows that an intent would have written. */
  async function intent(state: 'intent' | 'done') {
    const from = await folder({ 'a.txt': 'a', 'b.txt': 'b', 'c.txt': 'c' });
    const into = await folder({ 'b.txt': 'old b' });
    const id = randomUUID();
    const item = (name: string) => ({
      from: join(from, name),
      to: join(into, name),
      stash: name === 'b.txt' ? join(into, '.rellin-replaced-x', name) : null,
      way: 'rename',
      part: join(into, `.rellin-part-${name}`),
    });
    const items = ['a.txt', 'b.txt', 'c.txt'].map(item);
    return { from, into, id, state, items };
  }
  /** The steps that a filing takes on the disk, one by one. */
  const steps = (from: string, into: string): (() => void)[] => [
    () => linkSync(join(from, 'a.txt'), join(into, 'a.txt')),
    () => rmSync(join(from, 'a.txt')),
    () => mkdirSync(join(into, '.rellin-replaced-x')),
    () => renameSync(join(into, 'b.txt'), join(into, '.rellin-replaced-x/b.txt')),
    () => linkSync(join(from, 'b.txt'), join(into, 'b.txt')),
    () => rmSync(join(from, 'b.txt')),
    () => renameSync(join(from, 'c.txt'), join(into, 'c.txt')),
  ];

  it('at every step: an intent is undone, a done act is finished, rows and disk agree', async () => {
    const cases: Awaited<ReturnType<typeof intent>>[] = [];
    for (const state of ['intent', 'done'] as const)
      for (let upTo = 0; upTo <= 7; upTo++) {
        const c = await intent(state);
        for (const step of steps(c.from, c.into).slice(0, upTo)) step();
        cases.push(c);
      }
    await rellin.kill();
    for (const c of cases) {
      await rellin.sql(`INSERT INTO filing (id, state, items) VALUES ($1, $2, $3)`, [
        c.id,
        c.state,
        JSON.stringify(c.items),
      ]);
      await rellin.sql(`INSERT INTO filing_busy VALUES ($1)`, [c.id]);
    }
    await rellin.start();
    for (const [i, { from, into, state }] of cases.entries()) {
      const text = (path: string) => (existsSync(path) ? readFileSync(path, 'utf8') : null);
      const seen = {
        case: `${state} after ${i % 8} steps`,
        from: readdirSync(from).sort(),
        into: readdirSync(into)
          .filter((x) => !x.startsWith('.'))
          .sort(),
        b: text(join(into, 'b.txt')),
      };
      expect(seen).toEqual(
        state === 'intent'
          ? { case: seen.case, from: ['a.txt', 'b.txt', 'c.txt'], into: ['b.txt'], b: 'old b' }
          : { case: seen.case, from: [], into: ['a.txt', 'b.txt', 'c.txt'], b: 'b' },
      );
      expect(readdirSync(into).filter((x) => x.startsWith('.rellin-part'))).toEqual([]);
    }
    expect(await rellin.sql(`SELECT * FROM filing_busy`)).toEqual([]);
    expect(
      await rellin.sql(`SELECT count(*)::int AS n FROM filing WHERE state = 'intent' AND id = ANY($1)`, [
        cases.map((c) => c.id),
      ]),
    ).toEqual([{ n: 0 }]);
  });

  it('kill -9 in the middle of real filings loses no file and leaves none in two places', async () => {
    const random = seeded(909);
    const names = Array.from({ length: 60 }, (_, i) => `f${i}.txt`);
    for (let round = 0; round < 2; round++) {
      const from = await folder(Object.fromEntries(names.map((name) => [name, `text of ${name}`])));
      const into = await folder({});
      const originals = await Promise.all(names.map((name) => located(join(from, name))));
      const target = await located(into);
      const acknowledged = rellin.post('/filing', { originals, into: target, how: 'move' }).then(
        () => true,
        () => false,
      );
      await until(
        () => readdirSync(into).length,
        (there) => there >= random.int(1, 40),
      );
      await rellin.kill();
      const told = await acknowledged;
      await rellin.start();
      const [left, there] = [readdirSync(from).sort(), readdirSync(into).sort()];
      expect([...left, ...there].sort()).toEqual([...names].sort());
      if (told) expect(there).toEqual([...names].sort());
      // all or nothing
      expect([0, names.length]).toContain(there.length);
    }
  });
});
