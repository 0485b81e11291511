/**
 * The doors of the API, tried as another user of the machine and as a page in the same browser would: without
 * credentials, in every spelling of an address, with bodies meant to hurt. What is promised stands in docs/security.md.
 */
import http from 'node:http';
import { spawn, spawnSync } from 'node:child_process';
import { lstatSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { connect } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { SignedInBrowser } from '@rellin/contract';
import { PROJECT, Rellin, until } from '../testing/harness.js';
import { ask, cookieOf, exchange } from '../testing/raw.js';
import { as, asOrdinary, canBeOrdinary, giveTo, isSuperuser, ORDINARY, OTHER } from '../testing/users.js';

interface Route {
  method: string;
  url: string;
  open: boolean;
}

let rellin: Rellin;
let routes: Route[];
beforeAll(async () => {
  rellin = await Rellin.make({ log: 'debug', env: { RELLIN_WEB: join(PROJECT, 'packages/web/dist') } });
  rellin.write('a.txt');
  const line = rellin
    .logged()
    .split('\n')
    .find((l) => l.startsWith('{') && 'routes' in JSON.parse(l));
  routes = (JSON.parse(line!) as { routes: Route[] }).routes;
});
afterAll(() => rellin?.remove());

const page = () => ({ host: rellin.pageHost });

/** A path with something in the place of each parameter. */
const filled = (url: string) =>
  url.replace(/:(\w+)/g, (_, name: string) => (/place|id$/i.test(name) ? '1' : 'x')).replace('*', 'x');

/** Other spellings of a path that a router may take for the same. */
function spellings(path: string, origin: string): string[] {
  const encoded = (at: number) => `${path.slice(0, at)}%${path.charCodeAt(at).toString(16)}${path.slice(at + 1)}`;
  const rest = path.replace(/^\/api/, '');
  return [
    path,
    encoded(1),
    encoded(2).toUpperCase(),
    encoded(path.length - 1),
    `/%2561pi${rest}`,
    `/api%2f${rest.slice(1)}`,
    `/%2fapi${rest}`,
    `/${path}`,
    `/api/${rest}`,
    `/./api${rest}`,
    `/x/../api${rest}`,
    `/x/%2e%2e/api${rest}`,
    `/assets/..%2fapi${rest}`,
    `/API${rest}`,
    path.toUpperCase(),
    `${path}/`,
    `${path}//`,
    `${path};x=1`,
    `${path}?`,
    `${path}#x`,
    `${path}%00`,
    `/api\\${rest.slice(1)}`,
    `${origin}${path}`,
    `http://x${path}`,
    `HTTP://X${path}`,
  ];
}

describe('without credentials', () => {
  it('only a handful of routes of the API answers', () => {
    const open = routes.filter(
      (r) => r.open && r.method !== 'HEAD' && !/^\/(assets|icons|\*|[\w.-]+\.\w+)/.test(r.url),
    );
    expect([...new Set(open.map((r) => `${r.method} ${r.url}`))].sort()).toEqual([
      'GET /api/health',
      'GET /api/session',
      'GET /enter',
      'POST /api/session/leave',
      'POST /api/session/sign-in',
    ]);
  });

  it('every other registered route is shut, in every spelling', async () => {
    const shut = routes.filter((r) => !r.open);
    expect(shut.length).toBeGreaterThan(130);
    const through: string[] = [];
    const agent = new http.Agent({ keepAlive: true, maxSockets: 8 });
    for (const { method, url } of shut) {
      const asked = spellings(filled(url), rellin.address).map(async (path) => {
        const asked = {
          method,
          headers: { ...page(), 'content-type': 'application/json' },
          ...(method !== 'GET' && method !== 'HEAD' && { body: '{}' }),
        };
        // the server may close a line after a refusal, just when the next request is sent along it
        const answer = await ask(rellin.address, path, { ...asked, agent }).catch(() =>
          ask(rellin.address, path, asked),
        );
        // the page itself is open, and answers to what looks like one of its views
        const isPage = answer.status === 200 && (method === 'HEAD' || answer.body.startsWith('<!doctype html>'));
        if (![400, 401, 403, 404, 405].includes(answer.status) && !isPage)
          through.push(`${method} ${path}: ${answer.status}`);
        if (answer.status === 200 && /application\/json/.test(answer.headers['content-type'] ?? ''))
          through.push(`${method} ${path}: JSON`);
      });
      await Promise.all(asked);
    }
    agent.destroy();
    expect(through).toEqual([]);
  }, 120_000);

  it('a sign-in code is given to nobody', async () => {
    for (const path of ['/%61pi/session/code', '/api/session/cod%65', 'http://x/api/session/code']) {
      const answer = await ask(rellin.address, path, { method: 'POST', headers: page() });
      expect([path, answer.body.includes('code"')]).toEqual([path, false]);
      expect(answer.status).toBeGreaterThanOrEqual(400);
    }
  });

  it('two hosts are refused', async () => {
    const { port, host } = new URL(rellin.address);
    const lines = ['GET /api/health HTTP/1.1', `Host: ${host}`, 'Host: elsewhere.example', 'Connection: close', '', ''];
    const socket = connect(Number(port), '127.0.0.1').end(lines.join('\r\n'));
    let answer = '';
    for await (const chunk of socket) answer += String(chunk);
    expect(answer).toMatch(/^HTTP\/1\.1 400 /);
  });

  it('a second host in the first line is refused', async () => {
    const { host } = new URL(rellin.address);
    const text = await exchange(
      rellin.address,
      `GET http://evil.example/api/health HTTP/1.1\r\nHost: ${host}\r\nConnection: close\r\n\r\n`,
    );
    expect(text).toMatch(/^HTTP\/1\.1 400/);
  });
});

describe('a body without credentials', () => {
  const signIn = (body: string | Buffer, type = 'application/json') =>
    ask(rellin.address, '/api/session/sign-in', {
      method: 'POST',
      headers: { ...page(), 'content-type': type },
      body,
    });

  it('of bytes is refused and does no harm', async () => {
    expect((await signIn(Buffer.alloc(100), 'application/octet-stream')).status).toBe(400);
    for (const type of ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data; boundary=x', 'x/y'])
      expect((await signIn('a=b', type)).status).toBe(415);
    expect((await ask(rellin.address, '/api/health', { headers: page() })).status).toBe(200);
  });

  it.each([
    [
      '80,000 unknown fields',
      JSON.stringify(Object.fromEntries(Array.from({ length: 80_000 }, (_, i) => [`k${i}`, 1]))),
    ],
    ['300,000 lists', `{"passphrase":[${'[],'.repeat(300_000)}[]]}`],
    ['a depth of 100,000', `{"passphrase":${'['.repeat(100_000)}${']'.repeat(100_000)}}`],
    ['a small depth', `{"passphrase":[[[1]]]}`],
    ['9 fields', JSON.stringify(Object.fromEntries(Array.from({ length: 9 }, (_, i) => [`k${i}`, 1])))],
  ])('with %s is refused before anything is made of it', async (_name, body) => {
    const asked = Date.now();
    const answer = await signIn(body);
    expect(answer.status).toBe(413);
    expect(Date.now() - asked).toBeLessThan(2000);
  });

  it.each([
    ['no JSON', '{', 400],
    ['a list', '[]', 400],
    ['a text', '"x"', 400],
    ['null', 'null', 400],
    ['nothing', '', 400],
    ['a NUL', '{"passphrase":"\\u0000"}', 400],
    ['half a pair', '{"passphrase":"\\ud800"}', 400],
    ['another prototype', '{"__proto__":{"x":1},"passphrase":"x"}', 400],
  ])('that is %s is refused', async (_name, body, status) => {
    expect((await signIn(body)).status).toBe(status);
  });
});

describe('with credentials', () => {
  it('what only looks like a number is refused, not turned into one', async () => {
    const numbers: unknown[] = [
      { toString: [] },
      { constructor: {} },
      [1],
      [[1]],
      true,
      '1e3',
      ' 1',
      '0x1',
      1.5,
      '',
      null,
    ];
    for (const placeId of numbers) {
      const { status } = await ask(rellin.address, '/api/openings', {
        method: 'POST',
        headers: { authorization: `Bearer ${rellin.token}`, 'content-type': 'application/json' },
        body: JSON.stringify({ placeId, originalId: 1 }),
      });
      expect({ placeId, status }).toEqual({ placeId, status: 400 });
    }
  });

  it('lists and objects beyond their bounds are refused at once', async () => {
    const headers = { authorization: `Bearer ${rellin.token}`, 'content-type': 'application/json' };
    const wide = JSON.stringify(Object.fromEntries(Array.from({ length: 50_000 }, (_, i) => [`k${i}`, 1])));
    const asked = Date.now();
    for (const body of [wide, `{"x":${'{"a":'.repeat(20)}1${'}'.repeat(20)}}`, `{"ids":[${'1,'.repeat(10_000)}1]}`])
      expect((await ask(rellin.address, '/api/shortcuts', { method: 'POST', headers, body })).status).toBe(413);
    expect(Date.now() - asked).toBeLessThan(2000);
  });
});

describe('a session', () => {
  const enter = async () => {
    const { code, address } = await rellin.post('/session/code');
    expect(new URL(address).host).toBe(rellin.pageHost);
    return cookieOf(await ask(rellin.address, `/enter?code=${code}`, { headers: page() }));
  };
  const shortcuts = (cookie: string, host = rellin.pageHost) =>
    ask(rellin.address, '/api/shortcuts', { headers: { host, cookie } });

  it('counts under the page’s own name only, which no other server of the machine shares', async () => {
    expect(rellin.pageHost).toMatch(/^rellin-[0-9a-f]{16}\.localhost:\d+$/);
    const cookie = await enter();
    expect((await shortcuts(cookie)).status).toBe(200);
    const { port } = new URL(rellin.address);
    for (const host of [`127.0.0.1:${port}`, `localhost:${port}`, `[::1]:${port}`])
      expect((await shortcuts(cookie, host)).status).toBe(401);
  });

  it('does not begin under a shared address: the code leads on to the page’s own name', async () => {
    const { code } = await rellin.post('/session/code');
    const { host } = new URL(rellin.address);
    const answer = await ask(rellin.address, `/enter?code=${code}`, { headers: { host } });
    expect([answer.status, answer.headers.location]).toEqual([303, `http://${rellin.pageHost}/enter?code=${code}`]);
    expect(answer.headers['set-cookie']).toBeUndefined();
    const guessed = await ask(rellin.address, '/enter?code=guessed', { headers: { host } });
    expect(guessed.headers.location).toBe('/sign-in?used=1');
  });

  it('changes its token after a day; the token before serves for a moment more', async () => {
    const cookie = await enter();
    await rellin.sql(`UPDATE session SET token_since = now() - interval '25 hours'`);
    const answer = await ask(rellin.address, '/api/session', { headers: { ...page(), cookie } });
    const fresh = cookieOf(answer);
    expect(fresh).toMatch(/^rellin=/);
    expect(fresh).not.toBe(cookie);
    expect((await shortcuts(fresh)).status).toBe(200);
    expect((await shortcuts(cookie)).status).toBe(200);
    expect(cookieOf(await ask(rellin.address, '/api/session', { headers: { ...page(), cookie: fresh } }))).toBe('');
    await rellin.sql(`UPDATE session SET token_since = now() - interval '2 minutes'`);
    await rellin.stop();
    await rellin.start();
    expect((await shortcuts(cookie)).status).toBe(401);
    expect((await shortcuts(fresh)).status).toBe(200);
  });

  it.each([
    ['last_seen_at', '31 days'],
    ['created_at', '181 days'],
  ])('ends by itself (%s %s ago)', async (column, ago) => {
    const cookie = await enter();
    expect((await shortcuts(cookie)).status).toBe(200);
    await rellin.stop();
    await rellin.sql(`UPDATE session SET ${column} = now() - $1::interval`, [ago]);
    await rellin.start();
    expect((await shortcuts(cookie)).status).toBe(401);
  });

  it('is listed with how and when it came, and can be ended, its open line as well', async () => {
    const one = await enter();
    const two = await enter();
    const list = async (cookie: string) =>
      JSON.parse(
        (await ask(rellin.address, '/api/session/browsers', { headers: { ...page(), cookie } })).body,
      ) as SignedInBrowser[];
    const seen = await list(one);
    expect(seen.filter((b) => b.isThis).length).toBe(1);
    expect(seen.every((b) => b.cameBy === 'address')).toBe(true);
    // the line of the second one is open while it is ended
    const line = ask(rellin.address, '/api/events', { headers: { ...page(), cookie: two }, within: 30_000 });
    const other = (await list(two)).find((b) => b.isThis)!;
    const del = (path: string) => ask(rellin.address, path, { method: 'DELETE', headers: { ...page(), cookie: one } });
    expect((await del(`/api/session/browsers/${other.id}`)).status).toBe(200);
    expect((await line).body).toContain('event: beat');
    expect((await shortcuts(two)).status).toBe(401);
    const three = await enter();
    expect((await del('/api/session/browsers')).status).toBe(200);
    expect((await shortcuts(three)).status).toBe(401);
    expect((await shortcuts(one)).status).toBe(200);
  });
});

describe('the passphrase', () => {
  const put = (headers: Record<string, string>, body: object) =>
    ask(rellin.address, '/api/session/passphrase', {
      method: 'PUT',
      headers: { ...page(), 'content-type': 'application/json', ...headers },
      body: JSON.stringify(body),
    });
  const signIn = (passphrase: string, host = rellin.pageHost) =>
    ask(rellin.address, '/api/session/sign-in', {
      method: 'POST',
      headers: { host, 'content-type': 'application/json' },
      body: JSON.stringify({ passphrase }),
    });

  it('is changed only by who knows it, and signs every other browser out', async () => {
    await rellin.call('PUT', '/session/passphrase', { passphrase: 'turnstone' });
    const cookie = cookieOf(await signIn('turnstone'));
    const other = cookieOf(await signIn('turnstone'));
    expect((await put({ cookie }, { passphrase: 'mine now' })).status).toBe(401);
    expect((await put({ cookie }, { passphrase: 'mine now', current: 'guess' })).status).toBe(401);
    expect((await put({ cookie }, { passphrase: '', current: 'guess' })).status).toBe(401);
    expect((await put({ cookie }, { passphrase: 'dunlin', current: 'turnstone' })).status).toBe(204);
    const shortcuts = (c: string) => ask(rellin.address, '/api/shortcuts', { headers: { ...page(), cookie: c } });
    expect((await shortcuts(cookie)).status).toBe(200);
    expect((await shortcuts(other)).status).toBe(401);
    expect((await signIn('turnstone')).status).toBe(401);
    expect((await signIn('dunlin')).status).toBe(200);
  });

  it('given under a shared address leads on to the page’s own name', async () => {
    const { host } = new URL(rellin.address);
    const answer = await signIn('dunlin', host);
    expect(answer.headers['set-cookie']).toBeUndefined();
    const { goOnAt } = JSON.parse(answer.body) as { goOnAt: string };
    expect(goOnAt.startsWith(`http://${rellin.pageHost}/enter?code=`)).toBe(true);
    const { pathname, search } = new URL(goOnAt);
    expect(cookieOf(await ask(rellin.address, pathname + search, { headers: page() }))).toMatch(/^rellin=/);
  });

  it('is no setting that anybody reads', async () => {
    expect(JSON.stringify(await rellin.get('/settings'))).not.toContain('argon2');
    expect(await rellin.get('/settings')).not.toHaveProperty('passphrase');
  });

  it('is limited in guesses in every spelling; requests of other pages do not count as guesses', async () => {
    const headers = { ...page(), 'content-type': 'application/json' };
    const guess = (path: string, more: Record<string, string> = {}) =>
      ask(rellin.address, path, { method: 'POST', headers: { ...headers, ...more }, body: '{"passphrase":"guess"}' });
    for (let i = 0; i < 20; i++)
      expect((await guess('/api/session/sign-in', { 'sec-fetch-site': 'cross-site' })).status).toBe(403);
    for (let i = 0; i < 20; i++)
      expect(
        (
          await ask(rellin.address, '/enter?code=guess', {
            headers: { ...page(), 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'no-cors' },
          })
        ).status,
      ).toBe(403);
    expect((await signIn('dunlin')).status).toBe(200);
    const statuses: number[] = [];
    for (let i = 0; i < 12; i++)
      statuses.push((await guess(i % 2 ? '/%61pi/session/sign-in' : '/api/session/sign-in')).status);
    expect(statuses.filter((s) => s === 401).length).toBeLessThanOrEqual(10);
    expect(statuses.at(-1)).toBe(429);
    // the one-time address is no guess: whoever is kept out by others' guesses has that
    const { code } = await rellin.post('/session/code');
    expect(cookieOf(await ask(rellin.address, `/enter?code=${code}`, { headers: page() }))).toMatch(/^rellin=/);
  });
});

describe('another user of the machine', () => {
  /** Asks as that user, in a process of its own. */
  const asOther = (path: string, headers: Record<string, string>) => {
    const script = `fetch(${JSON.stringify(rellin.address + path)}, { headers: ${JSON.stringify(headers)} })
      .then(async (r) => console.log(r.status, await r.text()))`;
    const [command, ...args] = [...as(OTHER), process.execPath, '-e', script];
    return spawnSync(command!, args, { encoding: 'utf8', cwd: '/' }).stdout.trim();
  };
  (asOrdinary ? it : it.skip)('gets nothing, even with credentials that were stolen', () => {
    const answer = asOther('/api/shortcuts', { authorization: `Bearer ${rellin.token}` });
    expect(answer).toMatch(/^403 .*processes of its own user/);
    expect(asOther('/api/health', {})).toMatch(/^403 /);
    expect(asOther('/', {})).toMatch(/^403 /);
  });

  (asOrdinary ? it : it.skip)('holds no connection, whether it says something or not', async () => {
    const script = `const net = require('net'); let left = 60; const { port } = new URL(${JSON.stringify(rellin.address)});
      for (let i = 0; i < 60; i++) net.connect(Number(port), '127.0.0.1', function () {
        if (i % 2) this.write('GET /api/health HTTP/1.1\\r\\nX: ');
      }).on('error', () => {}).on('close', () => { if (--left === 0) console.log('all closed'); }).resume();
      setTimeout(() => process.exit(), 10000).unref();`;
    const [command, ...args] = [...as(OTHER), process.execPath, '-e', script];
    expect(spawnSync(command!, args, { encoding: 'utf8', cwd: '/' }).stdout.trim()).toBe('all closed');
    expect((await ask(rellin.address, '/api/health')).status).toBe(200);
  });

  (isSuperuser ? it : it.skip)('reads nothing of the data folder', () => {
    const [command, ...args] = [...as(OTHER), 'ls', rellin.data];
    expect(spawnSync(command!, args, { encoding: 'utf8', cwd: '/' }).status).toBe(2);
    for (const name of readdirSync(rellin.data))
      expect([name, lstatSync(join(rellin.data, name)).mode & 0o077]).toEqual([name, 0]);
    expect(lstatSync(rellin.data).mode & 0o067).toBe(0);
  });

  (canBeOrdinary ? it : it.skip)('who listens where Rellin did is not shown the command’s token', async () => {
    const data = mkdtempSync('/tmp/rellin-squat-');
    giveTo(data, ORDINARY);
    const script = `require('http').createServer((q, r) => { console.log(q.headers.authorization); r.end('{"answers":[]}'); })
      .listen(0, '127.0.0.1', function () { console.log(this.address().port); })`;
    const [command, ...args] = [...as(OTHER), process.execPath, '-e', script];
    const squatter = spawn(command!, args, { cwd: '/' });
    let heard = '';
    squatter.stdout.on('data', (chunk: Buffer) => (heard += chunk.toString()));
    await until(
      () => heard,
      (h) => h.includes('\n'),
    );
    writeFileSync(join(data, 'run.json'), JSON.stringify({ address: `http://127.0.0.1:${heard.trim()}`, pid: 1 }));
    writeFileSync(join(data, 'command-token'), 'the token');
    for (const name of ['run.json', 'command-token']) giveTo(join(data, name), ORDINARY);
    const [run, ...rest] = [...as(ORDINARY), process.execPath, join(PROJECT, 'bin/rellin.mjs'), 'find', 'x'];
    const done = spawnSync(run!, rest, {
      encoding: 'utf8',
      cwd: '/',
      env: { RELLIN_DATA: data, PATH: process.env['PATH'] },
    });
    expect([done.status, done.stderr]).toEqual([3, expect.stringContaining('not running')]);
    squatter.kill();
    expect(heard).not.toContain('Bearer');
    rmSync(data, { recursive: true });
  });
});

describe('listening', () => {
  it('is on loopback only, on both its addresses where there are two', () => {
    const port = Number(new URL(rellin.address).port).toString(16).toUpperCase().padStart(4, '0');
    const at = (table: string) =>
      readFileSync(table, 'utf8')
        .split('\n')
        .filter((l) => l.includes(`:${port} `) && l.includes(' 0A '))
        .map((l) => l.trim().split(/\s+/)[1]);
    expect(at('/proc/net/tcp')).toEqual([`0100007F:${port}`]);
    const hasSix = readFileSync('/proc/net/if_inet6', 'utf8').includes('00000000000000000000000000000001');
    expect(at('/proc/net/tcp6')).toEqual(hasSix ? [`00000000000000000000000001000000:${port}`] : []);
  });
});
