/** Adding by whatever somebody types: what is meant, and several at once in one act. */
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { toFileUri } from '@rellin/core/paths';
import { mkdirSync, writeFileSync } from 'node:fs';
import { Refused, Rellin } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make({}, (r) => {
    mkdirSync(join(r.base, 'share/applications'), { recursive: true });
    writeFileSync(
      join(r.base, 'share/applications/ring.desktop'),
      '[Desktop Entry]\nType=Application\nName=Ringbook\nExec=ring\n',
    );
  });
});
afterAll(() => rellin.remove());

const meant = (path: string) => rellin.get('/shortcuts/meant', { path });

describe('what is meant', () => {
  it('is the same in every spelling, with its kind', async () => {
    const path = rellin.write('Survey/tide table.csv');
    for (const typed of [path, `"${path}"`, toFileUri(path), path.replace(rellin.base, '~')])
      expect(await meant(typed)).toEqual({
        meant: { kind: 'table', name: 'tide table', location: path, shortcut: null },
        trouble: null,
      });
    expect((await meant(join(rellin.place, 'Survey'))).meant).toMatchObject({ kind: 'folder', name: 'Survey' });
    expect((await meant('ringbook')).meant).toMatchObject({ kind: 'program', name: 'Ringbook' });
    expect((await meant('www.tides.example/a')).meant).toMatchObject({
      kind: 'web',
      location: 'https://www.tides.example/a',
    });
  });
  it('names the shortcut there is, and says what stands against it; nothing is changed', async () => {
    const path = rellin.write('named.txt');
    const { id } = await rellin.add(path);
    expect((await meant(path)).meant!.shortcut).toEqual({ id, name: 'named' });
    const before = await rellin.get('/journal');
    expect((await meant('/etc/passwd')).trouble!.kind).toBe('outside-places');
    expect((await meant(join(rellin.place, 'nothing here'))).trouble!.kind).toBe('not-found');
    expect((await meant('no such program')).trouble!.kind).toBe('not-valid');
    expect((await meant('javascript:alert(1)')).trouble!.kind).toBe('not-valid');
    expect(await rellin.get('/journal')).toEqual(before);
  });
});

describe('several at once', () => {
  it('are made in one act, into collections, with tags and pinned, and undone as one', async () => {
    const paths = ['a.csv', 'b.csv', 'c.csv'].map((name) => rellin.write(`many/${name}`));
    const known = await rellin.add(paths[0]!);
    const collection = await rellin.post('/collections', { name: 'Many' });
    const tag = await rellin.post('/tags', { name: 'urgent' });
    const made = await rellin.post('/shortcuts/many', {
      items: [...paths, paths[1]!, 'https://tides.example/', `${rellin.place}/gone`].map((typed) => ({ typed })),
      collectionIds: [collection.id],
      tagIds: [tag.id],
      pin: true,
    });
    expect(made).toMatchObject({ added: 3, pinned: 4 });
    expect(made.ids).toHaveLength(4);
    expect(made.ids[0]).toBe(known.id);
    expect(made.notMade.map((n) => n.name)).toEqual([`${rellin.place}/gone`.slice(0, 80)]);
    const { members } = await rellin.get(`/collections/${collection.id}/members`);
    expect(members.map((m) => m.itemId)).toEqual(made.ids);
    const all = await rellin.get('/shortcuts');
    for (const id of made.ids) expect(all.find((s) => s.id === id)).toMatchObject({ tags: [tag.id] });
    expect((await rellin.get('/pins')).map((p) => p.targetId)).toEqual(made.ids);
    await rellin.post('/journal/undo');
    expect(await rellin.get('/pins')).toEqual([]);
    expect((await rellin.get(`/collections/${collection.id}/members`)).members).toEqual([]);
    const left = await rellin.get('/shortcuts');
    expect(left.map((s) => s.id)).toContain(known.id);
    expect(left).toHaveLength(all.length - 3);
  });
  it('stand on the strip from the slot that was asked for, in their order', async () => {
    const make = async (slot?: number) =>
      (
        await rellin.post('/shortcuts/many', {
          items: ['x', 'y'].map((name) => ({ typed: rellin.write(`slots/${name}${slot ?? ''}.txt`) })),
          pin: true,
          ...(slot !== undefined && { slot }),
        })
      ).ids;
    const [first, last] = await make();
    const [a, b] = await make(2);
    expect((await rellin.get('/pins')).map((p) => p.targetId)).toEqual([first, a, b, last]);
    await rellin.post('/journal/undo');
    await rellin.post('/journal/undo');
  });
  it('are pinned as far as there is room', async () => {
    await rellin.call('PATCH', '/settings', { pinLimit: 2 });
    const items = ['p', 'q', 'r'].map((name) => ({ typed: rellin.write(`room/${name}.txt`) }));
    expect(await rellin.post('/shortcuts/many', { items, pin: true })).toMatchObject({ added: 3, pinned: 2 });
  });
  it('are refused where none of them leads anywhere, or where they go is gone', async () => {
    const ids = async () => (await rellin.get('/shortcuts')).map((s) => s.id);
    const before = await ids();
    await expect(rellin.post('/shortcuts/many', { items: [{ typed: '/etc/passwd' }] })).rejects.toMatchObject({
      kind: 'outside-places',
    });
    const typed = rellin.write('into nothing.txt');
    const nobody = '00000000-0000-4000-8000-000000000000';
    for (const where of [{ collectionIds: [nobody] }, { tagIds: [nobody] }])
      await expect(rellin.post('/shortcuts/many', { items: [{ typed }], ...where })).rejects.toBeInstanceOf(Refused);
    expect(await ids()).toEqual(before);
  });
});
