/** `npm start` as a person meets it: a private cluster in the data folder, stopped in order, killed, started again. */
import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import {
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
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
import { ask, cookieOf } from './testing/raw.js';

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
      return /http:\/\/rellin-\w+\.localhost:\d+\/enter\?code=\S+/.exec(said)?.[0];
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

/** Asks the page's own name, which a browser takes to loopback by itself. */
const asked = (address: string, path: string, headers: Record<string, string> = {}) => {
  const { host, port } = new URL(address);
  return ask(`http://127.0.0.1:${port}`, path, { headers: { host, ...headers } });
};
const answers = (address: string) =>
  asked(address, '/api/health').then(
    (r) => r.status === 200,
    () => false,
  );
const postgresRuns = () => existsSync(join(data, 'pg/postmaster.pid'));

/** Signs in by the one-time address and asks for the places. */
async function places(address: string): Promise<{ name: string; root: string }[]> {
  const { pathname, search } = new URL(address);
  const cookie = cookieOf(await asked(address, pathname + search));
  return JSON.parse((await asked(address, '/api/places', { cookie })).body) as { name: string; root: string }[];
}

describe('npm start', () => {
  it('keeps its data in the user’s data folder, remembers the places, and stops all of it on Ctrl+C', async () => {
    const first = await start(['--place', join(base, 'Papers')]);
    expect((await places(first.address)).map((p) => [p.name, p.root])).toEqual([['Papers', join(base, 'Papers')]]);
    expect(postgresRuns()).toBe(true);
    // nobody else sees anything of it; as the superuser PostgreSQL's own user passes through, no more
    expect(statSync(data).mode & 0o067).toBe(0);
    for (const name of readdirSync(data))
      expect([name, (lstatSync(join(data, name)).mode & 0o077).toString(8)]).toEqual([name, '0']);
    expect(statSync(join(data, 'pg')).uid).not.toBe(0);
    expect(readdirSync(join(data, 'pg-socket'))).toContain('.s.PGSQL.5432');
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

  it('started twice at once on nothing, one of them runs, and the other gives its address', async () => {
    const fresh = join(base, 'fresh/rellin');
    const [one, two] = await Promise.all([start(['--data', fresh]), start(['--data', fresh])]);
    expect(new URL(one.address).origin).toBe(new URL(two.address).origin);
    expect(await answers(one.address)).toBe(true);
  });

  it('brings a server back that ended by itself, and says so when it does not help', async () => {
    const fresh = join(base, 'ends/rellin');
    const { child, address } = await start(['--data', fresh]);
    let said = '';
    child.stderr!.on('data', (chunk: Buffer) => (said += chunk.toString()));
    const server = () => (JSON.parse(readFileSync(join(fresh, 'run.json'), 'utf8')) as { pid: number }).pid;
    for (let i = 0; i < 3; i++) {
      const before = server();
      process.kill(before, 'SIGKILL');
      await until(server, (pid) => pid !== before);
      expect(await answers(address)).toBe(true);
    }
    expect(said).toContain('is started again');
    process.kill(server(), 'SIGKILL');
    await until(
      () => child.exitCode,
      (code) => code !== null,
    );
    expect([child.exitCode, said]).toEqual([1, expect.stringContaining('4 times within 5 minutes')]);
  });

  it('uses a server of the person’s own by DATABASE_URL and starts no other', async () => {
    const database = `own_${process.pid}`;
    await Rellin.sql('postgres', `CREATE DATABASE ${database} OWNER rellin`);
    try {
      const other = join(base, 'other data');
      const { child, address } = await start(['--place', join(base, 'Papers'), '--data', other], {
        DATABASE_URL: Rellin.url(database, 'rellin'),
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
