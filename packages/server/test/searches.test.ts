/** Saved searches over HTTP: asked, kept, changing as files change on disk, also while Rellin was stopped. */
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdirSync, renameSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { AnswersView } from '@rellin/contract';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make({ places: ['head', 'drive'] }, (r) => {
    r.write('Ringing/2026/ringing-log.csv', 'a,b\n');
    r.write('Ringing/2026/Notes.md', 'n');
    r.write('Ringing/2025/ringing-log.csv', 'a,b,c\n');
    r.write('Tides/table-2.csv', 'x'.repeat(3000));
    r.write('Tides/table-10.csv', 'x'.repeat(20));
    mkdirSync(join(r.base, 'drive/Sounds'), { recursive: true });
    writeFileSync(join(r.base, 'drive/Sounds/gull.wav'), '');
  });
});
afterAll(() => rellin.remove());

const ask = (query: string, more: object = {}) => rellin.post('/searches/ask', { query, ...more });
const names = (a: AnswersView) => a.answers.map((x) => x.name);
const save = (name: string, query: string, more: object = {}) => rellin.post('/searches', { name, query, ...more });
const one = (id: string) => rellin.get(`/searches/${id}`);
const changes = (id: string) => rellin.get(`/searches/${id}/changes`);

describe('asking', () => {
  it('answers a text in the order asked for, with path, trail and count', async () => {
    const found = await ask('*.csv');
    expect(found.count).toBe(4);
    expect(names(found)).toEqual(['ringing-log.csv', 'ringing-log.csv', 'table-2.csv', 'table-10.csv']);
    const table = found.answers.find((x) => x.name === 'table-2.csv')!;
    expect(table).toMatchObject({
      path: join(rellin.place, 'Tides/table-2.csv'),
      trail: ['head', 'Tides'],
      size: 3000,
    });
    expect(names(await ask('*.csv', { sortBy: 'size', descending: true, limit: 1 }))).toEqual(['table-2.csv']);
    expect(names(await ask('*.csv', { offset: 2, limit: 1 }))).toEqual(['table-2.csv']);
  });

  it('counts the last moment of a day to that day, live and by a scan', async () => {
    const path = rellin.write('Tides/last moment.csv', 'x');
    // in doubles of milliseconds it is midnight
    execFileSync('touch', ['-d', '2025-03-04 23:59:59.999999999', path]);
    const found = async () => names(await ask('modified:2025-03-04'));
    await until(found, (all) => all.includes('last moment.csv'));
    expect(names(await ask('modified:2025-03-05'))).toEqual([]);
    execFileSync('touch', ['-d', '2025-03-04 00:00:00', path]);
    await until(
      async () => names(await ask('modified>=2025-03-04')),
      (all) => all.includes('last moment.csv'),
    );
    execFileSync('touch', ['-d', '2025-03-03 23:59:59.9999995', path]);
    await until(
      async () => names(await ask('modified:2025-03-03')),
      (all) => all.includes('last moment.csv'),
    );
    const { id } = (await rellin.get('/places'))[0]!;
    await rellin.post(`/places/${id}/scan`);
    expect(names(await ask('modified:2025-03-03'))).toEqual(['last moment.csv']);
    rmSync(path);
    await until(
      async () => names(await ask('name:last*')),
      (all) => all.length === 0,
    );
  });

  it('keeps to the places asked for', async () => {
    const drive = (await rellin.get('/places')).find((p) => p.name === 'drive')!;
    expect(names(await ask('is:file', { places: [drive.id] }))).toEqual(['gull.wav']);
    expect((await ask('is:file', { places: [] })).count).toBe(6);
  });

  it('says of each row what it lets through and what it alone shuts out', async () => {
    const { rows, count } = await ask('*.csv in:Ringing size>1kB', { rows: true, limit: 0 });
    expect(count).toBe(0);
    expect(rows).toEqual([
      { through: 4, alone: 0 },
      { through: 5, alone: 1 },
      { through: 1, alone: 2 },
    ]);
  });

  it('says where a text goes wrong, and what was probably meant', async () => {
    const { trouble, count } = await ask('ring modfied:2026');
    expect(count).toBe(0);
    expect(trouble).toMatchObject({ at: 5, suggestion: 'modified' });
    const refused = await rellin.refusal(save('bad', '(tide'));
    expect(refused.kind).toBe('not-valid');
    expect((await rellin.refusal(save('  ', 'tide'))).message).toContain('name');
    expect(
      (await rellin.refusal(rellin.send('POST', '/searches/ask', { query: 'a', sortBy: 'luck' }))).problem.status,
    ).toBe(400);
  });

  it('refuses what is too long without hanging', async () => {
    expect((await ask('a '.repeat(1200))).trouble!.message).toContain('1000');
    expect((await ask(`${'('.repeat(150)}a${')'.repeat(150)}`)).trouble).not.toBeNull();
    const started = Date.now();
    expect((await ask(Array.from({ length: 900 }, (_, i) => `-w${i}`).join(' '))).trouble).toBeNull();
    expect((await ask('*a*a*a*a*a*a*a*a*a*a*a*a*a*a*a*b')).count).toBe(0);
    expect((await ask('x'.repeat(10_000))).count).toBe(0);
    expect(Date.now() - started).toBeLessThan(10_000);
  });
});

describe('a saved search', () => {
  it('keeps its name, text and layout; every act has an undo', async () => {
    const made = await save('Ringing tables', 'ring*.csv  (in:2026)', { showAs: 'by-month', most: 20 });
    expect(made).toMatchObject({ query: 'name:ring*.csv in:2026', showAs: 'by-month', most: 20, came: 0, went: 0 });
    const large = await rellin.call('PATCH', `/searches/${made.id}`, { showAs: 'large-tiles' });
    expect(large).toMatchObject({ showAs: 'large-tiles' });
    await until(
      () => one(made.id),
      (s) => s.count === 1,
    );
    await rellin.call('PATCH', `/searches/${made.id}`, { name: 'All ringing tables', query: 'ring*.csv', keys: 'q r' });
    expect(
      await until(
        () => one(made.id),
        (s) => s.count === 2,
      ),
    ).toMatchObject({ name: 'All ringing tables', keys: 'q r' });
    await rellin.post('/journal/undo');
    expect(
      await until(
        () => one(made.id),
        (s) => s.count === 1,
      ),
    ).toMatchObject({ name: 'Ringing tables', keys: null });
    await rellin.call('DELETE', `/searches/${made.id}`);
    expect((await rellin.get('/searches')).map((s) => s.id)).not.toContain(made.id);
    expect((await rellin.get('/searches', { from: 'bin' })).map((s) => s.id)).toContain(made.id);
    await rellin.post(`/searches/${made.id}/put-back`);
    expect(
      (
        await until(
          () => one(made.id),
          (s) => s.count === 1,
        )
      ).removedAt,
    ).toBeNull();
  });

  it('is pinned, tagged, and a member of collections', async () => {
    const made = await save('Wide tables', 'size>1kB ext:csv', { colour: 'moss' });
    await rellin.post('/pins', { target: 'search', targetId: made.id });
    const pin = (
      await until(
        () => rellin.pins(),
        (p) => p.some((x) => x.targetId === made.id && x.count === 1),
      )
    ).find((x) => x.targetId === made.id)!;
    expect(pin).toMatchObject({ target: 'search', name: 'Wide tables', count: 1, fresh: 0 });
    const tag = await rellin.post('/tags', { name: 'tables', searchIds: [made.id] });
    const shelf = await rellin.post('/collections', { name: 'Shelf', searchIds: [made.id] });
    expect(await one(made.id)).toMatchObject({ tags: [tag.id], collections: [shelf.id], pinned: true });
    const members = await rellin.get(`/collections/${shelf.id}/members`);
    expect(members.members).toMatchObject([{ type: 'search', itemId: made.id }]);
    expect(await rellin.get(`/tags/${tag.id}/bearers`)).toMatchObject({ searchIds: [made.id] });
    await rellin.post(`/collections/${shelf.id}/empty`);
    await rellin.post(`/collections/${shelf.id}/bring-back`);
    expect((await rellin.get(`/collections/${shelf.id}/members`)).members).toHaveLength(1);
    await rellin.call('DELETE', `/searches/${made.id}`);
    expect((await rellin.get(`/collections/${shelf.id}/members`)).members).toEqual([]);
    expect((await rellin.pins()).some((p) => p.targetId === made.id)).toBe(false);
    await rellin.post(`/searches/${made.id}/put-back`);
    expect((await rellin.pins()).some((p) => p.targetId === made.id)).toBe(true);
  });

  it('is saved with tags, collection and pin as one act with one undo', async () => {
    const tag = await rellin.post('/tags', { name: 'placed' });
    const shelf = await rellin.post('/collections', { name: 'Second shelf' });
    const made = await save('Placed', 'tide', { tagIds: [tag.id], collectionId: shelf.id, slot: 1 });
    expect(await one(made.id)).toMatchObject({ tags: [tag.id], collections: [shelf.id], pinned: true });
    expect((await rellin.pins())[0]).toMatchObject({ targetId: made.id, slot: 1 });
    await rellin.post('/journal/undo');
    expect((await rellin.refusal(one(made.id))).kind).toBe('not-found');
    expect((await rellin.get(`/collections/${shelf.id}/members`)).members).toEqual([]);
    expect((await rellin.pins()).some((p) => p.targetId === made.id)).toBe(false);
    // all of it, or nothing
    expect((await rellin.refusal(save('Nowhere', 'tide', { collectionId: randomUUID() }))).kind).toBe('not-found');
    expect((await rellin.get('/searches')).some((s) => s.name === 'Nowhere')).toBe(false);
  });

  it('sees what a file on disk does to it', async () => {
    const made = await save('Logs', 'log');
    await until(
      () => one(made.id),
      (s) => s.count === 2,
    );
    rellin.write('Boat/engine-log.txt');
    const seen = await until(
      () => one(made.id),
      (s) => s.count === 3,
      3000,
    );
    expect(seen).toMatchObject({ came: 1, went: 0, today: 1 });
    expect((await changes(made.id)).came).toMatchObject([{ name: 'engine-log.txt', trail: ['head', 'Boat'] }]);
    renameSync(join(rellin.place, 'Boat/engine-log.txt'), join(rellin.place, 'Boat/engine.txt'));
    // what came and went again is no news
    expect(
      await until(
        () => one(made.id),
        (s) => s.count === 2,
      ),
    ).toMatchObject({ came: 0, went: 0 });
    rmSync(join(rellin.place, 'Ringing/2025'), { recursive: true });
    expect(
      await until(
        () => one(made.id),
        (s) => s.count === 1,
      ),
    ).toMatchObject({ came: 0, went: 1 });
    const what = await changes(made.id);
    expect(what.went).toMatchObject([{ name: 'ringing-log.csv', trail: ['head', 'Ringing', '2025'] }]);
    expect(what.sizes.at(-1)!.count).toBe(1);
    await rellin.post(`/searches/${made.id}/mark-seen`);
    expect(await one(made.id)).toMatchObject({ came: 0, went: 0, today: 0 });
  });

  it('follows a folder that is renamed, a tag that is given, an opening', async () => {
    const [below, tagged, opened] = [
      await save('Below', 'in:Tides'),
      await save('Tagged', 'tag:wet'),
      await save('Opened', 'opened:today'),
    ];
    await until(
      () => one(below.id),
      (s) => s.count === 2,
    );
    renameSync(join(rellin.place, 'Tides'), join(rellin.place, 'Tidal'));
    expect(
      await until(
        () => one(below.id),
        (s) => s.count === 0,
      ),
    ).toMatchObject({ went: 2 });
    const table = (await ask('table-2')).answers[0]!;
    await rellin.post('/tags', { name: 'Wet', originals: [{ placeId: table.placeId, originalId: Number(table.id) }] });
    expect(
      await until(
        () => one(tagged.id),
        (s) => s.count === 1,
      ),
    ).toMatchObject({ came: 1 });
    const shortcut = await rellin.add(table.path);
    await rellin.open(shortcut.id);
    await until(
      () => one(opened.id),
      (s) => s.count === 1,
    );
  });

  it('shows after a start what changed while Rellin was stopped', async () => {
    const made = await save('Sheets', 'ext:csv');
    const week = await save('This year', 'modified:30d is:file');
    const { count } = await until(
      () => one(made.id),
      (s) => s.count > 0,
    );
    await until(
      () => one(week.id),
      (s) => s.count > 0,
    );
    await rellin.stop();
    rellin.write('Tidal/table-3.csv');
    rmSync(join(rellin.place, 'Tidal/table-10.csv'));
    // as if a year had gone by since
    const path = rellin.write('old.md');
    utimesSync(path, new Date(2020, 1, 1), new Date(2020, 1, 1));
    await rellin.sql(`UPDATE search_status SET asked_at = now() - interval '400 days' WHERE search_id = $1`, [week.id]);
    await rellin.start();
    const after = await until(
      () => one(made.id),
      (s) => s.came === 1 && s.went === 1,
    );
    expect(after.count).toBe(count);
    expect((await changes(made.id)).came.map((c) => c.name)).toEqual(['table-3.csv']);
    expect((await changes(made.id)).went.map((c) => c.name)).toEqual(['table-10.csv']);
  });

  it('keeps up with 20,000 files unpacked at once', async () => {
    const made = await save('Unpacked', 'in:Unpacked ext:txt');
    const folder = join(rellin.place, 'Unpacked');
    mkdirSync(folder);
    for (let i = 0; i < 20_000; i++) writeFileSync(join(folder, `page ${i}.txt`), '');
    expect(
      await until(
        () => one(made.id),
        (s) => s.count === 20_000 && s.came === 20_000,
        30_000,
      ),
    ).toMatchObject({ went: 0 });
    rmSync(folder, { recursive: true });
    await until(
      () => one(made.id),
      (s) => s.count === 0,
      30_000,
    );
  }, 60_000);
});

describe('the find line', () => {
  const find = async (query: string, where?: string) => (await rellin.get('/find', { q: query, where })).answers;

  it('finds originals as written, shortcuts, and saved searches', async () => {
    expect((await find('notes'))[0]).toMatchObject({ name: 'Notes.md', group: 'original' });
    expect((await find('ringng'))[0]!.name).toContain('ing');
    expect(await find('sheets')).toContainEqual(expect.objectContaining({ name: 'Sheets', group: 'search' }));
  });

  it('narrows by a condition', async () => {
    expect((await find('ring', 'kind:folder')).map((a) => a.name)).toEqual(['Ringing', '2026']);
    expect((await find('table', 'opened:today')).map((a) => a.name)).toEqual(expect.arrayContaining(['table-2.csv']));
    expect((await rellin.refusal(find('a', 'size>'))).kind).toBe('not-valid');
  });
});

describe('contents', () => {
  it('are found with a snippet, follow the file, and count as news', async () => {
    rellin.write(
      'Boat/Safety/briefing.md',
      '# Briefing\n\nThe hand net hangs beside the Müller winch, above the slipway.\n',
    );
    const found = await until(
      () => ask('text:"hand net"'),
      (a) => a.count === 1,
    );
    expect(found.answers[0]).toMatchObject({ name: 'briefing.md' });
    expect(found.answers[0]!.snippet).toContain('«hand» «net»');
    const folded = await ask('text:MULLER in:Safety');
    expect(folded.count).toBe(1);
    expect(folded.answers[0]!.snippet).toContain('«Müller» winch');
    expect((await ask('text:"net hand"')).count).toBe(0);
    expect((await ask('-text:slipway in:Boat/Safety')).count).toBe(0);
    const kept = await save('Winch', 'text:winch');
    await until(
      () => one(kept.id),
      (s) => s.count === 1,
    );
    rellin.write('Boat/winch service.txt', 'Grease the winch in spring.');
    expect(
      await until(
        () => one(kept.id),
        (s) => s.count === 2,
      ),
    ).toMatchObject({ came: 1 });
    rellin.write('Boat/Safety/briefing.md', 'All is said.');
    expect(
      await until(
        () => one(kept.id),
        (s) => s.count === 1,
      ),
    ).toMatchObject({ went: 1 });
  });

  it('are read of the kinds and up to the size that are set', async () => {
    rellin.write('Boat/big.txt', 'keelson '.repeat(2000));
    await until(
      () => ask('text:keelson'),
      (a) => a.count === 1,
    );
    await rellin.call('PATCH', '/settings', { contentLimit: 1000 });
    await until(
      () => ask('text:keelson'),
      (a) => a.count === 0,
    );
    expect((await ask('text:grease')).count).toBe(1);
    await rellin.call('PATCH', '/settings', { contentKinds: ['pdf'], contentLimit: 8_000_000 });
    await until(
      () => ask('text:grease'),
      (a) => a.count === 0,
    );
    await rellin.post('/journal/undo');
    await until(
      () => ask('text:grease'),
      (a) => a.count === 1,
    );
    expect((await rellin.refusal(rellin.call('PATCH', '/settings', { contentKinds: ['sound'] }))).problem.status).toBe(
      400,
    );
  });
});
