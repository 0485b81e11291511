import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Rellin } from './testing/harness.js';
import { ask as raw, cookieOf } from './testing/raw.js';

let rellin: Rellin;
const CODE = 'a-code-for-the-first-visit';
beforeAll(async () => {
  rellin = await Rellin.make({ env: { RELLIN_ENTRY_CODE: CODE } });
});
afterAll(() => rellin.remove());

/** A request as a browser makes it of the page's own name. */
const ask = (path: string, headers: Record<string, string> = {}, method = 'GET', body?: string) =>
  raw(rellin.address, path, {
    method,
    headers: { host: rellin.pageHost, ...headers, ...(body && { 'content-type': 'application/json' }) },
    body,
  });

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
    expect((await post({ origin: `http://${rellin.pageHost}` })).status).toBe(404); // nothing to undo: it was let in
  });

  it('sends a strict content policy with every answer', async () => {
    const policy = (await ask('/api/health')).headers['content-security-policy'] as string;
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("object-src 'none'");
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).not.toMatch(/script-src[^;]*unsafe/);
  });
});
