/** The check-up on a real file system: what is lost, what may be it, folders that moved, and the review. */
import { cpSync, mkdirSync, readdirSync, renameSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ShortcutDetail } from '@rellin/contract';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make({ places: ['place', 'share'] });
});
afterAll(() => rellin.remove());

const view = () => rellin.get('/check-up');
const journal = () => rellin.get('/journal');
const inState = (id: string, state: ShortcutDetail['state']) =>
  until(
    () => rellin.shortcut(id),
    (s) => s.state === state,
  );
/** Without the server's eyes on it: the inode numbers, the dates and some of the contents change. */
async function meanwhile(happen: () => void): Promise<void> {
  await rellin.stop();
  happen();
  await rellin.start();
}
/** A copy in place of the original, as a move to another file system makes it. */
function carry(from: string, to: string): void {
  mkdirSync(join(to, '..'), { recursive: true });
  cpSync(from, to, { recursive: true });
  rmSync(from, { recursive: true });
}

describe('a folder that was carried away and worked on', () => {
  const made: ShortcutDetail[] = [];

  it('is found as one move, and followed in one act that one undo takes back', async () => {
    for (const name of ['a', 'b', 'c', 'd'])
      made.push(await rellin.add(rellin.write(`Survey/2025/${name}.csv`, `transect ${name}\n1\n2\n3\n4\n5\n6\n7\n`)));
    const from = join(rellin.place, 'Survey/2025');
    const to = join(rellin.base, 'share/Archive/Survey 2025');
    await meanwhile(() => {
      carry(from, to);
      for (const name of readdirSync(to))
        writeFileSync(join(to, name), `transect ${name[0]}\n1\n2\n3\n4\n5\n6\n7\n8\n`);
      rmSync(join(to, 'd.csv'));
    });
    for (const { id } of made) await inState(id, 'lost');
    const { folderMoves, needs } = await until(view, (v) => v.folderMoves.length > 0);
    expect(folderMoves).toHaveLength(1);
    const [move] = folderMoves;
    expect(move).toMatchObject({
      from: { placeName: 'place', path: 'Survey/2025' },
      to: { placeName: 'share', path: 'Archive/Survey 2025' },
      of: 4,
    });
    expect(move!.explains.map((e) => e.path).sort()).toEqual(
      ['a', 'b', 'c'].map((n) => `Archive/Survey 2025/${n}.csv`),
    );
    expect(needs.map((n) => [n.shortcutId, n.candidates.length])).toEqual([[made[3]!.id, 0]]);

    const points = move!.explains.map(({ shortcutId, placeId, originalId }) => ({
      shortcutId,
      placeId,
      originalId,
    }));
    await rellin.post('/check-up/point', { points, moved: { from: move!.from.path, to: move!.to.path } });
    for (const { id } of made.slice(0, 3)) {
      const s = await rellin.shortcut(id);
      expect(s.state).toBe('ready');
      expect(s.location.startsWith(to)).toBe(true);
    }
    const [line] = await journal();
    expect(line!.summary).toBe('Followed 3 shortcuts from Survey/2025 to Archive/Survey 2025');
    await rellin.post(`/journal/${line!.id}/undo`);
    for (const { id, location } of made.slice(0, 3)) expect(await inState(id, 'lost')).toMatchObject({ location });
  });

  it('what is left alone needs nobody, until it is looked after again or found', async () => {
    const ids = made.map((m) => m.id);
    await rellin.post('/check-up/leave', { shortcutIds: ids, leftAlone: true });
    expect(await view()).toMatchObject({
      folderMoves: [],
      needs: [],
      leftAlone: expect.arrayContaining(ids) as unknown as string[],
    });
    await rellin.post('/check-up/leave', { shortcutIds: [ids[3]!], leftAlone: false });
    expect((await view()).needs.map((n) => n.shortcutId)).toEqual([ids[3]]);
    rellin.write('Survey/2025/a.csv', 'it is back');
    const back = await until(
      () => rellin.shortcut(ids[0]!),
      (s) => s.state !== 'lost',
    );
    expect(back.leftAlone).toBe(false);
  });

  it('moved within its place it is followed at once: one line for all, and one undo', async () => {
    const inside: ShortcutDetail[] = [];
    for (let i = 0; i < 30; i++) inside.push(await rellin.add(rellin.write(`Moths/2025/trap ${i}.txt`, `night ${i}`)));
    const to = join(rellin.place, 'Archive/Moths');
    mkdirSync(join(to, '..'), { recursive: true });
    renameSync(join(rellin.place, 'Moths/2025'), to);
    for (const { id } of inside) await inState(id, 'followed');
    const lines = (await journal()).filter((l) => l.act === 'follow' && l.summary.includes('Archive/Moths'));
    expect(lines.map((l) => l.summary)).toEqual([
      `Followed 30 shortcuts (same inode and birth): ${rellin.place}/Moths/2025 is now ${to}`,
    ]);
    await rellin.post(`/journal/${lines[0]!.id}/undo`);
    for (const { id } of inside) await inState(id, 'lost');
    await rellin.post('/shortcuts/remove', { ids: inside.map((s) => s.id) });
  });

  it('with thousands it is followed piece by piece, in one line that one undo takes back', async () => {
    const count = 2300;
    for (let i = 0; i < count; i++) rellin.write(`Herd/seal ${i}.txt`, 'one like the other\n');
    const { id } = await rellin.add(join(rellin.place, 'Herd/seal 0.txt'));
    const ofHerd = `FROM original o, shortcut s WHERE s.id = $1 AND o.place_id = s.place_id AND o.id <> s.original_id
      AND o.parent_id = (SELECT parent_id FROM original p WHERE p.place_id = s.place_id AND p.id = s.original_id)`;
    const number = async (query: string, values: unknown[] = []) => Number((await rellin.sql(query, values))[0]!['n']);
    await until(
      () => number(`SELECT count(*) AS n ${ofHerd}`, [id]),
      (n) => n === count - 1,
    );
    await rellin.sql(
      `INSERT INTO shortcut (id, name, target, kind, place_id, original_id, identity, state, state_since, added_at)
       SELECT gen_random_uuid(), o.name, s.target, s.kind, s.place_id, o.id, s.identity || jsonb_build_object(
         'path', 'Herd/' || o.name, 'inode', o.inode, 'birth', o.birth, 'mtime', o.mtime), 'ready', now(), now() ${ofHerd}`,
      [id],
    );
    renameSync(join(rellin.place, 'Herd'), join(rellin.place, 'Flock'));
    const at = (folder: string) =>
      number(`SELECT count(*) AS n FROM shortcut WHERE identity->>'path' LIKE $1`, [`${folder}/%`]);
    await until(
      () => at('Flock'),
      (n) => n === count,
    );
    const [line, before] = await journal();
    expect(line!.summary).toBe(
      `Followed ${count} shortcuts (same inode and birth): the folder “Herd” is “Flock” now, in ${rellin.place}`,
    );
    expect(before!.act).toBe('add-shortcut');
    await rellin.post(`/journal/${line!.id}/undo`);
    expect([await at('Herd'), await at('Flock')]).toEqual([count, 0]);
    const herd = await rellin.sql(`SELECT id::text FROM shortcut WHERE identity->>'path' LIKE 'Herd/%'`);
    await rellin.post('/shortcuts/remove', { ids: herd.map((row) => String(row['id'])) });
  });
});

describe('what may be a lost file', () => {
  it('is told best first with the evidence; pointing there makes it ready', async () => {
    const old = rellin.write('Forms/trap-form.txt', 'night, trap, lamp, weather');
    utimesSync(old, 1_700_000_000, 1_700_000_000);
    const made = await rellin.add(old);
    await meanwhile(() => {
      for (const copy of ['Templates/trap-form.txt', 'Office/trap form (1).txt']) {
        mkdirSync(join(rellin.place, copy, '..'), { recursive: true });
        cpSync(old, join(rellin.place, copy));
      }
      utimesSync(join(rellin.place, 'Templates/trap-form.txt'), 1_700_000_000, 1_700_000_000);
      rmSync(old);
    });
    await inState(made.id, 'unsure');
    const { needs } = await view();
    const need = needs.find((n) => n.shortcutId === made.id)!;
    expect(need).toMatchObject({ placeName: 'place', was: 'Forms/trap-form.txt' });
    expect(need.candidates.map((c) => [c.path, c.evidence.slice(0, 3)])).toEqual([
      ['Templates/trap-form.txt', ['same content', 'same name', 'same date']],
      ['Office/trap form (1).txt', ['same content', 'like name', 'also txt']],
    ]);
    expect(need.candidates[0]!.sure).toBeGreaterThan(need.candidates[1]!.sure);
    const { placeId, originalId } = need.candidates[0]!;
    await rellin.post('/check-up/point', {
      points: [{ shortcutId: made.id, placeId, originalId }],
    });
    expect(await rellin.shortcut(made.id)).toMatchObject({
      state: 'ready',
      location: join(rellin.place, 'Templates/trap-form.txt'),
    });
    expect((await view()).needs.some((n) => n.shortcutId === made.id)).toBe(false);
  });

  it('is looked for by a like name where nothing has the same', async () => {
    const made = await rellin.add(rellin.write('Office/Rota spring draft.md', 'who is on when'));
    await meanwhile(() => {
      rmSync(join(rellin.place, 'Office/Rota spring draft.md'));
      writeFileSync(join(rellin.place, 'Office/Rota spring draft 2.md'), 'who is on when, revised');
    });
    await inState(made.id, 'lost');
    const need = (await view()).needs.find((n) => n.shortcutId === made.id)!;
    expect(need.candidates[0]).toMatchObject({ path: 'Office/Rota spring draft 2.md' });
    expect(need.candidates[0]!.evidence).toEqual(
      expect.arrayContaining(['other content', 'like name', 'also md', 'newer', 'folder of the same name']),
    );
  });

  it('refuses to point at what is not there', async () => {
    const made = await rellin.add(rellin.write('Office/one.md'));
    const refused = await rellin.refusal(
      rellin.post('/check-up/point', {
        points: [{ shortcutId: made.id, placeId: made.placeId!, originalId: 99_999_999 }],
      }),
    );
    expect(refused.problem.status).toBe(404);
  });
});

describe('checking all', () => {
  it('shows its progress, and when it was', async () => {
    const before = Date.now();
    await rellin.post('/check-up/now');
    const { checkedAt, nextAt } = await until(
      view,
      (v) => v.checkedAt !== null && Date.parse(v.checkedAt) >= before - 1000,
    );
    expect(Date.parse(nextAt)).toBeGreaterThan(Date.parse(checkedAt!));
    await until(
      () => rellin.get('/activity'),
      (list) => !list.some((a) => a.id === 'check-up'),
    );
  });
});

describe('the review', () => {
  const review = () => rellin.get('/check-up/review');

  it('names duplicates; what is meant so is not brought up again', async () => {
    const path = rellin.write('Records/codes.csv', 'code,species\n1,Fulmar\n');
    const [one, two] = [await rellin.add(path), await rellin.add(path, { name: 'Codes again' })];
    const copy = await rellin.add(rellin.write('Records/codes copy.csv', 'code,species\n1,Fulmar\n'));
    const groups = (await review()).filter((g) => g.items.includes(one.id) || g.items.includes(copy.id));
    expect(groups.map((g) => [g.kind, [...g.items].sort()])).toEqual([['same-original', [one.id, two.id].sort()]]);
    await rellin.post('/check-up/silence', { id: groups[0]!.id });
    expect((await review()).some((g) => g.id === groups[0]!.id)).toBe(false);
    await rellin.call('DELETE', `/shortcuts/${two.id}`);
    expect((await review()).find((g) => g.items.includes(copy.id))).toMatchObject({ kind: 'same-content' });
  });

  it('names collections that hold the same', async () => {
    const ids = (await rellin.shortcuts()).slice(0, 4).map((s) => s.id);
    for (const name of ['Round', 'Morning round'])
      await rellin.post('/collections', { name, type: 'plain', shortcutIds: ids });
    const group = (await review()).find((g) => g.kind === 'same-members')!;
    expect(group.collections.map((c) => [c.name, c.members]).sort()).toEqual([
      ['Morning round', 4],
      ['Round', 4],
    ]);
  });
});
