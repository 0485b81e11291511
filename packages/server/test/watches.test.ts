/** Where the system's watches do not reach: said, and folders in use looked at by themselves. */
import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  // ten watches, of which Rellin takes eight
  rellin = await Rellin.make({ env: { RELLIN_WATCHES: '10' } }, (r) => {
    for (let i = 0; i < 30; i++) r.write(`folder ${i}/deep/file ${i}.csv`);
  });
});
afterAll(() => rellin.remove());

it('says that not all folders are watched', async () => {
  const [place] = await rellin.get('/places');
  expect(place!.watching).toBe('limited');
});

it('sees what happens to a shortcut’s file and in a folder with a shortcut all the same', async () => {
  const file = await rellin.add(join(rellin.place, 'folder 29/deep/file 29.csv'));
  await rellin.add(join(rellin.place, 'folder 28'));
  const kept = await rellin.post('/searches', { name: 'New ones', query: 'arrived' });
  rellin.write('folder 29/deep/arrived.csv');
  mkdirSync(join(rellin.place, 'folder 28/arrived too'));
  await until(
    () => rellin.get(`/searches/${kept.id}`),
    (s) => s.count === 2 && s.came === 2,
  );
  rmSync(join(rellin.place, 'folder 29/deep/file 29.csv'));
  await until(
    () => rellin.shortcut(file.id),
    (s) => s.state === 'lost',
  );
});

it('sees a folder as it is when it is opened', async () => {
  const root = (await rellin.get('/places'))[0]!;
  rellin.write('folder 20/deep/late.csv');
  const listing = async (id: number) => (await rellin.get(`/originals/${root.id}/folder/${id}`)).entries;
  const folder = (await listing(1)).find((e) => e.name === 'folder 20')!;
  const deep = (await listing(folder.id)).find((e) => e.name === 'deep')!;
  expect((await listing(deep.id)).map((e) => e.name)).toContain('late.csv');
});
