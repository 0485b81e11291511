/**
 * Many at once: nothing is refused for want of a connection, nothing waits for ever, and what was asked first is done
 * first.
 */
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { readdirSync, rmSync } from 'node:fs';
import { type Refused, Rellin, until } from '../testing/harness.js';

/** More than twice the pool and what may wait before it; two thousand take the same way, and longer. */
const ACTS = 400;

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make({});
  for (let i = 0; i < 50; i++) rellin.write(`file ${i}.txt`);
});
afterAll(() => rellin?.remove());

describe('hundreds of acts at once', () => {
  it('all come to their end, each once, and none leaves a transaction open', async () => {
    const tags = await Promise.all(Array.from({ length: ACTS }, (_, i) => rellin.post('/tags', { name: `tag ${i}` })));
    expect(new Set(tags.map((t) => t.id)).size).toBe(ACTS);
    const [{ n }] = (await rellin.sql(`SELECT count(*)::int AS n FROM journal WHERE act = 'add-tag'`)) as [
      { n: number },
    ];
    expect(n).toBe(ACTS);
    const open = await rellin.sql(
      `SELECT pid FROM pg_stat_activity WHERE datname = current_database() AND state LIKE 'idle in transaction%'`,
    );
    expect(open).toEqual([]);
  }, 120_000);

  it('of different kinds, that look at what others change, as well', async () => {
    await rellin.settled();
    const made = await Promise.all(Array.from({ length: 50 }, (_, i) => rellin.add(`${rellin.place}/file ${i}.txt`)));
    const kinds = [
      (i: number) => rellin.call('PATCH', `/shortcuts/${made[i % 50]!.id}`, { name: `named ${i}` }),
      (i: number) => rellin.open(made[i % 50]!.id),
      () => rellin.post('/collections', { name: 'c', shortcutIds: made.slice(0, 5).map((m) => m.id) }),
      (i: number) => rellin.call('PATCH', '/settings', { pinLimit: 1 + (i % 30) }),
      () => rellin.get('/shortcuts'),
    ];
    const outcomes = await Promise.allSettled(Array.from({ length: 200 }, (_, i) => kinds[i % kinds.length]!(i)));
    expect(
      outcomes.flatMap((o) => (o.status === 'rejected' ? [String(o.reason), rellin.logged().slice(-3000)] : [])),
    ).toEqual([]);
  }, 120_000);

  it('that give the same name: one has it, and the others are told', async () => {
    const once = async (path: '/tags') => {
      const outcomes = await Promise.all(
        Array.from({ length: 12 }, () =>
          rellin.post(path, { name: 'the same' }).then(
            () => 'made',
            (error: unknown) => (error as Refused).kind,
          ),
        ),
      );
      expect(outcomes.sort()).toEqual([...Array<string>(11).fill('conflict'), 'made']);
    };
    await once('/tags');
  });

  it('that each close a part of a circle do not all come through', async () => {
    for (let i = 0; i < 15; i++) {
      const [a, b, c] = await Promise.all(['A', 'B', 'C'].map((name) => rellin.post('/collections', { name })));
      const put = (into: { id: string }, what: { id: string }) =>
        rellin.post(`/collections/${into.id}/members`, { collectionIds: [what.id] }).then(
          () => 'done',
          () => 'refused',
        );
      const outcomes = await Promise.all([put(a!, b!), put(b!, c!), put(c!, a!)]);
      expect(outcomes.sort()).toEqual(['done', 'done', 'refused']);
    }
  });

  it('one at a time come in the order they were asked', async () => {
    const agentless = async (name: string) => rellin.post('/tags', { name });
    const names = Array.from({ length: 20 }, (_, i) => `in order ${String(i).padStart(2, '0')}`);
    for (const name of names) await agentless(name);
    const rows = await rellin.sql(`SELECT summary FROM journal WHERE summary LIKE '%in order%' ORDER BY id`);
    expect(rows.map((r) => /in order \d\d/.exec(String(r['summary']))![0])).toEqual(names);
  });
});

describe('a thousand things in one request', () => {
  const MANY = 1000;
  let ids: { placeId: number; originalId: number }[];
  beforeAll(async () => {
    for (let i = 0; i < MANY; i++) rellin.write(`many/file ${i}.txt`, `${i}`);
    const rows = await until(
      () =>
        rellin.sql(
          `SELECT o.place_id, o.id FROM original o JOIN original p ON p.place_id = o.place_id AND p.id = o.parent_id WHERE p.name = 'many'`,
        ),
      (known) => known.length === MANY,
      60_000,
    );
    ids = rows.map((r) => ({ placeId: Number(r['place_id']), originalId: Number(r['id']) }));
  }, 120_000);

  it('are added to a collection, each once however often it is named', async () => {
    const made = await rellin.post('/collections', { name: 'many', targets: ids });
    const [{ n }] = (await rellin.sql(`SELECT count(*)::int AS n FROM member WHERE collection_id = $1`, [made.id])) as [
      { n: number },
    ];
    expect(n).toBe(MANY);
    const path = `${rellin.place}/many/file 0.txt`;
    const before = (await rellin.shortcuts()).length;
    const fresh = rellin.write('thrice.txt');
    await rellin.post('/collections', {
      name: 'thrice',
      targets: [{ typed: fresh }, { typed: fresh }, { typed: fresh }, { typed: path }, ids[0]!],
    });
    expect((await rellin.shortcuts()).length).toBe(before + 1);
  }, 120_000);

  it('are filed by one act, and undone by one', async () => {
    rellin.write('into/.keep');
    rmSync(`${rellin.place}/into/.keep`);
    const at = await rellin.post('/originals/locate', { path: `${rellin.place}/into` });
    const into = { placeId: at.placeId, originalId: at.originalId };
    await rellin.post('/filing', { originals: ids, into, how: 'move' });
    expect(readdirSync(`${rellin.place}/into`).length).toBe(MANY);
    await rellin.post('/journal/undo');
    expect(readdirSync(`${rellin.place}/into`).length).toBe(0);
    expect(readdirSync(`${rellin.place}/many`).length).toBe(MANY);
  }, 120_000);
});
