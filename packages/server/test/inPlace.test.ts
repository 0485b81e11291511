/** Originals renamed and duplicated where they lie: shortcuts go along, nothing is written over, undo restores all. */
import {
  existsSync,
  linkSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  unlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { seeded } from '@rellin/core/random';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make({});
});
afterAll(() => rellin.remove());

const at = (path: string) => join(rellin.place, path);
const located = async (path: string) => {
  const found = await until(
    () => rellin.post('/originals/locate', { path }).catch(() => undefined),
    (l) => l !== undefined,
  );
  return { placeId: found!.placeId, originalId: found!.originalId };
};
const rename = async (names: Record<string, string>) =>
  rellin.post('/filing/rename', {
    names: await Promise.all(
      Object.entries(names).map(async ([path, name]) => ({ ...(await located(at(path))), name })),
    ),
  });
const contents = (folder: string) =>
  Object.fromEntries(readdirSync(at(folder)).map((name) => [name, readFileSync(join(at(folder), name), 'utf8')]));
/** The latest act on files; what followed them has lines of its own. */
const journal = async () => (await rellin.get('/journal')).find((line) => line.act.endsWith('-original'))!.summary;

describe('renaming an original', () => {
  it('takes its shortcut along at once, and is undone and done again', async () => {
    const shortcut = await rellin.add(rellin.write('one/tide table.csv', 'tides'), { name: 'Tides' });
    expect(await rename({ 'one/tide table.csv': 'levels.csv' })).toEqual({ renamed: 1 });
    expect(readdirSync(at('one'))).toEqual(['levels.csv']);
    // without a look at the disk in between, and the shortcut keeps its own name
    expect(await rellin.get(`/shortcuts/${shortcut.id}`)).toMatchObject({
      name: 'Tides',
      location: at('one/levels.csv'),
      state: 'followed',
    });
    expect(await journal()).toBe('Renamed “tide table.csv” to “levels.csv”');
    await rellin.post('/journal/undo');
    expect(readdirSync(at('one'))).toEqual(['tide table.csv']);
    await until(
      () => rellin.shortcut(shortcut.id),
      (s) => s.location === at('one/tide table.csv'),
    );
    await rellin.post('/journal/redo');
    expect(readdirSync(at('one'))).toEqual(['levels.csv']);
  });

  it('exchanges names, renames a folder and what lies in it, in one act', async () => {
    for (const name of ['a', 'b', 'c']) rellin.write(`ring/${name}.txt`, name);
    rellin.write('ring/inner/x.txt', 'x');
    await rename({
      'ring/a.txt': 'b.txt',
      'ring/b.txt': 'c.txt',
      'ring/c.txt': 'a.txt',
      'ring/inner': 'outer',
      'ring/inner/x.txt': 'y.txt',
    });
    const after = { 'a.txt': 'c', 'b.txt': 'a', 'c.txt': 'b' };
    expect(readdirSync(at('ring')).sort()).toEqual(['a.txt', 'b.txt', 'c.txt', 'outer']);
    for (const [name, text] of Object.entries(after)) expect(readFileSync(at(`ring/${name}`), 'utf8')).toBe(text);
    expect(contents('ring/outer')).toEqual({ 'y.txt': 'x' });
    expect(await journal()).toBe('Renamed 5 originals');
    await rellin.post('/journal/undo');
    expect(contents('ring/inner')).toEqual({ 'x.txt': 'x' });
    for (const name of ['a', 'b', 'c']) expect(readFileSync(at(`ring/${name}.txt`), 'utf8')).toBe(name);
  });

  it('by any names: each thing is under its own, or nothing was renamed; undone, all is as it was', async () => {
    const random = seeded(1712);
    const pick = (n: number) => Math.floor(random.next() * n);
    const names = ['p', 'q', 'r', 's', 't'];
    mkdirSync(at('any'));
    for (const name of names) rellin.write(`any/${name}`, name);
    const before = contents('any');
    for (let round = 0; round < 12; round++) {
      const chosen = names.filter(() => random.next() < 0.7);
      if (chosen.length === 0) continue;
      const to = Object.fromEntries(chosen.map((name) => [name, [...names, 'u', 'v'][pick(7)]!]));
      const wanted = new Map(names.map((name) => [to[name] ?? name, name]));
      const asked = rename(Object.fromEntries(Object.entries(to).map(([name, other]) => [`any/${name}`, other])));
      if (wanted.size < names.length) {
        await expect(asked).rejects.toMatchObject({ kind: 'conflict' });
        expect(contents('any')).toEqual(before);
        continue;
      }
      const { renamed } = await asked;
      expect(contents('any')).toEqual(Object.fromEntries(wanted));
      if (renamed > 0) await rellin.post('/journal/undo');
      expect(contents('any')).toEqual(before);
    }
  });

  it('refuses what is no name, what is taken, and what is not there any more; nothing is renamed then', async () => {
    for (const name of ['one', 'two', 'three']) rellin.write(`bad/${name}.txt`, name);
    const before = () => readdirSync(at('bad')).sort();
    const there = before();
    for (const name of ['', '.', '..', 'a/b', 'x'.repeat(256), 'ü'.repeat(128)])
      await expect(rename({ 'bad/one.txt': name })).rejects.toBeTruthy();
    await expect(rename({ 'bad/one.txt': 'four.txt', 'bad/two.txt': 'three.txt' })).rejects.toMatchObject({
      kind: 'conflict',
      message: 'The name “three.txt” is taken in “bad”; nothing was renamed.',
    });
    await expect(rename({ 'bad/one.txt': 'same.txt', 'bad/two.txt': 'same.txt' })).rejects.toMatchObject({
      kind: 'conflict',
      message: 'More than one would be called “same.txt”; nothing was renamed.',
    });
    await expect(
      rellin.post('/filing/rename', { names: [{ ...(await located(rellin.place)), name: 'other' }] }),
    ).rejects.toMatchObject({ kind: 'not-valid' });
    expect(before()).toEqual(there);
    // one that goes, and one in whose place another was put, after they were chosen
    const two = await located(at('bad/two.txt'));
    unlinkSync(at('bad/two.txt'));
    await expect(rellin.post('/filing/rename', { names: [{ ...two, name: 'five.txt' }] })).rejects.toBeTruthy();
    expect(before()).toEqual(['one.txt', 'three.txt']);
  });

  it('undone after programs saved them anew, as another file of the same name', async () => {
    for (const name of ['a', 'b', 'c']) rellin.write(`saved/${name}.txt`, name);
    await rename({ 'saved/a.txt': 'b.txt', 'saved/b.txt': 'a.txt', 'saved/c.txt': 'd.txt' });
    for (const name of ['b', 'd']) {
      writeFileSync(at(`saved/${name}.new`), `${name} edited`);
      renameSync(at(`saved/${name}.new`), at(`saved/${name}.txt`));
    }
    await rellin.post('/journal/undo');
    expect(contents('saved')).toEqual({ 'a.txt': 'b edited', 'b.txt': 'b', 'c.txt': 'd edited' });
    await rellin.post('/journal/redo');
    expect(contents('saved')).toEqual({ 'a.txt': 'b', 'b.txt': 'b edited', 'd.txt': 'd edited' });
  });

  it('refuses two names of one file together, and takes them one after the other', async () => {
    rellin.write('links/x.txt', 'x');
    linkSync(at('links/x.txt'), at('links/y.txt'));
    await expect(rename({ 'links/x.txt': 'y.txt', 'links/y.txt': 'x.txt' })).rejects.toMatchObject({
      message: '“x.txt” and “y.txt” are two names of one file; nothing was renamed.',
    });
    await rename({ 'links/x.txt': 'z.txt' });
    expect(contents('links')).toEqual({ 'y.txt': 'x', 'z.txt': 'x' });
    await rellin.post('/journal/undo');
    expect(contents('links')).toEqual({ 'x.txt': 'x', 'y.txt': 'x' });
  });

  it('duplicates beside the original under the next free name, folders whole; undo takes the copies away', async () => {
    rellin.write('twice/a.csv', 'a');
    rellin.write('twice/a (2).csv', 'there already');
    rellin.write('twice/inner/x.txt', 'x');
    const originals = await Promise.all(['twice/a.csv', 'twice/inner'].map((path) => located(at(path))));
    expect(await rellin.post('/filing/duplicate', { originals: [...originals, originals[0]!] })).toEqual({ copied: 2 });
    expect(readdirSync(at('twice')).sort()).toEqual(['a (2).csv', 'a (3).csv', 'a.csv', 'inner', 'inner (2)']);
    expect(readFileSync(at('twice/a (3).csv'), 'utf8')).toBe('a');
    expect(contents('twice/inner (2)')).toEqual({ 'x.txt': 'x' });
    expect(await journal()).toBe('Duplicated 2 originals');
    await rellin.post('/journal/undo');
    expect(readdirSync(at('twice')).sort()).toEqual(['a (2).csv', 'a.csv', 'inner']);
  });

  it('leaves alone what somebody put where the undo would bring it back', async () => {
    rellin.write('kept/first.txt', 'first');
    await rename({ 'kept/first.txt': 'second.txt' });
    writeFileSync(at('kept/first.txt'), 'somebody else’s');
    await expect(rellin.post('/journal/undo')).rejects.toBeTruthy();
    expect(contents('kept')).toEqual({ 'first.txt': 'somebody else’s', 'second.txt': 'first' });
    renameSync(at('kept/first.txt'), at('kept/other.txt'));
    await rellin.post('/journal/undo');
    expect(contents('kept')).toEqual({ 'first.txt': 'first', 'other.txt': 'somebody else’s' });
    expect(existsSync(at('kept/second.txt'))).toBe(false);
  });
});
