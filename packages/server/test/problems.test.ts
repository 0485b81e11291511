/** Bad input: each gets a clear refusal as problem details, and nothing is lost. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, symlinkSync, unlinkSync, writeFileSync, existsSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { fromBytes } from '@rellin/core/paths';
import { testCluster } from './testing/cluster.js';
import { PROJECT, Rellin, until } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make({ places: ['place', 'outside'], env: { RELLIN_PLACES: '' } }, (r) => {
    r.write('here.txt', 'here');
    writeFileSync(join(r.base, 'outside/secret.txt'), 'secret');
    symlinkSync(join(r.base, 'outside/secret.txt'), join(r.place, 'leads out'));
    symlinkSync('loop b', join(r.place, 'loop a'));
    symlinkSync('loop a', join(r.place, 'loop b'));
    r.write('n'.repeat(251) + '.txt', 'long name');
    writeFileSync(Buffer.concat([Buffer.from(`${r.place}/caf`), Buffer.from([0xe9])]), 'latin 1');
    Object.assign((r as unknown as { options: { env: object } }).options.env, {
      RELLIN_PLACES: JSON.stringify([{ name: 'place', root: r.place, type: 'fixed' }]),
    });
  });
});
afterAll(() => rellin.remove());

const count = async () => (await rellin.shortcuts()).length;

describe('a shortcut', () => {
  it.each([
    ['a path outside every place', () => ({ typed: join(rellin.base, 'outside/secret.txt') }), 'outside-places'],
    ['a path that climbs out', () => ({ typed: join(rellin.place, '../outside/secret.txt') }), 'outside-places'],
    ['a link that leads out', () => ({ typed: join(rellin.place, 'leads out') }), 'outside-places'],
    ['a loop of links', () => ({ typed: join(rellin.place, 'loop a') }), 'link-loop'],
    ['a file that is not there', () => ({ typed: join(rellin.place, 'nothing here') }), 'not-found'],
    ['no name', () => ({ typed: join(rellin.place, 'here.txt'), name: '   ' }), 'not-valid'],
    ['a scheme that is not allowed', () => ({ typed: 'javascript:alert(1)' }), 'not-valid'],
    ['another scheme', () => ({ url: 'ftp://host.example/x' }), 'not-valid'],
    ['nonsense', () => ({ typed: 'not an address' }), 'not-valid'],
    ['a foreign file address', () => ({ typed: 'file://other-host/x' }), 'not-valid'],
    ['a program that is not installed', () => ({ programId: 'none.desktop' }), 'not-found'],
    ['nothing at all', () => ({}), 'not-valid'],
    ['unknown fields', () => ({ typed: '/x', surprise: 1 }), 'not-valid'],
  ])('to %s is refused', async (_name, body, kind) => {
    const before = await count();
    const refused = await rellin.refusal(rellin.post('/shortcuts', body()));
    expect(refused.kind).toBe(kind);
    expect(refused.problem).toMatchObject({
      status: expect.any(Number),
      title: expect.any(String),
    });
    expect(refused.problem.detail.length).toBeGreaterThan(10);
    expect(await count()).toBe(before);
  });

  it('to a name of 255 bytes and to one that is not UTF-8 works', async () => {
    const long = await rellin.add(join(rellin.place, 'n'.repeat(251) + '.txt'));
    expect((await rellin.open(long.id)).preview?.kind).toBe('text');
    const odd = await rellin.add(`file://${rellin.place}/caf%E9`);
    expect(odd.location).toBe(join(rellin.place, fromBytes(Uint8Array.from([0x63, 0x61, 0x66, 0xe9]))));
    const { preview } = await rellin.open(odd.id);
    const bytes = await fetch(`${rellin.address}/api/originals/${preview!.placeId}/${preview!.originalId}/content`, {
      headers: { authorization: `Bearer ${rellin.token}` },
    });
    expect(await bytes.text()).toBe('latin 1');
    expect((await rellin.get('/find', { q: 'caf' })).answers.length).toBeGreaterThan(0);
  });
});

describe('originals', () => {
  it('a link that leads out of the places is never read', async () => {
    const located = await rellin.post('/originals/locate', { path: join(rellin.place, 'leads out') });
    const answer = await fetch(`${rellin.address}/api/originals/${located.placeId}/${located.originalId}/content`, {
      headers: { authorization: `Bearer ${rellin.token}` },
    });
    expect(answer.status).toBe(403);
    expect(answer.headers.get('content-type')).toContain('application/problem+json');
    expect(await answer.text()).not.toContain('secret\n');
  });

  it('a file that vanishes between listing and opening is said to be gone', async () => {
    const path = rellin.write('vanishes.txt');
    const located = await until(
      () => rellin.post('/originals/locate', { path }).catch(() => undefined),
      (l) => l !== undefined,
    );
    unlinkSync(path);
    const refused = await rellin.refusal(
      rellin.post('/openings', { placeId: located!.placeId, originalId: located!.originalId, route: 'test' }),
    );
    expect(refused.kind).toBe('not-found');
    expect(refused.problem.detail).toMatch(/not (there any more|where it was)/);
  });

  it('answers a byte range, and one that cannot be met', async () => {
    const { placeId, originalId } = await rellin.post('/originals/locate', {
      path: join(rellin.place, 'here.txt'),
    });
    const ask = (range: string) =>
      fetch(`${rellin.address}/api/originals/${placeId}/${originalId}/content`, {
        headers: { authorization: `Bearer ${rellin.token}`, range },
      });
    const part = await ask('bytes=1-2');
    expect([part.status, part.headers.get('content-range'), await part.text()]).toEqual([206, 'bytes 1-2/4', 'er']);
    expect((await ask('bytes=9-')).status).toBe(416);
    expect(await (await ask('bytes=-2')).text()).toBe('re');
  });
});

describe('a typed path', () => {
  it('may end in a blank, be it the name’s or one that came along', async () => {
    writeFileSync(join(rellin.place, 'ends in a blank '), 'blank');
    writeFileSync(join(rellin.place, 'does not'), 'plain');
    const at = async (path: string) => {
      const { placeId, originalId } = await rellin.post('/originals/locate', { path });
      return (await rellin.get(`/originals/${placeId}/${originalId}`)).name;
    };
    expect(await at(join(rellin.place, 'ends in a blank '))).toBe('ends in a blank ');
    expect(await at(`${join(rellin.place, 'does not')} `)).toBe('does not');
    expect((await rellin.add(join(rellin.place, 'ends in a blank '))).location).toBe(
      join(rellin.place, 'ends in a blank '),
    );
  });
});

describe('a place', () => {
  it.each([
    ['that does not exist', () => join(rellin.base, 'none'), 'not-found'],
    ['that is a file', () => join(rellin.place, 'here.txt'), 'not-a-folder'],
    ['in the home folder of somebody else', () => '~other/place', 'not-valid'],
    ['at an address that is none of this machine’s', () => 'file://elsewhere.example/place', 'not-valid'],
    ['that is one already', () => rellin.place, 'conflict'],
  ])('%s is refused', async (_name, root, kind) => {
    expect((await rellin.refusal(rellin.post('/places', { root: root() }))).kind).toBe(kind);
  });

  it('is given as any other path: in the home folder, by a file address, pasted with a line end', async () => {
    const folder = (name: string) => {
      mkdirSync(join(rellin.base, name));
      return join(rellin.base, name);
    };
    for (const [typed, root] of [
      ['~/by tilde', folder('by tilde')],
      ['from home', folder('from home')],
      [`file://${rellin.base}/by%20address`, folder('by address')],
      [`"${rellin.base}/pasted"\n`, folder('pasted')],
    ] as const) {
      const place = await rellin.post('/places', { root: typed });
      expect(place.root).toBe(root);
      await rellin.call('DELETE', `/places/${place.id}`);
    }
  });

  it('can be added, left and taken back, and its shortcuts go and come with it', async () => {
    const root = join(rellin.base, 'added');
    mkdirSync(root);
    writeFileSync(join(root, 'in it.txt'), 'in it');
    const place = await rellin.post('/places', { root });
    await rellin.settled();
    const made = await rellin.add(join(root, 'in it.txt'));
    await rellin.call('DELETE', `/places/${place.id}`);
    await until(
      () => rellin.shortcut(made.id),
      (s) => s.state === 'away',
    );
    await rellin.post('/journal/undo');
    await until(
      () => rellin.shortcut(made.id),
      (s) => s.state === 'ready',
    );
    await rellin.settled();
    expect(existsSync(join(root, 'in it.txt'))).toBe(true);
  });

  it('once gone is shown as away with the reason, its folder still listed from what is known', async () => {
    const { renameSync } = await import('node:fs');
    renameSync(join(rellin.base, 'added'), join(rellin.base, 'added aside'));
    const place = (
      await until(
        () => rellin.get('/places'),
        (p) => p.some((x) => x.state === 'away'),
      )
    ).find((x) => x.state === 'away')!;
    expect(place.awayReason).toBe('its folder is not there');
    const folder = await rellin.get(`/originals/${place.id}/folder/1`);
    expect(folder.trouble).toContain('away');
    expect(folder.entries.map((e) => e.name)).toEqual(['in it.txt']);
    renameSync(join(rellin.base, 'added aside'), join(rellin.base, 'added'));
    await until(
      () => rellin.get('/places'),
      (p) => p.every((x) => x.state === 'here'),
    );
  });
});

describe('what the API is asked', () => {
  it.each([
    ['a shortcut that is not there', 'GET', '/shortcuts/00000000-0000-4000-8000-000000000000', 'not-found', undefined],
    ['an id that is none', 'GET', '/shortcuts/nonsense', 'not-valid', undefined],
    ['an address that is none', 'GET', '/nothing', 'not-found', undefined],
    ['a page of zero', 'GET', '/originals/1/folder/1?limit=0', 'not-valid', undefined],
    ['a setting out of bounds', 'PATCH', '/settings', 'not-valid', { pinLimit: 0 }],
    ['a constant that is none', 'PATCH', '/settings', 'not-valid', { reachConstants: { X: 1 } }],
    ['an undo of nothing', 'POST', '/journal/999999/undo', 'not-found', {}],
  ])('%s: problem details', async (_name, method, path, kind, body: unknown) => {
    expect((await rellin.refusal(rellin.send(method, path, body))).kind).toBe(kind);
  });

  it('describes itself in OpenAPI', async () => {
    const answer = await fetch(`${rellin.address}/api/docs-json`, {
      headers: { authorization: `Bearer ${rellin.token}` },
    });
    const document = (await answer.json()) as { openapi: string; paths: object };
    expect(document.openapi).toMatch(/^3\./);
    expect(Object.keys(document.paths)).toEqual(
      expect.arrayContaining(['/api/shortcuts', '/api/pins/{id}', '/api/openings', '/api/journal/undo']),
    );
  });
});

describe('PostgreSQL stopping under us', () => {
  it('is said clearly, loses nothing, and is got over', async () => {
    const own = await ownCluster();
    own.ensureDatabase();
    const r = await Rellin.make({ env: { DATABASE_URL: own.url('rellin') } }, (x) => void x.write('kept.txt'));
    try {
      const made = await r.add(join(r.place, 'kept.txt'), { pin: true });
      own.stop();
      const refused = await r.refusal(r.call('PATCH', `/shortcuts/${made.id}`, { name: 'lost?' }));
      expect(refused.kind).toBe('database-away');
      expect(refused.problem.status).toBe(503);
      expect((await fetch(`${r.address}/api/health`)).status).toBe(503);
      own.start();
      const back = await until(
        () => r.shortcut(made.id).catch(() => undefined),
        (s) => s !== undefined,
        20_000,
      );
      expect(back).toMatchObject({ name: 'kept', pinSlot: 1 });
      const { renameSync } = await import('node:fs');
      renameSync(join(r.place, 'kept.txt'), join(r.place, 'still followed.txt'));
      await until(
        () => r.shortcut(made.id),
        (s) => s.state === 'followed',
        20_000,
      );
    } finally {
      await r.remove();
      own.stop();
      own.remove();
    }
  });

  const ownCluster = () => testCluster(mkdtempSync('/tmp/rellin-own-pg-'));
});

describe('starting at login', () => {
  it('writes an autostart entry that the validator accepts, and takes it away', () => {
    const env = {
      ...process.env,
      XDG_CONFIG_HOME: join(rellin.base, 'login config'),
      XDG_DATA_HOME: join(rellin.base, 'a "strange" $data'),
    };
    const start = (on: string) =>
      spawnSync(process.execPath, [join(PROJECT, 'scripts/start.mjs'), '--at-login', on], { env, encoding: 'utf8' });
    const path = join(rellin.base, 'login config/autostart/rellin.desktop');
    expect(start('on').status).toBe(0);
    expect(existsSync(path)).toBe(true);
    // outside reference: desktop-file-utils
    const checked = spawnSync('desktop-file-validate', [path], { encoding: 'utf8' });
    expect([checked.error, checked.stdout + checked.stderr]).toEqual([undefined, '']);
    expect(start('off').status).toBe(0);
    expect(existsSync(path)).toBe(false);
    expect(start('perhaps').status).toBe(1);
  });
});

describe('an undo of what others hang on', () => {
  it('is refused, and nothing is changed', async () => {
    await rellin.add(rellin.write('hangs on its place.txt'));
    const lines = await rellin.get('/journal', { limit: 200 });
    const first = lines.findLast((l) => l.act === 'add-place')!;
    expect((await rellin.refusal(rellin.post(`/journal/${first.id}/undo`))).kind).toBe('conflict');
    expect(existsSync(join(rellin.place, 'hangs on its place.txt'))).toBe(true);
  });
});
