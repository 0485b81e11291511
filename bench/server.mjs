/** A server as built on a database, with what a bench asks of it. */
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { privateCluster } from '../scripts/lib/postgres.mjs';
import { launch } from '../scripts/lib/launch.mjs';
import { DATA, postgresBin } from '../scripts/lib/prepare.mjs';

/** Waits until a process has hardly used its time for a second: what a start sets going is done. */
async function idle(pid) {
  const used = () => {
    const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ');
    return Number(fields[11]) + Number(fields[12]);
  };
  for (let before = used(), quiet = 0; quiet < 2;) {
    await new Promise((resolve) => setTimeout(resolve, 1000));
    const now = used();
    // a hundred ticks are a second
    quiet = now - before < 5 ? quiet + 1 : 0;
    before = now;
  }
}

/**
 * Asks until the answer is what is waited for.
 * @template T
 * @param {() => Promise<T> | T} ask
 * @param {(answer: T) => boolean} isIt
 */
async function until(ask, isIt, ms = 120_000, pause = 5) {
  const end = performance.now() + ms;
  for (;;) {
    const answer = await ask();
    if (isIt(answer)) return answer;
    if (performance.now() > end) throw new Error(`waited ${ms} ms in vain`);
    // asking again at once would take a core from what is waited for
    await new Promise((resolve) => setTimeout(resolve, pause));
  }
}

/**
 * What a bench asks of a running server.
 * @typedef {{
 *   call: import('@rellin/contract').Call,
 *   get: (path: string) => Promise<ArrayBuffer>,
 *   until: typeof until,
 *   idle: () => Promise<void>,
 *   pid: number,
 * }} Server
 */

/**
 * Without `url` on a fresh database of its own.
 * @template T
 * @param {{ url?: string, places?: import('@rellin/contract').NewPlace[] }} where
 * @param {(server: Server) => Promise<T>} use
 * @returns {Promise<T>}
 */
export async function withServer({ url, places = [] }, use) {
  let cluster;
  if (!url) {
    const folder = join(DATA, 'bench');
    mkdirSync(folder, { recursive: true });
    cluster = await privateCluster({ bin: postgresBin(), folder });
    cluster.dropDatabase('benchserver');
    cluster.ensureDatabase('benchserver');
  }
  const data = mkdtempSync(join(tmpdir(), 'rellin-bench-'));
  const { child, listening } = launch({
    env: {
      PATH: process.env.PATH,
      HOME: data,
      DATABASE_URL: url ?? cluster?.url('benchserver'),
      RELLIN_DATA: data,
      RELLIN_OPENER: 'viewer',
      RELLIN_LOG: 'info',
      RELLIN_PLACES: JSON.stringify(places),
    },
  });
  try {
    const { address } = await listening;
    const token = readFileSync(join(data, 'command-token'), 'utf8').trim();
    /** @type {import('@rellin/contract').Call} */
    const call = async (method, path, ...rest) => {
      const body = /** @type {object | undefined} */ (rest[0]);
      const answer = await fetch(`${address}/api${path}`, {
        method,
        headers: { authorization: `Bearer ${token}`, ...(body && { 'content-type': 'application/json' }) },
        body: body && JSON.stringify(body),
      });
      if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status}`);
      return answer.json();
    };
    /** The answer's bytes, unread. */
    const get = async (path) => {
      const answer = await fetch(`${address}/api${path}`, { headers: { authorization: `Bearer ${token}` } });
      if (!answer.ok) throw new Error(`GET ${path}: ${answer.status}`);
      return answer.arrayBuffer();
    };
    const pid = child.pid ?? 0;
    return await use({ call, get, until, idle: () => idle(pid), pid });
  } finally {
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill();
    await gone;
    cluster?.stop();
    rmSync(data, { recursive: true, force: true });
  }
}
