/** Boards from outside: laying, order, tidying, bundles, undo; and the route that they are. */
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { bundleHeight, overlaps, type Lying, type RegionOrder } from '@rellin/core/board';
import { seeded } from '@rellin/core/random';
import type { BoardLayout, RegionView } from '@rellin/contract';
import { Rellin } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make();
});
afterAll(() => rellin.remove());

const undo = () => rellin.post('/journal/undo');
const redo = () => rellin.post('/journal/redo');
const make = (name: string, columns = 3) => rellin.post('/boards', { name, columns });
const layout = (id: string) => rellin.get(`/boards/${id}`);
const put = (id: string, body: object) => rellin.post(`/boards/${id}/items`, body).then((r) => r.layout);
const shortcuts = async (...names: string[]) => {
  const ids: string[] = [];
  for (const name of names) ids.push((await rellin.add(rellin.write(`things/${name}`))).id);
  return ids;
};
const region = async (boardId: string, name: string, order: RegionOrder = 'free'): Promise<RegionView> =>
  (await rellin.post(`/boards/${boardId}/regions`, { name, order })).regions.find((r) => r.name === name)!;
const at = (p: BoardLayout, shortcutId: string) => {
  const item = p.items.find((i) => i.shortcutId === shortcutId)!;
  return [item.x, item.y];
};

/** Of a free region, what lies over something else. */
function over(p: BoardLayout): unknown[] {
  return p.regions
    .filter((r) => r.order === 'free')
    .flatMap((r) => {
      const things: Lying[] = [
        ...p.items.filter((i) => i.regionId === r.id && !i.bundleId).map((i) => ({ ...i, height: 1 })),
        ...p.bundles
          .filter((b) => b.regionId === r.id)
          .map((b) => ({ ...b, height: bundleHeight(p.items.filter((i) => i.bundleId === b.id).length) })),
      ];
      return overlaps(things);
    });
}

describe('a board', () => {
  it('begins with one free region; what is laid on it takes the first free cells, or the nearest to where it is dropped', async () => {
    const { board, regions } = await make('Net round');
    expect(regions).toMatchObject([{ name: 'Anything', order: 'free' }]);
    const [a, b, c, d] = (await shortcuts('a.txt', 'b.txt', 'c.txt', 'd.txt')) as [string, string, string, string];
    let now = await put(board.id, { shortcutIds: [a, b] });
    expect([at(now, a), at(now, b)]).toEqual([
      [0, 0],
      [1, 0],
    ]);
    now = await put(board.id, { shortcutIds: [c], x: 0.8, y: 0.1 });
    expect(at(now, c)).toEqual([1, 1]);
    // the nearest free one: above it all is taken
    now = await put(board.id, { shortcutIds: [d], x: 1.9, y: 0.3, exact: true });
    expect(at(now, d)).toEqual([2, 0.3]);
    expect(over(now)).toEqual([]);
    expect((await rellin.get('/boards'))[0]).toMatchObject({ name: 'Net round', regions: 1, count: 4 });
    expect((await rellin.shortcut(a)).boards).toEqual([board.id]);
  });

  it('moves several together as they lie to each other', async () => {
    const { board } = await make('Together', 4);
    const ids = (await shortcuts('t1', 't2', 't3', 't4')) as [string, string, string, string];
    await put(board.id, { shortcutIds: ids });
    await put(board.id, { shortcutIds: [ids[2]], x: 0, y: 1 });
    const now = await put(board.id, { shortcutIds: [ids[0], ids[1], ids[2]], x: 2, y: 3 });
    expect([at(now, ids[0]), at(now, ids[1]), at(now, ids[2])]).toEqual([
      [2, 3],
      [3, 3],
      [2, 4],
    ]);
    await undo();
    expect(at(await layout(board.id), ids[2])).toEqual([0, 1]);
  });

  it('keeps a region sorted where it says so, and own order by one changed row', async () => {
    const { board } = await make('Sorted');
    const ids = (await shortcuts('s1', 's2', 's3')) as [string, string, string];
    const own = await region(board.id, 'At the nets', 'own');
    let now = await put(board.id, { shortcutIds: ids, regionId: own.id });
    const order = (p: BoardLayout) => p.items.map((i) => ids.indexOf(i.shortcutId));
    expect(order(now)).toEqual([0, 1, 2]);
    now = await put(board.id, { shortcutIds: [ids[2]], regionId: own.id, before: now.items[0]!.id });
    expect(order(now)).toEqual([2, 0, 1]);
    await rellin.post(`/boards/${board.id}/regions/${own.id}/arrange`, { by: 'name' });
    expect(order(await layout(board.id))).toEqual([0, 1, 2]);
    // what is shown in rows stays where it is shown
    now = await rellin.call('PATCH', `/boards/${board.id}/regions/${own.id}`, { order: 'free' });
    expect(ids.map((id) => at(now, id))).toEqual([
      [0, 0],
      [1, 0],
      [2, 0],
    ]);
    expect(
      (await rellin.refusal(rellin.send('POST', `/boards/${board.id}/regions/${own.id}/arrange`, { by: 'free' }))).kind,
    ).toBe('not-valid');
  });

  it('is tidied with the least movement, says how many moved, and leaves no line where none did', async () => {
    const { board } = await make('Untidy');
    const ids = (await shortcuts('u1', 'u2', 'u3')) as [string, string, string];
    for (const [i, id] of ids.entries())
      await put(board.id, { shortcutIds: [id], x: i * 0.6, y: i * 1.2 + 0.2, exact: true });
    const tidied = await rellin.post(`/boards/${board.id}/tidy`);
    expect(tidied.moved).toBe(3);
    expect(ids.map((id) => at(tidied.layout, id))).toEqual([
      [0, 0],
      [1, 1],
      [1, 3],
    ]);
    const [line] = await rellin.get('/journal', { limit: 1 });
    expect(line!.summary).toBe('Tidied “Untidy”: 3 moved');
    expect((await rellin.post(`/boards/${board.id}/tidy`)).moved).toBe(0);
    expect((await rellin.get('/journal', { limit: 1 }))[0]!.id).toBe(line!.id);
  });

  it('bundles by kind and brings all back exactly where it lay, moving aside only what is in the way', async () => {
    const { board } = await make('Photographs');
    const ids = await shortcuts('p1.png', 'p2.png', 'p3.png', 'n1.md', 'q.csv');
    const [p1, p2, p3, note, table] = ids as [string, string, string, string, string];
    const before = await put(board.id, { shortcutIds: ids });
    const { made, layout: bundled } = await rellin.post(`/boards/${board.id}/bundles`, {});
    expect(made).toBe(1);
    expect(bundled.bundles).toMatchObject([{ name: 'Pictures' }]);
    expect(over(bundled)).toEqual([]);
    // two move about meanwhile: one to where a picture lay
    await put(board.id, { shortcutIds: [table], x: 2, y: 5 });
    await put(board.id, { shortcutIds: [note], x: 0, y: 4 });
    const spot = at(await layout(board.id), note);
    await rellin.call('PATCH', `/boards/${board.id}/bundles/${bundled.bundles[0]!.id}`, { x: 0, y: 7 });
    const moved = await put(board.id, { shortcutIds: [note], x: 1, y: 0 });
    expect(at(moved, note)).toEqual([1, 0]);
    const back = await rellin.post(`/boards/${board.id}/bundles/${bundled.bundles[0]!.id}/ungather`);
    for (const id of [p1, p2, p3]) expect(at(back, id)).toEqual(at(before, id));
    expect(at(back, table)).toEqual([2, 5]);
    expect(at(back, note)).not.toEqual([1, 0]);
    expect(spot).toEqual([0, 4]);
    expect(over(back)).toEqual([]);
    await undo();
    expect(await layout(board.id)).toEqual(moved);
  });

  it('makes room for a bundle that grows', async () => {
    const { board } = await make('Growing', 1);
    const ids = await shortcuts('g1.md', 'g2.md', 'g3.csv', 'g4.png', 'g5.pdf');
    const [g1, g2, g3, g4, g5] = ids as [string, string, string, string, string];
    const laid = await put(board.id, { shortcutIds: [g1, g2] });
    const two = laid.items.map((i) => i.id);
    const { layout: bundled } = await rellin.post(`/boards/${board.id}/bundles`, {
      itemIds: two,
      name: 'Two',
    });
    const [bundle] = bundled.bundles;
    await put(board.id, { shortcutIds: [g3], x: 0, y: bundle!.y + 2 });
    const grown = await put(board.id, { shortcutIds: [g4, g5], bundleId: bundle!.id });
    expect(grown.items.filter((i) => i.bundleId)).toHaveLength(4);
    expect(at(grown, g3)).toEqual([0, bundle!.y + 3]);
    expect(over(grown)).toEqual([]);
    // what came into it from elsewhere lies beside where it was, and on nothing, once it is undone
    const out = await rellin.post(`/boards/${board.id}/bundles/${bundle!.id}/ungather`);
    for (const id of [g1, g2]) expect(at(out, id)).toEqual(at(laid, id));
    for (const id of [g4, g5]) expect(at(out, id)[1]!).toBeGreaterThanOrEqual(bundle!.y);
    expect(over(out)).toEqual([]);
  });

  it('keeps the spot of what lies in the bin, and what an undo brings back finds room', async () => {
    const { board } = await make('Rooms');
    const [a, b] = (await shortcuts('r1', 'r2')) as [string, string];
    await put(board.id, { shortcutIds: [a] });
    await rellin.call('DELETE', `/shortcuts/${a}`);
    expect((await layout(board.id)).items).toEqual([]);
    expect(at(await put(board.id, { shortcutIds: [b] }), b)).toEqual([1, 0]);
    await rellin.post(`/shortcuts/${a}/put-back`);
    expect(at(await layout(board.id), a)).toEqual([0, 0]);
    // off, something else into its cell, and then the first act is undone from the journal
    const item = (await layout(board.id)).items.find((i) => i.shortcutId === a)!;
    await rellin.post(`/boards/${board.id}/items/take-off`, { itemIds: [item.id] });
    const [line] = await rellin.get('/journal', { limit: 1 });
    await put(board.id, { shortcutIds: [b], x: 0, y: 0 });
    await rellin.post(`/journal/${line!.id}/undo`);
    const now = await layout(board.id);
    expect(at(now, a)).toEqual([0, 0]);
    expect(over(now)).toEqual([]);
  });

  it('waits in the bin and comes back whole; a region goes with what lies on it, and comes back by one undo', async () => {
    const { board } = await make('Winter works');
    const later = await region(board.id, 'Later', 'own');
    const ids = await shortcuts('w1', 'w2');
    const before = await put(board.id, { shortcutIds: ids, regionId: later.id });
    await rellin.call('DELETE', `/boards/${board.id}/regions/${later.id}`);
    expect((await layout(board.id)).items).toEqual([]);
    await undo();
    expect(await layout(board.id)).toEqual(before);
    await rellin.call('DELETE', `/boards/${board.id}`);
    expect((await rellin.get('/boards')).map((b) => b.id)).not.toContain(board.id);
    expect((await rellin.get('/boards', { from: 'bin' })).map((b) => b.id)).toContain(board.id);
    await rellin.post(`/boards/${board.id}/put-back`);
    expect((await layout(board.id)).items).toHaveLength(2);
    const only = await make('Only one');
    expect(
      (await rellin.refusal(rellin.call('DELETE', `/boards/${only.board.id}/regions/${only.regions[0]!.id}`))).kind,
    ).toBe('conflict');
  });

  it('made narrower brings in what would lie beyond its edge', async () => {
    const { board } = await make('Wide', 5);
    const [a, b] = (await shortcuts('wide 1', 'wide 2')) as [string, string];
    await put(board.id, { shortcutIds: [a], x: 0, y: 0 });
    await put(board.id, { shortcutIds: [b], x: 4, y: 0 });
    const now = await rellin.call('PATCH', `/boards/${board.id}`, { columns: 1 });
    expect([at(now, a), at(now, b)]).toEqual([
      [0, 0],
      [0, 1],
    ]);
  });
});

it('is a way to what lies on it: priced, the first board nearer than the second, a bundle one step more', async () => {
  await rellin.sql(`UPDATE board SET removed_at = now()`);
  const [a, b, c, d] = (await shortcuts('way 1', 'way 2', 'way 3', 'way 4')) as [string, string, string, string];
  const first = await make('First');
  await put(first.board.id, { shortcutIds: [a] });
  const second = await make('Second');
  await put(second.board.id, { shortcutIds: [b, c, d] });
  const route = async (id: string) => (await rellin.shortcut(id)).reach.routes.find((r) => r.kind === 'board');
  const near = (await route(a))!;
  const far = (await route(b))!;
  expect(near.steps).toBe(2);
  expect(far.steps).toBe(3);
  expect(near.seconds).toBeLessThan(far.seconds);
  expect(near.operators.reduce((sum, o) => sum + o.seconds, 0)).toBeCloseTo(near.seconds, 9);
  const items = (await layout(second.board.id)).items.filter((i) => i.shortcutId !== d).map((i) => i.id);
  await rellin.post(`/boards/${second.board.id}/bundles`, { itemIds: items, name: 'Two' });
  expect((await route(b))!.steps).toBe(4);
  // put first, it is the one that the view opens with
  await rellin.post(`/boards/${second.board.id}/first`);
  expect((await route(d))!.steps).toBe(2);
  expect((await route(a))!.steps).toBe(3);
  await rellin.post(`/boards/${first.board.id}/items/take-off`, {
    itemIds: (await layout(first.board.id)).items.map((i) => i.id),
  });
  expect(await route(a)).toBeUndefined();
});

it('never lays one thing over another, whatever is done, and every act is undone exactly (seeded)', async () => {
  const random = seeded(81);
  const { board } = await make('Anything', 4);
  const ids = await shortcuts(...Array.from({ length: 14 }, (_, i) => `any ${i}.${random.pick(['png', 'csv', 'md'])}`));
  await region(board.id, 'Own', 'own');
  await region(board.id, 'More', 'free');
  const states: BoardLayout[] = [await layout(board.id)];
  for (let step = 0; step < 80; step++) {
    const now = states[states.length - 1]!;
    const inRegion = random.pick(now.regions).id;
    const spot = { x: random.next() * 4, y: random.next() * 5 };
    const some = ids.filter(() => random.next() < 0.2);
    const acts: (() => Promise<unknown>)[] = [
      () => put(board.id, { shortcutIds: some, regionId: inRegion, ...spot }),
      () => put(board.id, { shortcutIds: some, regionId: inRegion, ...spot, exact: true }),
      () => put(board.id, { shortcutIds: some, regionId: inRegion }),
      () => rellin.post(`/boards/${board.id}/tidy`),
      () => rellin.post(`/boards/${board.id}/bundles`, { regionId: inRegion }),
      () => rellin.call('PATCH', `/boards/${board.id}`, { columns: random.int(2, 5) }),
      () =>
        rellin.call('PATCH', `/boards/${board.id}/regions/${inRegion}`, {
          order: random.pick<RegionOrder>(['free', 'own', 'name']),
        }),
    ];
    const [bundle] = now.bundles;
    if (bundle) {
      acts.push(() => rellin.post(`/boards/${board.id}/bundles/${bundle.id}/ungather`));
      acts.push(() =>
        rellin.call('PATCH', `/boards/${board.id}/bundles/${bundle.id}`, { ...spot, regionId: inRegion }),
      );
      acts.push(() => put(board.id, { shortcutIds: some, bundleId: bundle.id }));
    }
    const [line] = await rellin.get('/journal', { limit: 1 });
    await random.pick(acts)();
    const then = await layout(board.id);
    expect(over(then)).toEqual([]);
    if ((await rellin.get('/journal', { limit: 1 }))[0]!.id !== line!.id) states.push(then);
  }
  expect(states.length).toBeGreaterThan(20);
  for (let i = states.length - 2; i >= 0; i--) {
    await undo();
    expect(await layout(board.id)).toEqual(states[i]);
  }
  for (let i = 1; i < states.length; i++) {
    await redo();
    expect(await layout(board.id)).toEqual(states[i]);
  }
}, 60_000);
