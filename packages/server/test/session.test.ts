import http from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Rellin } from './testing/harness.js';

let rellin: Rellin;
const CODE = 'a-code-for-the-first-visit';
beforeAll(async () => {
  rellin = await Rellin.make({ env: { RELLIN_ENTRY_CODE: CODE } });
});
afterAll(() => rellin.remove());

/** A request as a browser would make it, with headers that fetch does not let one set. */
function ask(path: string, headers: Record<string, string> = {}, method = 'GET', body?: string) {
  return new Promise<{ status: number; headers: http.IncomingHttpHeaders; body: string }>((resolve, reject) => {
    const request = http.request(
      `${rellin.address}${path}`,
      { method, headers: { ...headers, ...(body && { 'content-type': 'application/json' }) } },
      (answer) => {
        let text = '';
        answer.on('data', (chunk: Buffer) => (text += chunk.toString()));
        answer.on('end', () => resolve({ status: answer.statusCode!, headers: answer.headers, body: text }));
      },
    );
    request.on('error', reject);
    request.end(body);
  });
}
const cookieOf = (answer: { headers: http.IncomingHttpHeaders }) =>
  answer.headers['set-cookie']?.[0]?.split(';')[0] ?? '';

describe('signing in', () => {
  let cookie = '';

  it('gives a strict, HTTP-only cookie for the one-time address, once', async () => {
    const first = await ask(`/enter?code=${CODE}`);
    expect(first.headers['set-cookie']![0]).toMatch(/HttpOnly; SameSite=Strict/);
    cookie = cookieOf(first);
    const again = await ask(`/enter?code=${CODE}`);
    expect(again.status).toBe(303);
    expect(again.headers['set-cookie']).toBeUndefined();
    expect((await ask('/enter?code=guessed')).headers['set-cookie']).toBeUndefined();
  });

  it('lets in with the cookie, not without', async () => {
    expect((await ask('/api/shortcuts', { cookie })).status).toBe(200);
    const out = await ask('/api/shortcuts');
    expect(out.status).toBe(401);
    expect(out.headers['content-type']).toContain('application/problem+json');
    expect((await ask('/api/shortcuts', { cookie: 'rellin=forged' })).status).toBe(401);
    expect((await ask('/api/shortcuts', { authorization: 'Bearer forged' })).status).toBe(401);
    expect((await ask('/api/events')).status).toBe(401);
    expect((await ask('/api/docs-json')).status).toBe(401);
  });

  it('survives a restart of the server, at the same address', async () => {
    const before = rellin.address;
    await rellin.stop();
    await rellin.start();
    expect(rellin.address).toBe(before);
    expect((await ask('/api/shortcuts', { cookie })).status).toBe(200);
  });

  it('keeps no token in the log or the database', async () => {
    const token = cookie.split('=')[1]!;
    const rows = await rellin.sql(`SELECT token_hash FROM session`);
    expect(rows.length).toBe(1);
    expect(JSON.stringify(rows)).not.toContain(token);
    expect(rellin.logged()).not.toContain(token);
  });

  it('ends by leaving', async () => {
    await ask('/api/session/leave', { cookie }, 'POST');
    expect((await ask('/api/shortcuts', { cookie })).status).toBe(401);
  });
});

describe('who is asking', () => {
  it('refuses a name rebound to this machine', async () => {
    for (const host of ['evil.example', 'evil.example:80', `127.0.0.1.evil.example:${new URL(rellin.address).port}`])
      expect((await ask('/api/health', { host })).status).toBe(403);
    expect((await ask('/api/health', { host: `localhost:${new URL(rellin.address).port}` })).status).toBe(200);
  });

  it('refuses another page, even with a valid token', async () => {
    const authorization = `Bearer ${rellin.token}`;
    const post = (headers: Record<string, string>) =>
      ask('/api/journal/undo', { authorization, ...headers }, 'POST', '{}');
    expect((await post({ origin: 'http://evil.example' })).status).toBe(403);
    expect((await post({ origin: 'null' })).status).toBe(403);
    expect((await post({ 'sec-fetch-site': 'cross-site' })).status).toBe(403);
    expect((await ask('/api/shortcuts', { authorization, origin: 'https://127.0.0.1' })).status).toBe(403);
    expect((await post({ origin: rellin.address })).status).toBe(404); // nothing to undo: it was let in
  });

  it('sends a strict content policy with every answer', async () => {
    const policy = (await ask('/api/health')).headers['content-security-policy'] as string;
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("object-src 'none'");
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).not.toMatch(/script-src[^;]*unsafe/);
  });

  it('listens on loopback only', async () => {
    const { execFileSync } = await import('node:child_process');
    const { readFileSync } = await import('node:fs');
    void execFileSync;
    const port = Number(new URL(rellin.address).port).toString(16).toUpperCase().padStart(4, '0');
    const listening = readFileSync('/proc/net/tcp', 'utf8')
      .split('\n')
      .filter((l) => l.includes(`:${port} `) && l.includes(' 0A '));
    expect(listening.every((l) => l.includes(`0100007F:${port}`))).toBe(true);
    expect(listening.length).toBe(1);
  });
});

describe('the passphrase', () => {
  it('lets in when right, not when wrong, is kept as a hash, and is limited in tries', async () => {
    await rellin.call('PUT', '/session/passphrase', { passphrase: 'wheatear on the wall' });
    const [row] = await rellin.sql(`SELECT value FROM setting WHERE id = 'passphrase'`);
    expect(row!['value']).toMatch(/^\$argon2id\$/);
    const signIn = (passphrase: string) => ask('/api/session/sign-in', {}, 'POST', JSON.stringify({ passphrase }));
    const right = await signIn('wheatear on the wall');
    expect(right.status).toBe(204);
    expect((await ask('/api/shortcuts', { cookie: cookieOf(right) })).status).toBe(200);
    const statuses: number[] = [];
    for (let i = 0; i < 14; i++) statuses.push((await signIn(`guess ${i}`)).status);
    expect(statuses).toContain(401);
    expect(statuses[statuses.length - 1]).toBe(429);
  });
});
