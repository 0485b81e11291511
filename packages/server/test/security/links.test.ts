/** Many links at once: one that somebody waits for does not wait for all of them. */
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { CollectionView } from '@rellin/contract';
import { Rellin, until } from '../testing/harness.js';

const MEMBERS = 500;
const PUBLICATIONS = 8;

let rellin: Rellin;
afterAll(() => rellin?.remove());

describe('a collection of many members, published many times', () => {
  let collection: CollectionView;
  let one: string;
  beforeAll(async () => {
    rellin = await Rellin.make({}, (r) => {
      for (let i = 0; i < MEMBERS; i++) r.write(`many/file ${i}.txt`, `${i}`);
      for (let i = 0; i < PUBLICATIONS; i++) r.write(`to ${i}/.keep`);
    });
    await rellin.settled();
    const rows = await until(
      () =>
        rellin.sql(
          `SELECT o.place_id, o.id FROM original o JOIN original p ON p.place_id = o.place_id AND p.id = o.parent_id
           WHERE p.name = 'many'`,
        ),
      (known) => known.length === MEMBERS,
    );
    const targets = rows.map((r) => ({ placeId: Number(r['place_id']), originalId: Number(r['id']) }));
    collection = await rellin.post('/collections', { name: 'Many', targets });
    [one] = (await rellin.shortcuts()).map((s) => s.id) as [string];
  }, 120_000);

  it('lets an alias through while its folders are being written', async () => {
    const publishing = Array.from({ length: PUBLICATIONS }, (_, i) =>
      rellin.post('/aliases/publications', {
        source: 'collection',
        sourceId: collection.id,
        folder: join(rellin.place, `to ${i}`),
      }),
    );
    let published = 0;
    for (const p of publishing) void p.then(() => published++);
    await until(
      () => existsSync(join(rellin.place, 'to 0/Many')),
      (is) => is,
    );
    const alias = await rellin.post('/aliases', { shortcutId: one, folder: rellin.place });
    expect(alias.state).toBe('there');
    expect(published).toBeLessThan(PUBLICATIONS);
    await Promise.all(publishing);
    for (let i = 0; i < PUBLICATIONS; i++)
      expect(readdirSync(join(rellin.place, `to ${i}/Many`))).toHaveLength(MEMBERS);
    await rellin.call('DELETE', `/aliases/${alias.id}`);
    const again = await rellin.post('/aliases', { shortcutId: one, folder: rellin.place });
    expect(existsSync(again.path)).toBe(true);
  }, 1_200_000);

  it('follows what changes in it, in every folder', async () => {
    await rellin.call('PATCH', `/shortcuts/${one}`, { name: 'of another name' });
    await until(
      () => readdirSync(join(rellin.place, `to ${PUBLICATIONS - 1}/Many`)),
      (names) => names.some((n) => n.startsWith('of another name')),
    );
  }, 120_000);
});
