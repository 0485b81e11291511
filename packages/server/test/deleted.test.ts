/** Deleted originals: the bins of the disk by the Trash specification 1.0, theirs and ours. */
import { execFileSync } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  closeSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  renameSync,
  rmSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from '@jest/globals';
import type { DeletedOriginal } from '@rellin/contract';
import { Rellin, until } from './testing/harness.js';
import { CAN_MOUNT } from './testing/mounts.js';

let rellin: Rellin | undefined;
const mounted: string[] = [];
afterEach(async () => {
  await rellin?.stop();
  for (const folder of mounted.splice(0)) execFileSync('umount', ['--lazy', folder]);
  await rellin?.remove();
  rellin = undefined;
});

const home = () => join(rellin!.base, 'share/Trash');
const at = (path: string) => join(rellin!.place, path);
const list = (path: string) => (existsSync(path) ? readdirSync(path).sort() : []);
const refOf = async (path: string) => {
  const { placeId, originalId } = await until(
    () => rellin!.post('/originals/locate', { path }).catch(() => undefined),
    Boolean,
  ).then((r) => r!);
  return { placeId, originalId };
};
const remove = async (...paths: string[]) =>
  rellin!.post('/bin/originals', { originals: await Promise.all(paths.map(refOf)) });
const deleted = async (): Promise<DeletedOriginal[]> =>
  (await rellin!.get('/bin/originals')).flatMap((bin) => bin.originals);
const one = async (name: string) => (await deleted()).find((d) => d.name === name)!;
const restore = async (names: string[], more = {}) =>
  rellin!.post('/bin/originals/restore', {
    ids: await Promise.all(names.map(async (n) => (await one(n)).id)),
    ...more,
  });
/** Those of these names, or all. */
const expunge = async (...names: string[]) => {
  const ids = (await deleted()).filter((d) => names.length === 0 || names.includes(d.name)).map((d) => d.id);
  return rellin!.post('/bin/originals/expunge', { ids });
};
const volume = (name: string, options = 'size=1m') => {
  const folder = join(rellin!.base, name);
  execFileSync('mount', ['-t', 'tmpfs', '-o', options, 'rellin-test', folder]);
  mounted.push(folder);
  return folder;
};

/** As GLib's own reader of key files and of escapes has it. */
const byGlib = (info: string) =>
  JSON.parse(
    execFileSync(
      '/usr/bin/python3',
      [
        '-c',
        `
import sys, json
from gi.repository import GLib
keys = GLib.KeyFile()
keys.load_from_file(sys.argv[1], GLib.KeyFileFlags.NONE)
path = GLib.Uri.unescape_bytes(keys.get_string('Trash Info', 'Path'), -1, None).get_data().hex()
print(json.dumps([path, keys.get_string('Trash Info', 'DeletionDate')]))`,
        info,
      ],
      { encoding: 'utf8' },
    ),
  ) as [string, string];

describe('deleting originals', () => {
  it('puts them into the home bin as the specification has it, and back by undo, and there again by redo', async () => {
    rellin = await Rellin.make({}, (r) => {
      r.write('letters/für dich 100%.txt', 'text');
      r.write('letters/folder/in it.txt', 'more');
      symlinkSync('für dich 100%.txt', join(r.place, 'letters/link'));
    });
    const before = lstatSync(at('letters/für dich 100%.txt'));
    const began = Date.now();
    expect(await remove(at('letters/für dich 100%.txt'), at('letters/folder'), at('letters/link'))).toEqual({
      state: 'done',
      deleted: 3,
      notes: [],
    });
    expect(list(at('letters'))).toEqual([]);
    expect(list(join(home(), 'files'))).toEqual(['folder', 'für dich 100%.txt', 'link']);
    expect(lstatSync(join(home(), 'files/für dich 100%.txt')).ino).toBe(before.ino);
    // a link is deleted as a link
    expect(readlinkSync(join(home(), 'files/link'))).toBe('für dich 100%.txt');
    const [path, time] = byGlib(join(home(), 'info/für dich 100%.txt.trashinfo'));
    expect(Buffer.from(path, 'hex').toString()).toBe(at('letters/für dich 100%.txt'));
    expect(Math.abs(new Date(time).getTime() - began)).toBeLessThan(120_000);
    expect(lstatSync(home()).mode & 0o777).toBe(0o700);
    await rellin.post('/journal/undo');
    expect(list(at('letters'))).toEqual(['folder', 'für dich 100%.txt', 'link']);
    expect(list(join(home(), 'files'))).toEqual([]);
    expect(list(join(home(), 'info'))).toEqual([]);
    await rellin.post('/journal/redo');
    expect(list(at('letters'))).toEqual([]);
    expect(list(join(home(), 'info'))).toEqual(['folder', 'für dich 100%.txt', 'link'].map((n) => `${n}.trashinfo`));
    expect((await deleted()).every((d) => d.byRellin)).toBe(true);
  });

  it('shares the bin with other programs: theirs is listed and restored, and no name is taken twice', async () => {
    rellin = await Rellin.make({}, (r) => {
      r.write('a/notes.txt', 'theirs');
      r.write('b/notes.txt', 'ours');
      r.write(`c/${'n'.repeat(255)}`, 'long');
    });
    const env = { ...process.env, XDG_DATA_HOME: join(rellin.base, 'share') };
    execFileSync('gio', ['trash', at('a/notes.txt')], { env });
    await remove(at('b/notes.txt'), at(`c/${'n'.repeat(255)}`));
    rellin.write('d/notes.txt', 'theirs too');
    execFileSync('gio', ['trash', at('d/notes.txt')], { env });
    const all = await deleted();
    expect(all.filter((d) => d.name === 'notes.txt').map((d) => [d.path, d.byRellin])).toEqual(
      expect.arrayContaining([
        [at('a/notes.txt'), false],
        [at('b/notes.txt'), true],
        [at('d/notes.txt'), false],
      ]),
    );
    expect(list(join(home(), 'files'))).toHaveLength(4);
    for (const name of list(join(home(), 'info'))) expect(Buffer.byteLength(name)).toBeLessThanOrEqual(255);
    // the long name comes back whole
    const ids = all.map((d) => d.id);
    expect(await rellin.post('/bin/originals/restore', { ids })).toMatchObject({ state: 'done', filed: 4 });
    expect(list(at('c'))).toEqual(['n'.repeat(255)]);
    expect(['a', 'b', 'd'].map((f) => readFileSync(at(`${f}/notes.txt`), 'utf8'))).toEqual([
      'theirs',
      'ours',
      'theirs too',
    ]);
    expect(list(join(home(), 'info'))).toEqual([]);
    // and that is an act as all others
    await rellin.post('/journal/undo');
    expect(list(join(home(), 'files'))).toHaveLength(4);
    expect((await deleted()).map((d) => d.path).sort()).toEqual(all.map((d) => d.path).sort());
  });

  it('restores where each lay: folders are made anew, a clash is asked about; or into another folder', async () => {
    rellin = await Rellin.make({}, (r) => {
      r.write('deep/er/still/x.txt', 'x');
      r.write('y.txt', 'y');
      r.write('z.txt', 'z');
      r.write('elsewhere/there.txt', '');
    });
    await remove(at('deep/er/still/x.txt'), at('y.txt'), at('z.txt'));
    rmSync(at('deep'), { recursive: true });
    writeFileSync(at('y.txt'), 'another');
    const asked = await restore(['x.txt', 'y.txt']);
    expect(asked).toMatchObject({ state: 'clashes', total: 1, clashes: [{ name: 'y.txt' }] });
    expect(existsSync(at('deep'))).toBe(false);
    expect(await restore(['x.txt', 'y.txt'], { clash: 'keep-both' })).toMatchObject({ state: 'done', filed: 2 });
    expect(readFileSync(at('deep/er/still/x.txt'), 'utf8')).toBe('x');
    expect([readFileSync(at('y.txt'), 'utf8'), readFileSync(at('y (2).txt'), 'utf8')]).toEqual(['another', 'y']);
    // the folders that were made go again with the undo
    await rellin.post('/journal/undo');
    expect(existsSync(at('deep'))).toBe(false);
    expect(list(join(home(), 'files'))).toEqual(['x.txt', 'y.txt', 'z.txt']);
    const into = await refOf(at('elsewhere'));
    expect(await restore(['z.txt'], { into })).toMatchObject({ state: 'done', filed: 1, into: 'elsewhere' });
    expect(list(at('elsewhere'))).toEqual(['there.txt', 'z.txt']);
  });

  it('restores a folder with what had been deleted from it before, in whatever order they were named', async () => {
    rellin = await Rellin.make({}, (r) => {
      r.write('old/sub/first.txt', '1');
      r.write('old/sub/second.txt', '2');
    });
    await remove(at('old/sub/first.txt'));
    await remove(at('old/sub'));
    rmSync(at('old'), { recursive: true });
    expect(await restore(['first.txt', 'sub'])).toMatchObject({ state: 'done', filed: 2 });
    expect(list(at('old/sub'))).toEqual(['first.txt', 'second.txt']);
    await rellin.post('/journal/undo');
    expect(existsSync(at('old'))).toBe(false);
    expect(list(join(home(), 'files'))).toEqual(['first.txt', 'sub']);
    expect(list(join(home(), 'files/sub'))).toEqual(['second.txt']);
    await rellin.post('/journal/redo');
    expect(list(at('old/sub'))).toEqual(['first.txt', 'second.txt']);
  });

  it('asks with the facts of what is there, also in several folders', async () => {
    rellin = await Rellin.make({}, (r) => {
      r.write('a/x.txt', 'x');
      r.write('b/y.txt', 'y');
    });
    await remove(at('a/x.txt'), at('b/y.txt'));
    rellin.write('a/x.txt', 'other');
    rellin.write('b/y.txt', 'another one');
    const asked = await restore(['x.txt', 'y.txt']);
    expect(asked).toMatchObject({ state: 'clashes', into: 'where they were', total: 2 });
    const sizes = asked.state === 'clashes' ? asked.clashes.map((c) => [c.name, c.there?.size, c.coming?.size]) : [];
    expect(sizes.sort()).toEqual([
      ['x.txt', 5, 1],
      ['y.txt', 11, 1],
    ]);
  });

  it('goes on where an end came while a name was taken', async () => {
    rellin = await Rellin.make({}, (r) => r.write('a.txt', 'a'));
    await remove(at('a.txt'));
    await rellin.post('/journal/undo');
    writeFileSync(join(home(), 'info/a.txt.trashinfo'), '');
    await rellin.post('/journal/redo');
    expect(list(join(home(), 'files'))).toEqual(['a.txt']);
    expect((await one('a.txt')).path).toBe(at('a.txt'));
  });

  it('leaves folders with Rellin’s own data, and one with the bin, where they are', async () => {
    rellin = await Rellin.make(
      {
        env: (r) => ({
          RELLIN_OWN: JSON.stringify([join(r.place, 'kept/own')]),
          XDG_DATA_HOME: join(r.place, 'home/share'),
        }),
      },
      (r) => {
        r.write('kept/own/secret', 's');
        r.write('home/share/x', 'x');
      },
    );
    for (const folder of ['kept', 'home']) {
      const originals = [await refOf(at(folder))];
      expect((await rellin.refusal(rellin.post('/bin/originals', { originals }))).kind).toBe('conflict');
      expect(existsSync(at(folder))).toBe(true);
    }
    const names = [{ ...(await refOf(at('kept'))), name: 'elsewhere' }];
    expect((await rellin.refusal(rellin.post('/filing/rename', { names }))).problem.detail).toContain('own data');
  });

  it('leaves a shortcut that comes back with its original', async () => {
    rellin = await Rellin.make({}, (r) => r.write('kept/log.txt', 'log'));
    const s = await rellin.add(at('kept/log.txt'), { name: 'Log' });
    await remove(at('kept/log.txt'));
    expect((await rellin.shortcut(s.id)).state).toBe('lost');
    expect((await one('log.txt')).path).toBe((await rellin.shortcut(s.id)).location);
    await restore(['log.txt']);
    await until(
      () => rellin!.shortcut(s.id),
      (now) => now.state === 'ready',
    );
  });

  it('refuses what is gone, the top of a place, and what was restored already', async () => {
    rellin = await Rellin.make({}, (r) => r.write('a.txt', 'a'));
    const ref = await refOf(at('a.txt'));
    const top = await refOf(rellin.place);
    expect((await rellin.refusal(rellin.post('/bin/originals', { originals: [top] }))).kind).toBe('not-valid');
    await rellin.post('/bin/originals', { originals: [ref] });
    const { id } = await one('a.txt');
    renameSync(join(home(), 'files/a.txt'), at('a.txt'));
    rmSync(join(home(), 'info/a.txt.trashinfo'));
    expect((await rellin.refusal(rellin.post('/bin/originals/restore', { ids: [id] }))).kind).toBe('not-found');
    // the undo finds it where it was to bring it
    await rellin.post('/journal/undo');
    expect(readFileSync(at('a.txt'), 'utf8')).toBe('a');
  });

  it('takes two names that are no UTF-8, and gives them back byte for byte', async () => {
    rellin = await Rellin.make({}, (r) => {
      mkdirSync(join(r.place, 'odd'));
      for (const byte of [0xe4, 0xff])
        writeFileSync(Buffer.concat([Buffer.from(`${join(r.place, 'odd')}/`), Buffer.from([byte])]), 'odd');
    });
    const names = () =>
      readdirSync(at('odd'), { encoding: 'buffer' })
        .map((b) => b.toString('hex'))
        .sort();
    await remove(at('odd'));
    expect(existsSync(at('odd'))).toBe(false);
    await restore(['odd']);
    expect(names()).toEqual(['e4', 'ff']);
  });
});

describe('the bin', () => {
  it('tells what each takes as du does, and keeps the sizes of folders for others', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (let i = 0; i < 20; i++) r.write(`big/${i % 3}/f${i}`, 'x'.repeat(i * 700));
      r.write('small.txt', 'y'.repeat(5000));
    });
    await remove(at('big'), at('small.txt'));
    const du = (name: string) =>
      Number(
        execFileSync('du', ['-s', '--block-size=1', join(home(), 'files', name)], { encoding: 'utf8' }).split('\t')[0],
      );
    expect((await one('big')).takes).toBe(du('big'));
    expect((await one('small.txt')).takes).toBe(du('small.txt'));
    const [size, time, name] = readFileSync(join(home(), 'directorysizes'), 'utf8').trim().split(' ');
    expect([Number(size), name]).toEqual([du('big'), 'big']);
    expect(Number(time)).toBe(Math.floor(lstatSync(join(home(), 'info/big.trashinfo')).mtimeMs / 1000));
    // what is written there is taken as true as long as the info file is the same
    writeFileSync(join(home(), 'directorysizes'), `12345 ${time} big\n`);
    expect((await one('big')).takes).toBe(12345);
    utimesSync(join(home(), 'info/big.trashinfo'), 1, 1);
    expect((await one('big')).takes).toBe(du('big'));
  });

  it('lists a thing without an info file, passes over an info file without a thing, and clears both', async () => {
    rellin = await Rellin.make({}, (r) => r.write('a.txt', ''));
    await remove(at('a.txt'));
    writeFileSync(join(home(), 'files/unknown.pdf'), '');
    writeFileSync(join(home(), 'info/gone.trashinfo'), '[Trash Info]\nPath=/gone\n');
    writeFileSync(join(home(), 'files/bad'), '');
    writeFileSync(join(home(), 'info/bad.trashinfo'), '[Trash Info]\nPath=../../up\n');
    expect((await deleted()).map((d) => [d.name, d.path === null]).sort()).toEqual([
      ['a.txt', false],
      ['bad', true],
      ['unknown.pdf', true],
    ]);
    const { id } = await one('unknown.pdf');
    expect((await rellin.refusal(rellin.post('/bin/originals/restore', { ids: [id] }))).kind).toBe('not-valid');
    // one that was written just now is of a program that is deleting something
    utimesSync(join(home(), 'info/gone.trashinfo'), 1, 1);
    writeFileSync(join(home(), 'info/coming.trashinfo'), '[Trash Info]\nPath=/coming\n');
    expect(await expunge()).toEqual({ deleted: 3, kept: [] });
    expect([list(join(home(), 'files')), list(join(home(), 'info'))]).toEqual([[], ['coming.trashinfo']]);
  });

  it('deletes for good what was listed, and not what has its name by now', async () => {
    rellin = await Rellin.make({}, (r) => r.write('a.txt', 'first'));
    await remove(at('a.txt'));
    const { id } = await one('a.txt');
    renameSync(join(home(), 'files/a.txt'), at('kept.txt'));
    writeFileSync(join(home(), 'files/a.txt'), 'second');
    expect(await rellin.post('/bin/originals/expunge', { ids: [id] })).toEqual({ deleted: 0, kept: [] });
    expect(readFileSync(join(home(), 'files/a.txt'), 'utf8')).toBe('second');
  });

  it('deletes one or all for good, and leaves what a program has open', async () => {
    rellin = await Rellin.make({}, (r) => {
      r.write('one.txt', '1');
      r.write('held/open.txt', '2');
      r.write('three.txt', '3');
    });
    await remove(at('one.txt'), at('held'), at('three.txt'));
    const file = openSync(join(home(), 'files/held/open.txt'), 'r');
    expect(await expunge('one.txt')).toEqual({
      deleted: 1,
      kept: [],
    });
    expect(await expunge()).toEqual({
      deleted: 1,
      kept: [{ name: 'held', why: 'a program has it open' }],
    });
    closeSync(file);
    expect(list(join(home(), 'files'))).toEqual(['held']);
    expect(await expunge()).toEqual({ deleted: 1, kept: [] });
    // what is gone for good no undo brings back, and it says so
    expect((await rellin.refusal(rellin.post('/journal/undo'))).problem.detail).toContain('bin');
  });
});

(CAN_MOUNT ? describe : describe.skip)('the bins of volumes', () => {
  const uid = process.getuid!();
  const make = async (options?: string, prepare?: (top: string) => void) => {
    rellin = await Rellin.make({ places: ['place', 'stick'] }, (r) => {
      rellin = r;
      const top = volume('stick', options);
      prepare?.(top);
      mkdirSync(join(top, 'scans'), { recursive: true });
      writeFileSync(join(top, 'scans/page.txt'), 'page');
    });
    return join(rellin.base, 'stick');
  };

  it('are used for what lies on them, with paths from their top, and never cross to another', async () => {
    const top = await make();
    const { ino } = lstatSync(join(top, 'scans/page.txt'));
    expect(await remove(join(top, 'scans/page.txt'))).toMatchObject({ state: 'done', deleted: 1 });
    const bin = join(top, `.Trash-${uid}`);
    expect(lstatSync(join(bin, 'files/page.txt')).ino).toBe(ino);
    expect(Buffer.from(byGlib(join(bin, 'info/page.txt.trashinfo'))[0], 'hex').toString()).toBe('scans/page.txt');
    expect(list(join(home(), 'files'))).toEqual([]);
    const bins = await rellin!.get('/bin/originals');
    expect(bins.find((b) => b.originals.length > 0)).toMatchObject({ name: 'stick', state: 'here' });
    await restore(['page.txt']);
    expect(readFileSync(join(top, 'scans/page.txt'), 'utf8')).toBe('page');
  });

  it('in the administrator’s folder where it has the sticky bit and is no link; else in one of their own', async () => {
    const top = await make(undefined, (t) => {
      mkdirSync(join(t, '.Trash'));
      chmodSync(join(t, '.Trash'), 0o1777);
    });
    await remove(join(top, 'scans/page.txt'));
    expect(list(join(top, `.Trash/${uid}/files`))).toEqual(['page.txt']);
    await restore(['page.txt']);
    // without the sticky bit others could swap what is in it
    chmodSync(join(top, '.Trash'), 0o777);
    await remove(join(top, 'scans/page.txt'));
    expect(list(join(top, `.Trash-${uid}/files`))).toEqual(['page.txt']);
    await restore(['page.txt']);
    const elsewhere = mkdtempSync(join(tmpdir(), 'rellin-elsewhere-'));
    rmSync(join(top, '.Trash'), { recursive: true });
    rmSync(join(top, `.Trash-${uid}`), { recursive: true });
    symlinkSync(elsewhere, join(top, '.Trash'));
    symlinkSync(elsewhere, join(top, `.Trash-${uid}`));
    expect(await remove(join(top, 'scans/page.txt'))).toMatchObject({ state: 'no-bin', originals: 1, name: 'stick' });
    expect([list(elsewhere), list(join(top, 'scans'))]).toEqual([[], ['page.txt']]);
    rmSync(elsewhere, { recursive: true });
  });

  it('that cannot be made: said before anything is done; copied into the home bin where that is wanted, and undone', async () => {
    const top = await make(undefined, (t) => writeFileSync(join(t, `.Trash-${uid}`), 'a file in the way'));
    expect(await remove(join(top, 'scans/page.txt'))).toEqual({ state: 'no-bin', originals: 1, name: 'stick' });
    const originals = [await refOf(join(top, 'scans/page.txt'))];
    expect(await rellin!.post('/bin/originals', { originals, acrossVolumes: true })).toMatchObject({ deleted: 1 });
    expect(list(join(top, 'scans'))).toEqual([]);
    expect(readFileSync(join(home(), 'files/page.txt'), 'utf8')).toBe('page');
    await rellin!.post('/journal/undo');
    expect(readFileSync(join(top, 'scans/page.txt'), 'utf8')).toBe('page');
    expect([list(join(home(), 'files')), list(join(home(), 'info'))]).toEqual([[], []]);
  });

  it('say nothing of what lies elsewhere, whatever somebody wrote into them', async () => {
    const top = await make(undefined, (t) => {
      const bin = join(t, `.Trash-${uid}`);
      for (const sub of ['files', 'info']) mkdirSync(join(bin, sub), { recursive: true });
      writeFileSync(join(bin, 'files/evil'), 'run me');
    });
    const aim = at('.profile');
    const write = (path: string) =>
      writeFileSync(join(top, `.Trash-${uid}/info/evil.trashinfo`), `[Trash Info]\nPath=${path}\n`);
    for (const path of [aim, `../place/.profile`, `a/../../place/.profile`]) {
      write(path);
      expect(await one('evil')).toMatchObject({ path: null });
      expect((await rellin!.refusal(restore(['evil']))).kind).toBe('not-valid');
    }
    expect(existsSync(aim)).toBe(false);
  });

  it('give back to another volume: copied, looked at, and undone', async () => {
    const top = await make();
    await remove(join(top, 'scans/page.txt'));
    const into = await refOf(rellin!.place);
    expect(await restore(['page.txt'], { into })).toMatchObject({ state: 'done', filed: 1 });
    expect(readFileSync(at('page.txt'), 'utf8')).toBe('page');
    const bin = join(top, `.Trash-${uid}`);
    expect([list(join(bin, 'files')), list(join(bin, 'info'))]).toEqual([[], []]);
    await rellin!.post('/journal/undo');
    expect(existsSync(at('page.txt'))).toBe(false);
    expect(readFileSync(join(bin, 'files/page.txt'), 'utf8')).toBe('page');
    expect(list(join(bin, 'info'))).toEqual(['page.txt.trashinfo']);
  });

  it('are listed also where a single file is mounted, which has none', async () => {
    const top = await make();
    await remove(join(top, 'scans/page.txt'));
    const single = join(rellin!.base, 'single');
    writeFileSync(single, '');
    execFileSync('mount', ['--bind', single, single]);
    mounted.push(single);
    expect((await one('page.txt')).path).toBe(join(top, 'scans/page.txt'));
  });

  it('that are full or can only be read: nothing is lost, and it is said', async () => {
    const top = await make('size=16k');
    // every page of it is taken
    for (let i = 0; ; i++)
      try {
        writeFileSync(join(top, `fill ${i}`), 'x'.repeat(4096));
      } catch {
        break;
      }
    const full = await remove(join(top, 'scans/page.txt')).catch((error: Error) => error);
    expect(list(join(top, 'scans'))).toEqual(['page.txt']);
    expect(full instanceof Error || full.state === 'no-bin').toBe(true);
    execFileSync('mount', ['-o', 'remount,ro', top]);
    const readOnly = await remove(join(top, 'scans/page.txt')).catch((error: Error) => error);
    expect(readOnly instanceof Error || readOnly.state === 'no-bin').toBe(true);
    expect(list(join(home(), 'info'))).toEqual([]);
  });
});

describe('tags on originals', () => {
  const tagsOn = async (path: string) => {
    const { placeId, originalId } = await refOf(path);
    return (await rellin!.get(`/originals/${placeId}/${originalId}`)).tags.length;
  };
  /** They follow right after the act that is answered. */
  const tagged = (path: string) =>
    until(
      () => tagsOn(path),
      (n) => n === 1,
    );
  const restart = async () => {
    await rellin!.stop();
    await rellin!.start();
  };

  it('are there again when the originals come back from the bin, by undo or restored, however long after', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (const name of ['a.txt', 'b.txt', 'folder/inside.txt']) r.write(name);
    });
    const paths = ['a.txt', 'b.txt', 'folder/inside.txt'].map(at);
    const { id } = await rellin.post('/tags', { name: 'boat', originals: await Promise.all(paths.map(refOf)) });
    await remove(at('a.txt'), at('folder'));
    await remove(at('b.txt'));
    // what went a moment ago is known again by itself
    await restart();
    await restore(['b.txt']);
    const [line] = (await rellin.get('/journal')).filter((l) => l.act === 'delete-original').slice(1);
    await rellin.post(`/journal/${line!.id}/undo`);
    await until(
      () => Promise.all(paths.map(tagsOn)),
      (counts) => counts.every((n) => n === 1),
    );
    const tag = (await rellin.get('/tags')).find((t) => t.id === id)!;
    expect(tag.count).toBe(3);
    await until(
      () => rellin!.post('/searches/ask', { query: 'tag:boat' }),
      (a) => a.count === 3,
    );
    // the tag itself is taken off again by its own undo
    const made = (await rellin.get('/journal')).find((l) => l.act === 'add-tag')!;
    await rellin.post(`/journal/${made.id}/undo`);
    expect(await Promise.all(paths.map(tagsOn))).toEqual([0, 0, 0]);
  });

  it('go along to another place, with all that lies in a folder, and back by undo', async () => {
    rellin = await Rellin.make({ places: ['place', 'drive'] }, (r) => {
      for (const name of ['a.txt', 'folder/inside.txt']) r.write(name);
    });
    const drive = join(rellin.base, 'drive');
    const originals = [await refOf(at('a.txt')), await refOf(at('folder'))];
    await rellin.post('/tags', { name: 'boat', originals: [originals[0]!, await refOf(at('folder/inside.txt'))] });
    await rellin.post('/filing', { originals, into: await refOf(drive), how: 'move' });
    await tagged(join(drive, 'a.txt'));
    await tagged(join(drive, 'folder/inside.txt'));
    await restart();
    await rellin.post('/journal/undo');
    await tagged(at('a.txt'));
    await tagged(at('folder/inside.txt'));
    await rellin.post('/journal/redo');
    await tagged(join(drive, 'a.txt'));
  });
});
