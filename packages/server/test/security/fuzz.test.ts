/**
 * Requests made of the API's own addresses and field names with values that nobody sends: none may be met with an error
 * of the server's, be held up, or leave memory behind. `npm run test:fuzz` sends a hundred thousand; here it is some
 * hundred.
 */
import { mkdirSync, readdirSync, readFileSync } from 'node:fs';
import http from 'node:http';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { seeded } from '@rellin/core/random';
import { PROJECT, Rellin } from '../testing/harness.js';
import { ask } from '../testing/raw.js';

const REQUESTS = Number(process.env['RELLIN_FUZZ'] ?? 1500);
const SEED = Number(process.env['RELLIN_FUZZ_SEED'] ?? 20261130);
/** What is waited for longer counts as held up; a quiet machine answers most in milliseconds. */
const HELD_UP_MS = 2000;
const MOST_GROWTH = 200_000_000;

interface Route {
  method: string;
  url: string;
  open: boolean;
}

let rellin: Rellin;
let routes: Route[];
let fields: Map<string, string[]>;
const ids: string[] = [];

/** The names of fields by the first part of an address, read from the controllers. */
function fieldsOf(): Map<string, string[]> {
  const src = join(PROJECT, 'packages/server/src');
  const out = new Map<string, string[]>();
  for (const name of readdirSync(src, { recursive: true, encoding: 'utf8' })) {
    if (!name.endsWith('.controller.ts')) continue;
    const text = readFileSync(join(src, name), 'utf8');
    const found = [...text.matchAll(/^\s*(?:@.*\s)?(\w+)\??: /gm)].map((m) => m[1]!);
    for (const [, prefix] of text.matchAll(/@Controller\('([\w-]+)'\)/g)) out.set(prefix!, [...new Set(found)]);
  }
  return out;
}

beforeAll(async () => {
  rellin = await Rellin.make({ log: 'debug' }, (r) => {
    for (let i = 0; i < 20; i++) r.write(`folder ${i % 3}/file ${i}.txt`);
    mkdirSync(join(r.place, 'empty'));
  });
  const line = rellin
    .logged()
    .split('\n')
    .find((l) => l.startsWith('{') && 'routes' in JSON.parse(l));
  // the line of events never ends, by design; docs are the library's
  routes = (JSON.parse(line!) as { routes: Route[] }).routes.filter(
    (r) => r.url.startsWith('/api/') && !/events|docs/.test(r.url) && r.method !== 'HEAD',
  );
  fields = fieldsOf();
  for (let i = 0; i < 8; i++) ids.push((await rellin.add(join(rellin.place, `folder ${i % 3}/file ${i}.txt`))).id);
  ids.push((await rellin.post('/collections', { name: 'c', shortcutIds: ids.slice(0, 3) })).id);
  ids.push((await rellin.post('/tags', { name: 't' })).id);
  ids.push((await rellin.post('/boards', { name: 'b' })).board.id);
});
afterAll(() => rellin?.remove());

describe('requests that nobody sends', () => {
  it(
    `none of ${REQUESTS} is met with an error of ours, held up, or leaves memory behind (seed ${SEED})`,
    async () => {
      const rnd = seeded(SEED).next;
      const one = <T>(list: readonly T[]): T => list[Math.floor(rnd() * list.length)]!;
      const odd = (): unknown =>
        one<() => unknown>([
          () => one(ids),
          () => one([0, 1, 2, -1, 1.5, 1e9, 2 ** 31, 2 ** 53, 1e300]),
          () =>
            one([
              '',
              ' ',
              'x',
              '/',
              '..',
              '~',
              'name',
              'move',
              'copy',
              'all',
              'true',
              '2026-11-30',
              'file:///',
              'https://x.example',
            ]),
          () =>
            one([
              '\u0000',
              '\ud800',
              '\u202e',
              'é'.repeat(300),
              'x'.repeat(5000),
              '%00',
              "'; DROP TABLE shortcut; --",
              '{"a":1}',
              '[[[[',
              '{{{{',
              '*a*a*a*a*a*a*b',
              '(((((',
              'kind:',
              'size:>x',
              '00000000-0000-4000-8000-000000000000',
            ]),
          () => join(rellin.place, one(['', 'folder 1', 'folder 1/file 1.txt', 'nothing'])),
          () => null,
          () => one([true, false]),
          () => [],
          () => [odd()],
          () => [[[]]],
          () => ({}),
          () => ({ placeId: one([1, 2, 99999999]), originalId: one([1, 2, 5, 8, 1e15]) }),
          () => [
            { placeId: 1, originalId: one([2, 3, 4]) },
            { placeId: 1, originalId: 3 },
          ],
          () => ({ [one(['placeId', 'id', 'name', '__proto__', 'constructor', 'toString'])]: odd() }),
        ])();
      const text = (value: unknown) => (typeof value === 'object' ? JSON.stringify(value) : String(value));
      const agent = new http.Agent({ keepAlive: true, maxSockets: 4 });
      const wrong: string[] = [];
      const held: string[] = [];
      const request = async (): Promise<void> => {
        const { method, url } = one(routes);
        const names = fields.get(url.split('/')[2]!) ?? ['id'];
        const path = url.replace(/:(\w+)/g, () =>
          encodeURIComponent(
            text(rnd() < 0.6 ? one<unknown>([one(ids), 1, 2, 3]) : odd())
              .replace(/[\ud800-\udfff]/g, '?')
              .slice(0, 1000),
          ),
        );
        const query = Array.from(
          { length: Math.floor(rnd() * 3) },
          () =>
            `${one(names)}=${encodeURIComponent(
              text(odd())
                .replace(/[\ud800-\udfff]/g, '?')
                .slice(0, 2000),
            )}`,
        ).join('&');
        const object = Object.fromEntries(Array.from({ length: Math.floor(rnd() * 6) }, () => [one(names), odd()]));
        const body = one<() => string | Buffer | undefined>([
          () => JSON.stringify(object),
          () => JSON.stringify(object),
          () => JSON.stringify(object),
          () => JSON.stringify(odd()),
          () => text(odd()),
          () => undefined,
        ])();
        const type = one([
          'application/json',
          'application/json',
          'application/json',
          'application/octet-stream',
          'text/plain',
        ]);
        const hasBody = method !== 'GET' && body !== undefined;
        const headers = { authorization: `Bearer ${rellin.token}`, ...(hasBody && { 'content-type': type }) };
        const asked = { method, headers, ...(hasBody && { body }), within: 60_000 };
        const full = query ? `${path}?${query}` : path;
        const timed = async () => {
          const started = performance.now();
          const answer = await ask(rellin.address, full, { ...asked, agent }).catch(() =>
            ask(rellin.address, full, asked),
          );
          return { answer, ms: performance.now() - started };
        };
        const { answer, ms } = await timed();
        const what = `${method} ${full.slice(0, 300)} ${hasBody ? `${type} ${String(body).slice(0, 400)}` : ''}`;
        if (answer.status >= 500) wrong.push(`${answer.status} ${what}`);
        // a machine that is busy elsewhere holds one up now and then; what holds Rellin up does so again
        if (ms > HELD_UP_MS) {
          const again = await timed();
          if (again.ms > HELD_UP_MS) held.push(`${Math.round(ms)} and ${Math.round(again.ms)} ms ${what}`);
        }
      };
      const resident = () =>
        Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${rellin.pid}/status`, 'utf8'))![1]) * 1024;
      let before = 0;
      for (let done = 0; done < REQUESTS;) {
        const some = Math.min(4, REQUESTS - done);
        await Promise.all(Array.from({ length: some }, request));
        done += some;
        if (before === 0 && done >= REQUESTS / 3) before = resident();
      }
      agent.destroy();
      expect(wrong).toEqual([]);
      expect(held).toEqual([]);
      expect(resident() - before).toBeLessThan(MOST_GROWTH);
      expect((await ask(rellin.address, '/api/health')).status).toBe(200);
    },
    Math.max(120_000, REQUESTS * 60),
  );
});
