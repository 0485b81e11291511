/** Looking through a place: progress that can be watched, a stop that leaves the index whole, bursts folded. */
import { mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
const BIG = 30_000;
const fill = (folder: string, n: number) => {
  for (let i = 0; i < n; i++) {
    const sub = join(folder, `tray ${i % 300}`);
    if (i < 300) mkdirSync(sub, { recursive: true });
    writeFileSync(join(sub, `card ${i}.txt`), '');
  }
};
beforeAll(async () => {
  rellin = await Rellin.make({}, (r) => {
    r.write('kept/known.txt');
    mkdirSync(join(r.base, 'big'));
    fill(join(r.base, 'big'), BIG);
  });
});
afterAll(() => rellin.remove());

const place = async (name: string) => (await rellin.get('/places')).find((p) => p.name === name);

describe('looking through a large place', () => {
  it('shows counts and a rate while it goes on, and can be stopped; again, it ends with all of it', async () => {
    const added = await rellin.post('/places', { root: join(rellin.base, 'big') });
    const seen = await until(
      () => rellin.get('/activity'),
      (all) => all.some((a) => a.id === `scan-${added.id}`),
    );
    const work = seen.find((a) => a.id === `scan-${added.id}`)!;
    expect(work).toMatchObject({ title: 'Looking through big', canStop: true });
    await rellin.post(`/activity/${work.id}/stop`);
    const stopped = await until(
      () => place('big'),
      (p) => p?.scan !== 'running' && p?.scan !== 'never',
    );
    expect(stopped!.scan).toBe('stopped');
    expect(stopped!.entries).toBe(0);
    expect(await rellin.get('/activity')).toEqual([]);
    await rellin.post(`/places/${added.id}/scan`);
    const done = await until(
      () => place('big'),
      (p) => p?.scan === 'done',
      30_000,
    );
    expect(done!.entries).toBe(BIG + 300);
    const [row] = await rellin.sql(`SELECT count(*)::int AS n FROM original WHERE place_id = $1`, [added.id]);
    expect(row!['n']).toBe(BIG + 301);
  });

  it('the rest of Rellin answers meanwhile', async () => {
    const { id } = (await place('big'))!;
    const again = rellin.post(`/places/${id}/scan`);
    const made = await rellin.add(join(rellin.place, 'kept/known.txt'));
    expect((await rellin.open(made.id)).preview?.kind).toBe('text');
    await again;
    await rellin.settled();
  });

  it('says that work which has ended cannot be stopped', async () => {
    expect((await rellin.refusal(rellin.post('/activity/scan-99/stop'))).kind).toBe('not-found');
  });
});

describe('bursts of changes', () => {
  const known = async () =>
    Number((await rellin.sql(`SELECT count(*)::int AS n FROM original WHERE place_id = 1`))[0]!['n']);

  it('thousands of files unpacked at once arrive whole, and a folder of them moves as one', async () => {
    const before = await known();
    fill(join(rellin.place, 'unpacked'), 3000);
    await until(known, (n) => n === before + 3301, 30_000);
    const [{ id }] = (await rellin.sql(`SELECT id FROM original WHERE place_id = 1 AND name = 'card 1234.txt'`)) as [
      { id: string },
    ];
    renameSync(join(rellin.place, 'unpacked'), join(rellin.place, 'kept/put away'));
    const path = () => rellin.sql(`SELECT original_path(1, $1) AS path`, [id]).then((rows) => String(rows[0]!['path']));
    expect(await until(path, (p) => p.startsWith('kept/'))).toBe('kept/put away/tray 34/card 1234.txt');
    expect(await known()).toBe(before + 3301);
    rmSync(join(rellin.place, 'kept/put away'), { recursive: true });
    await until(known, (n) => n === before, 30_000);
  });

  it('is found by its new name within a second of being renamed', async () => {
    rellin.write('kept/plover count.txt');
    const finds = (text: string) => rellin.get('/find', { q: text });
    await until(
      () => finds('plover count'),
      (f) => f.answers.some((a) => a.name === 'plover count.txt'),
      1000,
    );
    renameSync(join(rellin.place, 'kept/plover count.txt'), join(rellin.place, 'kept/dunlin tally.txt'));
    await until(
      () => finds('dunlin tally'),
      (f) => f.answers.some((a) => a.name === 'dunlin tally.txt'),
      1000,
    );
    expect((await finds('plover count')).answers).toEqual([]);
  });
});
