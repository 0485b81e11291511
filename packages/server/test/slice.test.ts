import { existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { PinView, ShortcutDetail, ShortcutView } from '@rellin/contract';
import { seeded } from '@rellin/core/random';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make();
});
afterAll(() => rellin.remove());

const ids = (pins: PinView[]) => pins.map((p) => p.targetId);

describe('the thinnest path', () => {
  it('place → shortcut → pin → key → renamed outside → it opens', async () => {
    const path = rellin.write('a/deep/log.csv', 'one,two\n1,2\n');
    const made = await rellin.add(path, { pin: true });
    expect(made).toMatchObject({ name: 'log', kind: 'table', state: 'ready', pinSlot: 1 });
    const renamed = join(rellin.place, 'a/deep/log of the season.csv');
    renameSync(path, renamed);
    const opened = await rellin.open(made.id, 'pin-key');
    expect(opened).toMatchObject({ how: 'viewer', argv: ['xdg-open', renamed] });
    expect(existsSync(path)).toBe(false);
    const { preview } = opened;
    const bytes = await fetch(`${rellin.address}/api/originals/${preview!.placeId}/${preview!.originalId}/content`, {
      headers: { authorization: `Bearer ${rellin.token}` },
    });
    expect(await bytes.text()).toBe('one,two\n1,2\n');
    expect(bytes.headers.get('x-content-type-options')).toBe('nosniff');
    expect(bytes.headers.get('content-security-policy')).toContain('sandbox');
    expect(await rellin.shortcut(made.id)).toMatchObject({
      name: 'log',
      state: 'followed',
      location: renamed,
      followedFrom: path,
    });
  });

  it('opens fifty times, through renames, moves and a restart, and counts each', async () => {
    let path = rellin.write('round/0.txt', 'fifty');
    const made = await rellin.add(path);
    const random = seeded(50);
    for (let i = 1; i <= 50; i++) {
      if (i % 3 === 0) {
        const folder = join(rellin.place, random.pick(['round', 'round/x', 'other', 'a']));
        mkdirSync(folder, { recursive: true });
        const next = join(folder, `${i}.txt`);
        renameSync(path, next);
        path = next;
      }
      if (i === 25) {
        await rellin.stop();
        const next = join(rellin.place, 'while away.txt');
        renameSync(path, next);
        path = next;
        await rellin.start();
      }
      expect((await rellin.open(made.id)).argv[1]).toBe(path);
    }
    const now = await rellin.shortcut(made.id);
    expect(now.weekly.reduce((s, n) => s + n, 0)).toBe(50);
    expect(now.weight).toBeCloseTo(50, 1);
  });
});

describe('acts and their inverses', () => {
  /** Everything a person could see of the catalogue. */
  const picture = async () => ({
    shortcuts: (await rellin.shortcuts()).map(({ id, name, description, location, pinSlot }: ShortcutView) => ({
      id,
      name,
      description,
      location,
      pinSlot,
    })),
    pins: ids(await rellin.pins()),
    settings: await rellin.get('/settings'),
  });
  const undo = () => rellin.post('/journal/undo');
  const redo = () => rellin.post('/journal/redo');

  it('undoes and redoes adding, renaming, describing, pinning, moving, unpinning, removing, settings', async () => {
    const made = await rellin.add(rellin.write('acts/one.txt'));
    const other = await rellin.add(rellin.write('acts/two.txt'), { pin: true });
    await rellin.post('/pins', { target: 'shortcut', targetId: made.id });
    const pin = (await rellin.pins()).find((p) => p.targetId === made.id)!;
    const acts: [string, () => Promise<unknown>][] = [
      ['rename', () => rellin.call('PATCH', `/shortcuts/${made.id}`, { name: 'My own name' })],
      ['describe', () => rellin.call('PATCH', `/shortcuts/${made.id}`, { description: 'What it is for' })],
      ['move the pin', () => rellin.call('PATCH', `/pins/${pin.id}`, { slot: 1 })],
      ['unpin', () => rellin.call('DELETE', `/pins/${pin.id}`)],
      ['remove', () => rellin.call('DELETE', `/shortcuts/${other.id}`)],
      ['repoint', () => rellin.post(`/shortcuts/${made.id}/repoint`, { typed: rellin.write('acts/three.txt') })],
      ['settings', () => rellin.call('PATCH', '/settings', { pinLimit: 12 })],
    ];
    for (const [name, act] of acts) {
      const before = await picture();
      await act();
      const after = await picture();
      expect({ name, same: JSON.stringify(after) === JSON.stringify(before) }).toEqual({ name, same: false });
      await undo();
      expect({ name, ...(await picture()) }).toEqual({ name, ...before });
      await redo();
      expect({ name, ...(await picture()) }).toEqual({ name, ...after });
    }
    for (let i = 0; i < acts.length; i++) await undo();
  });

  it('ends where it began after any sequence of acts and as many undos', async () => {
    const random = seeded(77);
    const start = await picture();
    let done = 0;
    for (let i = 0; i < 40; i++) {
      const list = await rellin.shortcuts();
      const pins = await rellin.pins();
      const s = random.pick(list);
      const p = pins[random.int(0, Math.max(0, pins.length - 1))];
      const roll = random.int(0, 6);
      const act = (): Promise<unknown> | undefined => {
        if (roll === 0) return rellin.add(rellin.write(`random/${i}.txt`), { pin: random.next() < 0.4 });
        if (roll === 1 && s) return rellin.call('PATCH', `/shortcuts/${s.id}`, { name: `name ${i}` });
        if (roll === 2 && s) return rellin.call('DELETE', `/shortcuts/${s.id}`);
        if (roll === 3 && p) return rellin.call('PATCH', `/pins/${p.id}`, { slot: random.int(1, 5) });
        if (roll === 4 && p) return rellin.call('DELETE', `/pins/${p.id}`);
        return s && rellin.post('/pins', { target: 'shortcut', targetId: s.id });
      };
      const before = (await rellin.get('/journal', { limit: 1 }))[0]!.id;
      await act()?.catch(() => undefined); // refusals leave no line
      if ((await rellin.get('/journal', { limit: 1 }))[0]!.id !== before) done++;
      if (done > 0 && random.next() < 0.2) {
        await undo();
        done--;
      }
    }
    expect(done).toBeGreaterThan(8);
    for (let i = 0; i < done; i++) await undo();
    expect(await picture()).toEqual(start);
  });

  it('takes an opening back without touching the stack, and the count falls', async () => {
    const made = await rellin.add(rellin.write('acts/counted.txt'));
    await rellin.open(made.id);
    await rellin.open(made.id);
    const line = (await rellin.get('/journal')).find((l) => l.act === 'open')!;
    expect(line.inStack).toBe(false);
    await rellin.post(`/journal/${line.id}/undo`);
    expect((await rellin.shortcut(made.id)).weight).toBeCloseTo(1, 2);
    expect((await rellin.refusal(rellin.post(`/journal/${line.id}/undo`))).kind).toBe('conflict');
    expect((await undo()).act).toBe('add-shortcut');
  });

  it('refuses to undo a line whose field was changed since, and says so', async () => {
    const made = await rellin.add(rellin.write('acts/changed.txt'));
    const rename = (name: string) => rellin.call('PATCH', `/shortcuts/${made.id}`, { name });
    await rename('first');
    const line = (await rellin.get('/journal', { limit: 1 }))[0]!;
    await rename('second');
    const refused = await rellin.refusal(rellin.post(`/journal/${line.id}/undo`));
    expect(refused.kind).toBe('changed-since');
    expect((await rellin.shortcut(made.id)).name).toBe('second');
  });

  it('keeps the pin of a removed shortcut, and the original whatever is done to the shortcut', async () => {
    const path = rellin.write('acts/kept.txt', 'kept');
    const made = await rellin.add(path, { pin: true, slot: 1 });
    await rellin.call('DELETE', `/shortcuts/${made.id}`);
    expect(ids(await rellin.pins())).not.toContain(made.id);
    expect((await rellin.get('/shortcuts', { from: 'bin' })).map((s) => s.id)).toContain(made.id);
    await rellin.post(`/shortcuts/${made.id}/put-back`);
    expect(ids(await rellin.pins())[0]).toBe(made.id);
    expect(readFileSync(path, 'utf8')).toBe('kept');
  });

  it('refuses a pin beyond the number the person chose', async () => {
    const limit = (await rellin.pins()).length;
    await rellin.call('PATCH', '/settings', { pinLimit: Math.max(1, limit) });
    if (limit === 0) await rellin.add(rellin.write('acts/fill.txt'), { pin: true });
    const refused = await rellin.refusal(rellin.add(rellin.write('acts/over.txt'), { pin: true }));
    expect(refused.kind).toBe('conflict');
    expect(refused.problem.remedy).toContain('Settings');
    // the whole act was refused: no half of it stays
    expect((await rellin.shortcuts()).some((s) => s.name === 'over')).toBe(false);
    await rellin.call('PATCH', '/settings', { pinLimit: 9 });
  });
});

describe('after a crash', () => {
  it('kill -9 at any moment loses no acknowledged act', async () => {
    const acknowledged: ShortcutDetail[] = [];
    const random = seeded(9);
    for (let round = 0; round < 3; round++) {
      const paths = Array.from({ length: 30 }, (_, i) => rellin.write(`crash/${round}-${i}.txt`));
      await until(
        () =>
          rellin.post('/originals/locate', { path: paths[29]! }).then(
            () => true,
            () => false,
          ),
        Boolean,
      );
      const stopAfter = random.int(3, 12);
      let killed: Promise<unknown> | undefined;
      await Promise.all(
        paths.map(async (path) => {
          try {
            acknowledged.push(await rellin.add(path));
            if (acknowledged.length >= stopAfter + round * 5) killed ??= rellin.kill();
          } catch {
            // not acknowledged
          }
        }),
      );
      await (killed ?? rellin.kill());
      await rellin.start();
      const there = new Set((await rellin.shortcuts()).map((s) => s.id));
      expect(acknowledged.filter((a) => !there.has(a.id))).toEqual([]);
      // each has its line: act and journal are one transaction
      const [{ n }] = (await rellin.sql(
        `SELECT count(*)::int AS n FROM shortcut s WHERE NOT EXISTS
           (SELECT 1 FROM journal j WHERE j.changes @> jsonb_build_array(jsonb_build_object('table', 'shortcut', 'id', s.id::text)))`,
      )) as [{ n: number }];
      expect(n).toBe(0);
    }
    expect(acknowledged.length).toBeGreaterThan(8);
  });

  it('a second server on the same data is refused and the first goes on', async () => {
    const { spawnSync } = await import('node:child_process');
    const { PROJECT } = await import('./testing/harness.js');
    const second = spawnSync(process.execPath, [join(PROJECT, 'packages/server/dist/bundle/main.js')], {
      env: rellin.environment(),
      encoding: 'utf8',
      timeout: 20_000,
    });
    expect(second.status).toBe(3);
    expect(second.stdout).toContain('Another Rellin is running');
    expect(await rellin.get('/health')).toEqual({ server: 'up', database: 'up' });
  });

  it('stops in order on SIGTERM', async () => {
    expect(await rellin.stop()).toBe(0);
    rmSync(join(rellin.place, 'crash'), { recursive: true });
    await rellin.start();
  });
});
