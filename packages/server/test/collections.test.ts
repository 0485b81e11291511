/** Collections, working sets, mirrors and tags from outside, on real files. */
import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { seeded } from '@rellin/core/random';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make({}, (r) => {
    for (const name of ['log 2.csv', 'log 10.csv', 'map.png', 'notes.md']) r.write(`season/${name}`);
    mkdirSync(join(r.place, 'season/old'));
  });
});
afterAll(() => rellin.remove());

const undo = () => rellin.post('/journal/undo');
const make = (name: string, more: object = {}) => rellin.post('/collections', { name, ...more });
const collection = (id: string) => rellin.get(`/collections/${id}`);
const members = (id: string) => rellin.get(`/collections/${id}/members`);
const put = (id: string, body: object) => rellin.post(`/collections/${id}/members`, body);
const names = async (id: string) => {
  const all = new Map((await rellin.shortcuts()).map((s) => [s.id, s.name]));
  const groups = new Map((await rellin.get('/collections')).map((c) => [c.id, c.name]));
  return (await members(id)).members.map((m) => all.get(m.itemId) ?? groups.get(m.itemId));
};
const shortcuts = async (...which: string[]) =>
  Promise.all(which.map(async (name) => (await rellin.add(rellin.write(`things/${name}.txt`))).id));
const folderId = async (path: string) => {
  const located = await rellin.post('/originals/locate', {
    path: join(rellin.place, path),
  });
  return { placeId: located.placeId, originalId: located.folderId };
};

describe('a collection', () => {
  it('holds shortcuts in own order; one may be in many, and knows all of them', async () => {
    const [a, b, c] = (await shortcuts('a', 'b', 'c')) as [string, string, string];
    const round = await make('Morning round', { shortcutIds: [a, b] });
    const tools = await make('Tools', { shortcutIds: [b] });
    await put(round.id, { shortcutIds: [c], before: (await members(round.id)).members[1]!.id });
    expect(await names(round.id)).toEqual(['a', 'c', 'b']);
    expect((await rellin.shortcut(b)).collections.sort()).toEqual([round.id, tools.id].sort());
    expect((await collection(round.id)).count).toBe(3);
    expect((await put(round.id, { shortcutIds: [a, b] })).added).toBe(0);
  });

  it('is moved about by one changed row, and undone', async () => {
    const ids = await shortcuts('p', 'q', 'r', 's');
    const { id } = await make('Order', { shortcutIds: ids });
    const at = async (name: string) => {
      const list = await names(id);
      return (await members(id)).members[list.indexOf(name)]!.id;
    };
    await rellin.post(`/collections/${id}/members/move`, { memberIds: [await at('s')], before: await at('q') });
    expect(await names(id)).toEqual(['p', 's', 'q', 'r']);
    await rellin.post(`/collections/${id}/members/move`, { memberIds: [await at('p'), await at('q')], before: null });
    expect(await names(id)).toEqual(['s', 'r', 'p', 'q']);
    const [line] = await rellin.get('/journal', { limit: 1 });
    const [row] = await rellin.sql(`SELECT jsonb_array_length(changes) AS n FROM journal WHERE id = $1`, [line!.id]);
    expect(row!['n']).toBe(2);
    await undo();
    await undo();
    expect(await names(id)).toEqual(['p', 'q', 'r', 's']);
  });

  it('keeps its order through so many moves into one gap that the line must be numbered anew', async () => {
    const ids = await shortcuts('x1', 'x2', 'x3', 'x4');
    const { id } = await make('Gap', { shortcutIds: ids });
    let expected = ['x1', 'x2', 'x3', 'x4'];
    for (let i = 0; i < 70; i++) {
      const list = (await members(id)).members;
      // the last goes right behind the first, again and again
      await rellin.post(`/collections/${id}/members/move`, { memberIds: [list[3]!.id], before: list[1]!.id });
      expected = [expected[0]!, expected[3]!, expected[1]!, expected[2]!];
    }
    expect(await names(id)).toEqual(expected);
    await undo();
    expect(await names(id)).toEqual([expected[0], expected[2], expected[3], expected[1]]);
  });

  it('nests, but never in itself, however deep', async () => {
    const one = await make('One');
    const two = await make('Two', { parentId: one.id });
    const three = await make('Three', { parentId: two.id });
    expect((await collection(three.id)).parents).toEqual([two.id]);
    for (const [into, what] of [
      [one.id, one.id],
      [three.id, one.id],
      [two.id, one.id],
    ]) {
      const refused = await rellin.refusal(put(into!, { collectionIds: [what] }));
      expect(refused.kind).toBe('conflict');
      expect(refused.problem.detail).toMatch(/cannot/);
    }
    expect((await put(one.id, { collectionIds: [three.id] })).added).toBe(1);
    await rellin.call('DELETE', `/collections/${two.id}`);
    expect(await names(one.id)).toEqual(['Three']);
    // in the bin it still holds its place
    expect((await rellin.refusal(put(three.id, { collectionIds: [one.id] }))).kind).toBe('conflict');
    await undo();
    expect(await names(one.id)).toEqual(['Two', 'Three']);
  });

  it('loses nothing when it is removed: members, places and pin wait in the bin with it', async () => {
    const [a] = await shortcuts('kept a');
    const outer = await make('Outer');
    const inner = await make('Inner', { shortcutIds: [a], parentId: outer.id });
    await rellin.post('/pins', { target: 'collection', targetId: inner.id });
    await rellin.call('DELETE', `/collections/${inner.id}`);
    expect(await names(outer.id)).toEqual([]);
    expect((await rellin.pins()).some((p) => p.targetId === inner.id)).toBe(false);
    expect((await rellin.shortcut(a!)).collections).toEqual([]);
    expect((await rellin.get('/collections', { from: 'bin' })).map((c) => c.name)).toContain('Inner');
    await rellin.post(`/collections/${inner.id}/put-back`);
    expect(await names(outer.id)).toEqual(['Inner']);
    expect(await names(inner.id)).toEqual(['kept a']);
    expect((await rellin.pins()).find((p) => p.targetId === inner.id)).toMatchObject({
      target: 'collection',
      count: 1,
      kind: null,
    });
    expect((await rellin.shortcut(a!)).collections).toEqual([inner.id]);
  });

  it('keeps a removed shortcut’s place for it', async () => {
    const ids = await shortcuts('left', 'middle', 'right');
    const { id } = await make('Places', { shortcutIds: ids });
    await rellin.call('DELETE', `/shortcuts/${ids[1]}`);
    expect(await names(id)).toEqual(['left', 'right']);
    await rellin.post(`/shortcuts/${ids[1]}/put-back`);
    expect(await names(id)).toEqual(['left', 'middle', 'right']);
  });

  it('is made from a folder: files, folders or all, in natural order, with the shortcuts there are', async () => {
    const folder = await folderId('season');
    const map = await rellin.add(join(rellin.place, 'season/map.png'), { name: 'The map' });
    const files = await make('Season files', { fromFolder: { ...folder, only: 'files' } });
    // the one that had a shortcut comes with it, the rest get theirs
    expect((await names(files.id)).sort()).toEqual(['The map', 'log 10', 'log 2', 'notes'].sort());
    expect((await rellin.shortcuts()).filter((s) => s.location === map.location)).toHaveLength(1);
    const folders = await make('Season folders', { fromFolder: { ...folder, only: 'folders' } });
    expect(await names(folders.id)).toEqual(['old']);
    await undo();
    expect((await rellin.shortcuts()).some((s) => s.name === 'old')).toBe(false);
  });

  it('takes originals and programs without a shortcut, in one act', async () => {
    const { id } = await make('Targets');
    const path = rellin.write('things/fresh.txt');
    await put(id, { targets: [{ typed: path }, { typed: 'https://tides.example/' }] });
    expect(await names(id)).toEqual(['fresh', 'tides.example']);
    await undo();
    expect(await names(id)).toEqual([]);
    expect((await rellin.shortcuts()).some((s) => s.name === 'fresh')).toBe(false);
  });

  it('tells the later of two windows that it has changed, and loses neither change', async () => {
    const ids = await shortcuts('w1', 'w2', 'w3');
    const { id } = await make('Two windows', { shortcutIds: ids });
    const seen = await members(id);
    const [first, , third] = seen.members;
    await rellin.post(`/collections/${id}/members/move`, {
      memberIds: [third!.id],
      before: first!.id,
      revision: seen.revision,
    });
    const late = await rellin.refusal(
      rellin.post(`/collections/${id}/members/move`, { memberIds: [first!.id], before: null, revision: seen.revision }),
    );
    expect([late.kind, late.problem.detail]).toEqual([
      'changed-since',
      expect.stringContaining('in another window meanwhile'),
    ]);
    expect(await names(id)).toEqual(['w3', 'w1', 'w2']);
    const again = await rellin.refusal(
      rellin.call('PATCH', `/collections/${id}`, { name: 'Late', revision: seen.revision }),
    );
    expect(again.kind).toBe('changed-since');
    expect((await collection(id)).name).toBe('Two windows');
  });

  it('keeps first what is to be first', async () => {
    const ids = await shortcuts('f1', 'f2');
    const { id } = await make('First', { shortcutIds: ids });
    const second = (await members(id)).members[1]!.id;
    await rellin.post(`/collections/${id}/members/keep-first`, { memberIds: [second], keepFirst: true });
    expect((await members(id)).members.map((m) => m.keepFirst)).toEqual([false, true]);
    await undo();
    expect((await members(id)).members.map((m) => m.keepFirst)).toEqual([false, false]);
  });

  it.each([
    ['no name', () => rellin.post('/collections', { name: '  ' }), 'not-valid'],
    ['a colour that is none', () => rellin.post('/collections', { name: 'x', colour: '#fff' }), 'not-valid'],
    ['a parent that is gone', () => make('x', { parentId: '00000000-0000-4000-8000-000000000000' }), 'not-found'],
    ['a member that is gone', () => make('x', { shortcutIds: ['00000000-0000-4000-8000-000000000000'] }), 'not-found'],
    ['a mirror of nothing', () => make('x', { type: 'mirror' }), 'not-valid'],
    ['a date that is none', () => make('x', { type: 'working-set', until: 'soon' }), 'not-valid'],
  ])('is refused with %s, and nothing is made', async (_name, work, kind) => {
    const before = (await rellin.get('/collections')).length;
    expect((await rellin.refusal(work())).kind).toBe(kind);
    expect((await rellin.get('/collections')).length).toBe(before);
  });

  it('is found by its name, after shortcuts of equal rank', async () => {
    await make('Plover gathering');
    const found = await until(
      () => rellin.get('/find', { q: 'plover' }),
      (f) => f.answers.length > 0,
    );
    expect(found.answers[0]).toMatchObject({ group: 'collection', name: 'Plover gathering' });
  });
});

describe('a working set', () => {
  it('is emptied in one act, nothing behind it touched, and brought back as it was', async () => {
    const ids = await shortcuts('m1', 'm2', 'm3');
    const { id } = await make('Today', { type: 'working-set', shortcutIds: ids });
    const last = (await members(id)).members[2]!.id;
    await rellin.post(`/collections/${id}/members/keep-first`, { memberIds: [last], keepFirst: true });
    expect(await rellin.post(`/collections/${id}/empty`)).toEqual({ removed: 3 });
    expect(await names(id)).toEqual([]);
    expect((await rellin.shortcuts()).filter((s) => ids.includes(s.id))).toHaveLength(3);
    expect((await collection(id)).lastMembers).toBe(3);
    await rellin.call('DELETE', `/shortcuts/${ids[0]}`);
    expect(await rellin.post(`/collections/${id}/bring-back`)).toEqual({ added: 2 });
    expect(await names(id)).toEqual(['m2', 'm3']);
    expect((await members(id)).members.map((m) => m.keepFirst)).toEqual([false, true]);
  });

  it('empties itself when its end has come, also while Rellin was stopped, as an act of Rellin’s own', async () => {
    const ids = await shortcuts('e1');
    const { id } = await make('Till midnight', {
      type: 'working-set',
      shortcutIds: ids,
      until: new Date(Date.now() + 3_600_000).toISOString(),
    });
    await rellin.stop();
    await rellin.sql(`UPDATE collection SET until = now() - interval '1 minute' WHERE id = $1`, [id]);
    await rellin.start();
    const ended = await until(
      () => collection(id),
      (c) => c.count === 0,
    );
    expect(ended).toMatchObject({ until: null, lastMembers: 1 });
    const line = (await rellin.get('/journal', { limit: 5 })).find((l) => l.act === 'empty-collection')!;
    expect(line).toMatchObject({ by: 'automatic', inStack: false });
    await rellin.post(`/journal/${line.id}/undo`);
    expect(await names(id)).toEqual(['e1']);
  });
});

describe('a mirror', () => {
  it('shows what its folder holds right now, follows it when it is renamed, and takes no members', async () => {
    rellin.write('mirrored/one.txt');
    const folder = await until(
      () => folderId('mirrored').catch(() => undefined),
      (f) => f !== undefined,
    );
    const mirror = await make('Mirror of it', { type: 'mirror', folder });
    expect(mirror).toMatchObject({ type: 'mirror', count: 1, mirror: { placeId: 1, state: 'ready' } });
    rellin.write('mirrored/two.txt');
    await until(
      () => collection(mirror.id),
      (c) => c.count === 2,
    );
    renameSync(join(rellin.place, 'mirrored'), join(rellin.place, 'reflected'));
    await until(
      () => collection(mirror.id),
      (c) => c.mirror?.state === 'followed' && c.count === 2,
    );
    const listed = await rellin.get(
      `/originals/${mirror.mirror!.placeId}/folder/${(await collection(mirror.id)).mirror!.originalId}`,
    );
    expect(listed.entries.map((e) => e.name)).toEqual(['one.txt', 'two.txt']);
    const [a] = await shortcuts('not for a mirror');
    expect((await rellin.refusal(put(mirror.id, { shortcutIds: [a] }))).kind).toBe('conflict');
  });

  it('of a file is refused', async () => {
    const made = await rellin.add(rellin.write('things/plain.txt'));
    const refused = await rellin.refusal(
      make('x', { type: 'mirror', folder: { placeId: made.placeId, originalId: made.originalId } }),
    );
    expect(refused.kind).toBe('not-a-folder');
  });
});

describe('tags', () => {
  const tags = () => rellin.get('/tags');

  it('go onto shortcuts and originals alike, many in one act, and off again', async () => {
    const [a, b] = await shortcuts('t1', 't2');
    rellin.write('things/plain original.txt');
    const { placeId, originalId } = await until(
      () =>
        rellin
          .post('/originals/locate', {
            path: join(rellin.place, 'things/plain original.txt'),
          })
          .catch(() => ({ placeId: 0, originalId: 0 })),
      (l) => l.placeId > 0,
    );
    const tag = await rellin.post('/tags', { name: 'field work' });
    expect(
      await rellin.post(`/tags/${tag.id}/put`, {
        shortcutIds: [a!, b!],
        originals: [{ placeId, originalId }],
      }),
    ).toEqual({ tagged: 3 });
    expect(await rellin.post(`/tags/${tag.id}/put`, { shortcutIds: [a!] })).toEqual({ tagged: 0 });
    const bearing = await rellin.get(`/tags/${tag.id}/bearers`);
    expect(bearing.shortcutIds.sort()).toEqual([a, b].sort());
    expect(bearing.originals.map((o) => [o.name, o.trail])).toEqual([['plain original.txt', ['place', 'things']]]);
    expect((await rellin.shortcut(a!)).tags).toEqual([tag.id]);
    // the original says so as well, by itself and in its folder, and gives it up again
    const { trail, ...original } = await rellin.get(`/originals/${placeId}/${originalId}`);
    expect(original.tags).toEqual([tag.id]);
    const inFolder = async () => {
      const { entries } = await rellin.get(`/originals/${placeId}/folder/${trail.at(-2)!.id}`);
      return entries.find((e) => e.id === originalId)!.tags;
    };
    expect(await inFolder()).toEqual([tag.id]);
    const itself = { originals: [{ placeId, originalId }] };
    expect(await rellin.post(`/tags/${tag.id}/take`, itself)).toEqual({ taken: 1 });
    expect(await inFolder()).toEqual([]);
    expect((await undo()).summary).toContain('Removed the tag');
    expect(await inFolder()).toEqual([tag.id]);
    const found = await until(
      () => rellin.get('/find', { q: 'field+work' }),
      (f) => f.answers.length >= 2,
    );
    expect(
      found.answers
        .filter((x) => x.group === 'shortcut')
        .map((x) => x.name)
        .sort(),
    ).toEqual(['t1', 't2']);
    await undo();
    expect((await tags()).find((t) => t.id === tag.id)!.count).toBe(0);
  });

  it('have a colour of their own, and a name that no other has, whatever its case', async () => {
    const made = await Promise.all(['boat', 'nets', 'moths'].map((name) => rellin.post('/tags', { name })));
    expect(made.every((t) => t.colour !== '')).toBe(true);
    const refused = await rellin.refusal(rellin.post('/tags', { name: 'BOAT' }));
    expect([refused.kind, refused.problem.detail]).toEqual(['conflict', expect.stringContaining('already')]);
    expect((await rellin.refusal(rellin.post('/tags', { name: 'x', colour: 'mauve' }))).kind).toBe('not-valid');
  });

  it('removed, they come off everything; undone, they are back on it, pin and all', async () => {
    const [a] = await shortcuts('tagged');
    const tag = await rellin.post('/tags', { name: 'passing', shortcutIds: [a!] });
    await rellin.post('/pins', { target: 'tag', targetId: tag.id });
    await rellin.call('DELETE', `/tags/${tag.id}`);
    expect((await rellin.shortcut(a!)).tags).toEqual([]);
    expect((await rellin.pins()).some((p) => p.target === 'tag')).toBe(false);
    await undo();
    expect((await rellin.shortcut(a!)).tags).toEqual([tag.id]);
    expect((await rellin.pins()).find((p) => p.target === 'tag')).toMatchObject({ name: 'passing', count: 1 });
  });
});

describe('what goes with a shortcut', () => {
  it('is carried along in order, a new one made on the way, and taken back', async () => {
    const [log, manual] = (await shortcuts('the log', 'the manual')) as [string, string];
    await rellin.post(`/shortcuts/${log}/goes-with`, { withId: manual });
    const after = await rellin.post(`/shortcuts/${log}/goes-with`, { typed: 'https://codes.example/' });
    expect(after.goesWith.map((w) => w.name)).toEqual(['the manual', 'codes.example']);
    expect((await rellin.refusal(rellin.post(`/shortcuts/${log}/goes-with`, { withId: manual }))).kind).toBe(
      'conflict',
    );
    expect((await rellin.refusal(rellin.post(`/shortcuts/${log}/goes-with`, { withId: log }))).kind).toBe('conflict');
    await rellin.call('DELETE', `/shortcuts/${log}/goes-with/${after.goesWith[0]!.id}`);
    expect((await rellin.shortcut(log)).goesWith.map((w) => w.name)).toEqual(['codes.example']);
    await undo();
    expect((await rellin.shortcut(log)).goesWith).toHaveLength(2);
  });

  it('also-called names find it', async () => {
    const [id] = await shortcuts('engine hours');
    await rellin.call('PATCH', `/shortcuts/${id}`, { alsoCalled: ['Perkins log'] });
    const found = await until(
      () => rellin.get('/find', { q: 'perkins' }),
      (f) => f.answers.length > 0,
    );
    expect(found.answers[0]!.name).toBe('engine hours');
  });
});

describe('any sequence of acts', () => {
  it('and as many undos ends where it began, rows and files alike', async () => {
    const random = seeded(303);
    const picture = async () => ({
      rows: await Promise.all(
        ['collection', 'member', 'tag', 'tagging', 'companion', 'pin', 'shortcut'].map((t) =>
          rellin.sql(`SELECT to_jsonb(t) - 'revision' AS row FROM ${t} t ORDER BY id`),
        ),
      ),
      folder: (await rellin.get(`/originals/1/folder/${(await folderId('things')).originalId}`)).total,
    });
    writeFileSync(join(rellin.place, 'things/settled.txt'), 'x');
    await until(
      () => rellin.get('/find', { q: 'settled' }),
      (f) => f.answers.length > 0,
    );
    const before = await picture();
    const all = (await rellin.shortcuts()).map((s) => s.id);
    let done = 0;
    const newest = async () => (await rellin.get('/journal', { limit: 1 }))[0]!.id;
    for (let i = 0; i < 60; i++) {
      const groups = (await rellin.get('/collections')).filter((c) => c.type !== 'mirror');
      const labels = await tagIds();
      const g = random.pick(groups)?.id;
      const s = random.pick(all);
      const inside = g ? (await members(g)).members.map((m) => m.id) : [];
      const m = random.pick(inside);
      const acts: (() => Promise<unknown>)[] = [
        () => make(`made ${i}`, { shortcutIds: [s], ...(random.next() < 0.5 && { parentId: g }) }),
        () => put(g!, { shortcutIds: [s, random.pick(all)] }),
        () => put(g!, { collectionIds: [random.pick(groups)!.id] }),
        () => rellin.post(`/collections/${g}/members/remove`, { memberIds: [m] }),
        () => rellin.post(`/collections/${g}/members/move`, { memberIds: [m], before: random.pick(inside) ?? null }),
        () => rellin.post(`/collections/${g}/members/keep-first`, { memberIds: [m], keepFirst: true }),
        () => rellin.post(`/collections/${g}/empty`),
        () => rellin.post(`/collections/${g}/bring-back`),
        () => rellin.call('DELETE', `/collections/${g}`),
        () => rellin.call('PATCH', `/collections/${g}`, { name: `name ${i}`, sortBy: 'name' }),
        () => rellin.post('/tags', { name: `tag ${i}`, shortcutIds: [s] }),
        () => rellin.post(`/tags/${random.pick(labels)}/put`, { shortcutIds: [s] }),
        () => rellin.call('DELETE', `/tags/${random.pick(labels)}`),
        () => rellin.post('/pins', { target: 'collection', targetId: g }),
        () => rellin.post(`/shortcuts/${s}/goes-with`, { withId: random.pick(all) }),
      ];
      const last = await newest();
      await random.pick(acts)!().catch(() => undefined);
      if ((await newest()) !== last) done++;
    }
    expect(done).toBeGreaterThan(25);
    for (let i = 0; i < done; i++) await undo();
    expect(await picture()).toEqual(before);
  });

  const tagIds = async () => (await rellin.get('/tags')).map((t) => t.id);
});

describe('the bin', () => {
  it('is emptied by hand: what was in it is gone for good, its originals are not', async () => {
    const path = rellin.write('things/binned.txt');
    const made = await rellin.add(path);
    const { id } = await make('Binned too', { shortcutIds: [made.id] });
    await rellin.call('DELETE', `/shortcuts/${made.id}`);
    await rellin.call('DELETE', `/collections/${id}`);
    const line = (await rellin.get('/journal', { limit: 1 }))[0]!;
    const { removed } = await rellin.post('/bin/empty');
    expect(removed).toBeGreaterThanOrEqual(2);
    expect((await rellin.refusal(rellin.shortcut(made.id))).kind).toBe('not-found');
    expect(existsSync(path)).toBe(true);
    expect((await rellin.refusal(rellin.post(`/journal/${line.id}/undo`))).kind).toBe('changed-since');
  });

  it('lets go by itself what waited 30 days, not what waited less, and not what a mirror shows its folder by', async () => {
    rellin.write('waited/in.txt');
    const folder = await until(
      () => folderId('waited').catch(() => undefined),
      (f) => f !== undefined,
    );
    const mirror = await make('Waiting mirror', { type: 'mirror', folder });
    const [old, young] = (await shortcuts('old one', 'young one')) as [string, string];
    for (const id of [old, young, mirror.mirror!.shortcutId]) await rellin.call('DELETE', `/shortcuts/${id}`);
    await rellin.stop();
    await rellin.sql(
      `UPDATE shortcut SET removed_at = removed_at - make_interval(days => CASE WHEN id = $1 THEN 29 ELSE 31 END)
       WHERE removed_at IS NOT NULL`,
      [young],
    );
    await rellin.start();
    const left = (await rellin.get('/shortcuts', { from: 'bin' })).map((s) => s.id);
    expect(left).toContain(young);
    expect(left).toContain(mirror.mirror!.shortcutId);
    expect(left).not.toContain(old);
    expect((await collection(mirror.id)).count).toBe(1);
  });
});

describe('keys of one’s own', () => {
  it('belong to one thing each; what is taken or Rellin’s is refused with the reason; undone with the rest', async () => {
    const [a, b] = (await shortcuts('keyed a', 'keyed b')) as [string, string];
    const { id } = await make('Keyed');
    const set = (path: `/shortcuts/${string}` | `/collections/${string}`, keys: string | null) =>
      rellin.call('PATCH', path, { keys });
    expect((await set(`/shortcuts/${a}`, 'J  T')).keys).toBe('j t');
    for (const [path, keys, why] of [
      [`/shortcuts/${b}` as const, 'j t', 'opens “keyed a” already'],
      [`/collections/${id}` as const, 'j', 'begin alike'],
      [`/collections/${id}` as const, 'n', 'Add a shortcut'],
      [`/shortcuts/${b}` as const, 'ctrl+w', 'belongs to the browser'],
    ] as const) {
      const refused = await rellin.refusal(set(path, keys));
      expect([refused.kind, refused.problem.detail]).toEqual(['conflict', expect.stringContaining(why)]);
    }
    expect((await set(`/collections/${id}`, 'ctrl+alt+k')).keys).toBe('ctrl+alt+k');
    await undo();
    expect((await collection(id)).keys).toBeNull();
    await rellin.call('DELETE', `/shortcuts/${a}`);
    expect((await set(`/shortcuts/${b}`, 'j t')).keys).toBe('j t');
    await rellin.post(`/shortcuts/${a}/put-back`);
    expect((await rellin.shortcut(a)).keys).toBeNull();
    expect((await set(`/shortcuts/${b}`, null)).keys).toBeNull();
  });
});

describe('many names in one act', () => {
  it('are changed and taken back together; none where one would be empty', async () => {
    const ids = await shortcuts('n1', 'n2');
    await rellin.post('/shortcuts/rename', { names: ids.map((id, i) => ({ id, name: `Net ${i}` })) });
    expect((await Promise.all(ids.map((id) => rellin.shortcut(id)))).map((s) => s.name)).toEqual(['Net 0', 'Net 1']);
    await undo();
    expect((await Promise.all(ids.map((id) => rellin.shortcut(id)))).map((s) => s.name)).toEqual(['n1', 'n2']);
    const refused = await rellin.refusal(
      rellin.post('/shortcuts/rename', {
        names: [
          { id: ids[0]!, name: 'fine' },
          { id: ids[1]!, name: ' ' },
        ],
      }),
    );
    expect(refused.kind).toBe('not-valid');
    expect((await rellin.shortcut(ids[0]!)).name).toBe('n1');
  });
});

describe('pins of collections and tags', () => {
  it('stand among the others, move, and can be put aside for good', async () => {
    const { id } = await make('Pinned one');
    await rellin.post('/pins', { target: 'collection', targetId: id });
    const pin = (await rellin.pins()).find((p) => p.targetId === id)!;
    await rellin.call('PATCH', `/pins/${pin.id}`, { slot: 1 });
    const now = await rellin.call('PATCH', `/pins/${pin.id}`, { aside: true });
    expect(now[0]).toMatchObject({ targetId: id, slot: 1, key: '1', aside: true });
    await undo();
    expect((await rellin.pins())[0]!.aside).toBe(false);
    expect((await rellin.refusal(rellin.post('/pins', { target: 'collection', targetId: id }))).kind).toBe('conflict');
  });
});
