/** `npm start` as a person meets it: a private cluster in the data folder, stopped in order, killed, started again. */
import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  realpathSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from '@jest/globals';
import { PROJECT, Rellin, until } from './testing/harness.js';

const START = join(PROJECT, 'scripts/start.mjs');
let base: string;
let data: string;
const children: ChildProcess[] = [];

beforeAll(() => {
  base = realpathSync(mkdtempSync(join(tmpdir(), 'rellin-start-')));
  spawnSync('chmod', ['755', base]);
  data = join(base, 'share/rellin');
  mkdirSync(join(base, 'Papers'));
  writeFileSync(join(base, 'Papers/rota.csv'), 'day,name\n');
});
afterEach(async () => {
  for (const child of children.splice(0)) await ended(child, 'SIGTERM');
});
afterAll(() => rmSync(base, { recursive: true, force: true }));

const environment = (more: object = {}) => ({
  PATH: process.env['PATH'],
  HOME: base,
  XDG_DATA_HOME: join(base, 'share'),
  XDG_CONFIG_HOME: join(base, 'config'),
  ...more,
});

/** Starts it and waits for the address it prints. */
async function start(args: string[] = [], env: object = {}): Promise<{ child: ChildProcess; address: string }> {
  const child = spawn(process.execPath, [START, ...args], { env: environment(env), stdio: ['ignore', 'pipe', 'pipe'] });
  children.push(child);
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk: Buffer) => (said += chunk.toString()));
  const address = await until(
    () => {
      if (child.exitCode !== null && !/http/.test(said)) throw new Error(`it ended: ${said}`);
      return /http:\/\/127\.0\.0\.1:\d+\/enter\?code=\S+/.exec(said)?.[0];
    },
    (found) => found !== undefined,
    60_000,
  );
  return { child, address: address! };
}

async function ended(child: ChildProcess, signal: NodeJS.Signals): Promise<number | null> {
  if (child.exitCode !== null || child.signalCode !== null) return child.exitCode;
  const gone = new Promise<number | null>((resolve) => child.once('exit', (code) => resolve(code)));
  child.kill(signal);
  return gone;
}

const answers = (address: string) =>
  fetch(new URL('/api/health', address)).then(
    (r) => r.ok,
    () => false,
  );
const postgresRuns = () => existsSync(join(data, 'pg/postmaster.pid'));

/** Signs in by the one-time address and asks for the places. */
async function places(address: string): Promise<{ name: string; root: string }[]> {
  const entered = await fetch(address, { redirect: 'manual' });
  const cookie = entered.headers.getSetCookie()[0]!.split(';')[0]!;
  const answer = await fetch(new URL('/api/places', address), { headers: { cookie } });
  return (await answer.json()) as { name: string; root: string }[];
}

describe('npm start', () => {
  it('keeps its data in the user’s data folder, remembers the places, and stops all of it on Ctrl+C', async () => {
    const first = await start(['--place', join(base, 'Papers')]);
    expect((await places(first.address)).map((p) => [p.name, p.root])).toEqual([['Papers', join(base, 'Papers')]]);
    expect(postgresRuns()).toBe(true);
    expect(statSync(join(data, 'pg-password')).mode & 0o077).toBe(0);
    expect(statSync(join(data, 'command-token')).mode & 0o077).toBe(0);
    const owner = statSync(join(data, 'pg')).uid;
    expect(owner).not.toBe(0);
    expect(await ended(first.child, 'SIGINT')).toBe(0);
    expect(postgresRuns()).toBe(false);
    expect(await answers(first.address)).toBe(false);
    expect(existsSync(join(data, 'run.json'))).toBe(false);

    const second = await start();
    expect(new URL(second.address).port).toBe(new URL(first.address).port);
    expect((await places(second.address)).map((p) => p.name)).toEqual(['Papers']);
  });

  it('killed outright, it leaves nothing that blocks the next', async () => {
    const first = await start(['--place', join(base, 'Papers')]);
    await ended(first.child, 'SIGKILL');
    await until(
      () => answers(first.address),
      (yes) => !yes,
    );
    const next = await start();
    expect(await answers(next.address)).toBe(true);
  });

  it('started twice, the second gives another address of the first and ends', async () => {
    const first = await start(['--place', join(base, 'Papers')]);
    const second = await start();
    await until(
      () => second.child.exitCode,
      (code) => code !== null,
    );
    expect(second.child.exitCode).toBe(0);
    expect(new URL(second.address).origin).toBe(new URL(first.address).origin);
    expect((await places(second.address)).map((p) => p.name)).toEqual(['Papers']);
  });

  it('uses a server of the person’s own by DATABASE_URL and starts no other', async () => {
    const database = `own_${process.pid}`;
    await Rellin.sql('postgres', `CREATE DATABASE ${database}`);
    try {
      const other = join(base, 'other data');
      const { child, address } = await start(['--place', join(base, 'Papers'), '--data', other], {
        DATABASE_URL: Rellin.url(database),
      });
      expect((await places(address)).map((p) => p.name)).toEqual(['Papers']);
      expect(existsSync(join(other, 'pg'))).toBe(false);
      const rows = await Rellin.sql(database, `SELECT name FROM place`);
      expect(rows).toEqual([{ name: 'Papers' }]);
      await ended(child, 'SIGTERM');
    } finally {
      await Rellin.sql('postgres', `DROP DATABASE ${database} WITH (FORCE)`);
    }
  });

  it.each([
    [['--place', '/nowhere/at/all'], 'There is no folder /nowhere/at/all.'],
    [['--place'], '--place needs a value.'],
    [['--at-login', 'perhaps'], '--at-login takes on or off.'],
    [['--fly'], 'Unknown: --fly'],
  ])('says what is wrong with %j and starts nothing', (args, message) => {
    const run = spawnSync(process.execPath, [START, ...args], { encoding: 'utf8', env: environment() });
    expect([run.status, run.stderr]).toEqual([1, expect.stringContaining(message)]);
    expect(run.stderr).not.toContain('at file:');
  });

  it('refuses a file as a place', () => {
    const run = spawnSync(process.execPath, [START, '--place', join(base, 'Papers/rota.csv')], {
      encoding: 'utf8',
      env: environment(),
    });
    expect([run.status, run.stderr]).toEqual([1, expect.stringContaining('is not a folder')]);
    expect(readFileSync(join(base, 'Papers/rota.csv'), 'utf8')).toBe('day,name\n');
  });
});
