/** What is known of the person's use: kept only when wanted, told in full, and forgotten for good. */
import { mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ShortcutDetail } from '@rellin/contract';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
const made: ShortcutDetail[] = [];
beforeAll(async () => {
  rellin = await Rellin.make({}, (r) => {
    for (const name of ['a', 'b', 'c', 'plain', 'late']) r.write(`${name}.txt`);
    mkdirSync(join(r.base, 'share'));
    recent(r, { 'plain.txt': 40 * 86_400_000, 'gone.txt': 1000 });
  });
  for (const name of ['a', 'b', 'c']) made.push(await rellin.add(`${rellin.place}/${name}.txt`));
});
afterAll(() => rellin.remove());

/** Other programs' openings as the desktop lists them: name → how long ago, milliseconds. */
function recent(r: Rellin, opened: Record<string, number>): void {
  const bookmarks = Object.entries(opened).map(
    ([name, ago]) => `<bookmark href="file://${r.place}/${name}"><info><metadata owner="http://freedesktop.org">
      <bookmark:applications><bookmark:application name="Writer" exec="writer %u" modified="${new Date(Date.now() - ago).toISOString()}" count="1"/>
      </bookmark:applications></metadata></info></bookmark>`,
  );
  const file = join(r.base, 'share/recently-used.xbel');
  writeFileSync(
    `${file}.new`,
    `<?xml version="1.0"?><xbel version="1.0" xmlns:bookmark="http://www.freedesktop.org/standards/desktop-bookmarks">${bookmarks.join('')}</xbel>`,
  );
  renameSync(`${file}.new`, file);
}

const known = () => rellin.get('/openings/summary');
const weight = async (i: number) => (await rellin.shortcut(made[i]!.id)).weight;
const openLines = async () => (await rellin.get('/journal')).filter((l) => l.act === 'open').length;

describe('the desktop’s list of recent files', () => {
  const elsewhere = async () => (await rellin.get('/openings/all')).filter((o) => o.route === 'elsewhere');
  it('counts what was opened before Rellin came, in the places and still there', async () => {
    const [opened] = await until(elsewhere, (all) => all.length > 0);
    expect(opened).toMatchObject({ name: 'plain.txt', how: 'system' });
    expect(await elsewhere()).toHaveLength(1);
  });
  it('is watched: what a program opens counts for its shortcut, once, and not what Rellin opened itself', async () => {
    await rellin.open(made[1]!.id);
    recent(rellin, { 'plain.txt': 40 * 86_400_000, 'a.txt': 10, 'b.txt': 5 });
    await until(elsewhere, (all) => all.length > 1);
    await until(
      () => weight(0),
      (w) => w > 0.99,
    );
    expect((await elsewhere()).map((o) => o.name)).toEqual(['plain.txt', 'a']);
    await rellin.stop();
    await rellin.start();
    recent(rellin, { 'a.txt': 3_000, 'plain.txt': 0 });
    await until(elsewhere, (all) => all.length === 3);
    expect((await elsewhere()).map((o) => o.name)).toEqual(['plain.txt', 'a', 'plain.txt']);
  });
  it('does not count while that is switched off, nor afterwards what was opened then; broken, it is passed over', async () => {
    await rellin.call('PATCH', '/settings', { recentFiles: false });
    const counted = async () => JSON.stringify(await rellin.sql(`SELECT counted_until::text FROM recent_files`));
    const before = await counted();
    recent(rellin, { 'c.txt': 0 });
    // it was read while it is switched off: what was read just before may be as young
    await until(counted, (now) => now !== before);
    await rellin.call('PATCH', '/settings', { recentFiles: true });
    writeFileSync(join(rellin.base, 'share/recently-used.xbel'), '<xbel><bookmark');
    recent(rellin, { 'c.txt': 5_000, 'a.txt': -60_000 });
    recent(rellin, { 'c.txt': 5_000, 'a.txt': -60_000, 'plain.txt': 0, 'late.txt': 0 });
    await until(elsewhere, (all) => all.length === 4);
    // saved again a moment later is no new opening
    expect((await elsewhere()).map((o) => o.name)).toEqual(['plain.txt', 'a', 'plain.txt', 'late.txt']);
    await rellin.post('/openings/forget', {});
    expect((await known()).total).toBe(0);
  });
});

describe('what is known', () => {
  it('is every opening, by thing, day, part of the week and way', async () => {
    for (const [i, route] of [
      [0, 'find'],
      [0, 'pin-key'],
      [1, 'find'],
    ] as const)
      await rellin.open(made[i]!.id, route);
    const use = await known();
    expect(use).toMatchObject({ recording: true, total: 3 });
    expect(use.items.map((i) => [i.name, i.count])).toEqual([
      ['a', 2],
      ['b', 1],
    ]);
    expect(use.routes).toEqual([
      { route: 'find', count: 2 },
      { route: 'pin-key', count: 1 },
    ]);
    expect(use.parts.reduce((sum, n) => sum + n, 0)).toBe(3);
    expect(use.days.reduce((sum, d) => sum + d.count, 0)).toBe(3);
    const all = await rellin.get('/openings/all');
    expect(all.map((o) => [o.name, o.route])).toEqual([
      ['a', 'find'],
      ['a', 'pin-key'],
      ['b', 'find'],
    ]);
  });
  it('does not grow while it is paused, nor on the quiet screen; what is opened opens all the same', async () => {
    expect((await rellin.post('/openings', { shortcutId: made[2]!.id, route: 'find', record: false })).argv[1]).toBe(
      made[2]!.location,
    );
    await rellin.call('PATCH', '/settings', { recording: false });
    expect((await rellin.open(made[2]!.id)).argv[1]).toBe(made[2]!.location);
    expect(await known()).toMatchObject({ recording: false, total: 3 });
    expect(await weight(2)).toBe(0);
    expect(await openLines()).toBe(3);
    await rellin.call('PATCH', '/settings', { recording: true });
    await rellin.open(made[2]!.id);
    expect((await known()).total).toBe(4);
  });
  it('is forgotten by thing, in the journal, the weights and the guesses as well; the rest stays', async () => {
    const before = await weight(1);
    expect(await rellin.post('/openings/forget', { shortcutId: made[0]!.id })).toEqual({ forgotten: 2 });
    expect((await known()).items.map((i) => i.name)).toEqual(['b', 'c']);
    expect(await weight(0)).toBe(0);
    expect(await weight(1)).toBeCloseTo(before, 3);
    expect(await openLines()).toBe(2);
    const guesses = await rellin.get('/reach/likely');
    expect(guesses.items.map((i) => i.shortcutId)).not.toContain(made[0]!.id);
    const stored = await rellin.sql(
      `SELECT count(*)::int AS n FROM journal WHERE act = 'open' AND changes::text LIKE $1`,
      [`%${made[0]!.id}%`],
    );
    expect(stored[0]!['n']).toBe(0);
  });
  it('is forgotten by searches as well', async () => {
    const opened = async () => (await rellin.post('/searches/ask', { query: 'opened:7d' })).answers;
    await until(opened, (all) => all.map((a) => a.name).join() === 'b.txt,c.txt');
  });
  it('is forgotten by a stretch of time, both ends included', async () => {
    await rellin.sql(`UPDATE opening SET at = at - interval '10 days' WHERE shortcut_id = $1`, [made[1]!.id]);
    const day = (back: number) => new Date(Date.now() - back * 86_400_000).toISOString();
    expect(await rellin.post('/openings/forget', { from: day(9), to: day(5) })).toEqual({ forgotten: 0 });
    expect(await rellin.post('/openings/forget', { from: day(11), to: day(9) })).toEqual({ forgotten: 1 });
    expect((await known()).items.map((i) => i.name)).toEqual(['c']);
    expect((await rellin.refusal(rellin.post('/openings/forget', { from: 'yesterday' }))).problem.status).toBe(400);
  });
  it('is forgotten altogether', async () => {
    expect(await rellin.post('/openings/forget', {})).toEqual({ forgotten: 1 });
    expect(await known()).toMatchObject({ total: 0, items: [], days: [], routes: [] });
    expect(await rellin.get('/openings')).toEqual([]);
    expect(await openLines()).toBe(0);
    expect((await rellin.get('/reach/likely')).items).toEqual([]);
  });
});
