/**
 * A real server as built, a database of its own on the test run's PostgreSQL, real files in a temporary folder.
 * Tests talk to it over HTTP only, and wait for what they expect instead of sleeping.
 */
import type { ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdirSync, mkdtempSync, readFileSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import pg from 'pg';
import { launch } from '../../../../scripts/lib/launch.mjs';
import { as, asOrdinary, giveAll, giveTo, ORDINARY } from './users.js';
import { withQuery } from '@rellin/contract';
import type {
  Answer,
  BodyOf,
  Method,
  NewShortcut,
  OpeningResult,
  PinView,
  Problem,
  QueryOf,
  ShortcutDetail,
  ShortcutView,
} from '@rellin/contract';
import { checkAnswer } from './answers.js';

// as the server reads them
pg.defaults.parseInt8 = true;

export const PROJECT = join(import.meta.dirname, '../../../..');

export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
  get kind(): string {
    return this.problem.type.replace('urn:rellin:problem:', '');
  }
}

const LONGEST_PAUSE_MS = 100;

/** Asks again until the answer is what is waited for; fails with the last answer after `ms`. */
export async function until<T>(ask: () => Promise<T> | T, isIt: (answer: T) => boolean, ms = 15_000): Promise<T> {
  const end = Date.now() + ms;
  // what is asked often costs the server what it is waited for with
  for (let pause = 5; ; pause = Math.min(pause * 1.3, LONGEST_PAUSE_MS)) {
    const answer = await ask();
    if (isIt(answer)) return answer;
    if (Date.now() > end)
      throw new Error(
        `waited ${ms} ms in vain; last answer: ${JSON.stringify(answer)?.slice(0, 1500)}${Rellin.allLogged()}`,
      );
    await new Promise((resolve) => setTimeout(resolve, pause));
  }
}

export interface RellinOptions {
  env?: Record<string, string> | ((rellin: Rellin) => Record<string, string>);
  /** How much the server says; `info` by default, without which nobody hears that it listens. */
  log?: 'info' | 'debug';
  /** What runs the server, `node` by default. */
  command?: string[];
  /** Names of places to make below the temporary folder; the first is `rellin.place`. */
  places?: string[];
}

/** Runs a server as the superuser without the right to pass over permissions, or as whoever we are. */
export const BOUND_BY_PERMISSIONS =
  process.getuid?.() === 0
    ? [
        'setpriv',
        ...['bounding-set', 'inh-caps'].map((set) => `--${set}=-dac_override,-dac_read_search`),
        process.execPath,
      ]
    : [process.execPath];

export class Rellin {
  readonly base = realpathSync(mkdtempSync(join(tmpdir(), 'rellin-test-')));
  readonly database = `t_${randomBytes(6).toString('hex')}`;
  readonly data = join(this.base, 'data');
  private static readonly made = new Set<Rellin>();
  private child: ChildProcess | undefined;
  private log: string[] = [];
  address = '';
  /** The page's own name, and its port. */
  pageHost = '';

  private constructor(private readonly options: RellinOptions) {
    for (const name of this.placeNames()) mkdirSync(join(this.base, name), { recursive: true });
    mkdirSync(this.data);
    if (asOrdinary)
      for (const path of [this.base, this.data, ...this.placeNames().map((name) => join(this.base, name))])
        giveTo(path, ORDINARY);
    Rellin.made.add(this);
  }

  private placeNames(): string[] {
    return this.options.places ?? ['place'];
  }

  /** The root of the first place. */
  get place(): string {
    return join(this.base, this.placeNames()[0]!);
  }

  get databaseUrl(): string {
    return Rellin.url(this.database, 'rellin');
  }

  /** The server's own role is no superuser; tests look into databases as one that is. */
  static url(database: string, role = 'rellin_admin'): string {
    const url = new URL(process.env['RELLIN_TEST_CLUSTER']!);
    url.pathname = `/${database}`;
    url.username = role;
    return url.href;
  }

  static async make(options: RellinOptions = {}, prepare?: (rellin: Rellin) => void): Promise<Rellin> {
    const rellin = new Rellin(options);
    await Rellin.createDatabase(rellin.database);
    prepare?.(rellin);
    await rellin.start();
    return rellin;
  }

  /** With the whole schema, and no rows. */
  static async createDatabase(name: string): Promise<void> {
    await Rellin.sql(
      'postgres',
      `CREATE DATABASE ${name} OWNER rellin TEMPLATE ${process.env['RELLIN_TEST_DATABASE']}`,
    );
  }

  static async sql(database: string, text: string, values: unknown[] = []): Promise<Record<string, unknown>[]> {
    const client = new pg.Client({ connectionString: Rellin.url(database) });
    await client.connect();
    try {
      return (await client.query(text, values)).rows as Record<string, unknown>[];
    } finally {
      await client.end();
    }
  }

  sql(text: string, values: unknown[] = []) {
    return Rellin.sql(this.database, text, values);
  }

  environment(): NodeJS.ProcessEnv {
    return {
      PATH: process.env['PATH'],
      HOME: this.base,
      XDG_CONFIG_HOME: join(this.base, 'config'),
      XDG_DATA_HOME: join(this.base, 'share'),
      XDG_DATA_DIRS: join(this.base, 'system'),
      DATABASE_URL: this.databaseUrl,
      RELLIN_DATA: this.data,
      RELLIN_OPENER: 'viewer',
      RELLIN_LOG: 'warn',
      RELLIN_PLACES: JSON.stringify(
        this.placeNames().map((name) => ({ name, root: join(this.base, name), type: 'fixed' })),
      ),
      ...(typeof this.options.env === 'function' ? this.options.env(this) : this.options.env),
    };
  }

  /** Starts the server and waits until it listens and has looked through its places. */
  async start(): Promise<void> {
    this.log = [];
    if (asOrdinary) giveAll(this.base, ORDINARY);
    const usual = [...(asOrdinary ? as(ORDINARY) : []), process.execPath];
    const { child, listening } = launch({
      command: this.options.command ?? usual,
      env: { ...this.environment(), RELLIN_LOG: this.options.log ?? 'info' },
      onLine: (line) => void this.log.push(line),
      onError: (text) => void this.log.push(text),
    });
    this.child = child;
    const { address, page } = await listening.catch((error: Error) => {
      throw new Error(`${error.message}:\n${this.log.join('\n')}`);
    });
    this.address = address;
    this.pageHost = new URL(page).host;
    writeFileSync(
      join(this.data, 'run.json'),
      JSON.stringify({ address: this.address, page: `http://${this.pageHost}`, pid: child.pid }),
      {
        mode: 0o600,
      },
    );
    await this.settled();
  }

  /** Every place that is here has been looked through and is watched. */
  async settled(): Promise<void> {
    await until(
      () => this.get('/places'),
      (places) => places.every((p) => p.state === 'away' || (p.scan === 'done' && p.watching !== 'off')),
    );
  }

  /** What the servers of this run have complained of, the last of it: told where something was waited for in vain. */
  static allLogged(): string {
    return [...Rellin.made].map((rellin) => `\nthe server said: ${rellin.logged().slice(-2000)}`).join('');
  }

  logged(): string {
    return this.log.join('\n');
  }

  private async end(signal: NodeJS.Signals): Promise<number | null> {
    const child = this.child;
    // one that was ended by a signal has no exit code
    if (!child || child.exitCode !== null || child.signalCode !== null) return child?.exitCode ?? null;
    const gone = new Promise<number | null>((resolve) => child.once('exit', (code) => resolve(code)));
    child.kill(signal);
    const code = await gone;
    // what an engine or a library warns of now is a fault of the version after
    const warning = this.log.find((text) => text.includes('DeprecationWarning'));
    if (warning) throw new Error(`the server was warned: ${warning}`);
    return code;
  }

  /** The server's process; that of the command that runs it, where there is one. */
  get pid(): number {
    return this.child!.pid!;
  }

  /** Holds the server still, and lets it go on. */
  signal(signal: 'SIGSTOP' | 'SIGCONT'): void {
    this.child!.kill(signal);
  }

  stop(): Promise<number | null> {
    return this.end('SIGTERM');
  }

  kill(): Promise<number | null> {
    return this.end('SIGKILL');
  }

  async remove(): Promise<void> {
    Rellin.made.delete(this);
    await this.end('SIGTERM');
    await Rellin.sql('postgres', `DROP DATABASE IF EXISTS ${this.database} WITH (FORCE)`);
    rmSync(this.base, { recursive: true, force: true });
  }

  get token(): string {
    return readFileSync(join(this.data, 'command-token'), 'utf8').trim();
  }

  /** As `call`, for what no endpoint takes: requests that are to be refused. */
  async send(method: string, path: string, body?: unknown): Promise<unknown> {
    const answer = await fetch(`${this.address}/api${path}`, {
      method,
      headers: {
        authorization: `Bearer ${this.token}`,
        ...(body !== undefined && { 'content-type': 'application/json' }),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    const data = answer.status === 204 || answer.status === 202 ? undefined : ((await answer.json()) as unknown);
    checkAnswer(method, path, answer.status, data);
    if (!answer.ok) throw new Refused(data as Problem);
    return data;
  }
  /** Asks what the list of endpoints knows; the answer is held against it. */
  call<M extends Method, P extends string>(method: M, path: P, ...body: BodyOf<M, P>): Promise<Answer<M, P>> {
    return this.send(method, path, body[0]) as Promise<Answer<M, P>>;
  }
  get<P extends string>(path: P, ...query: QueryOf<'GET', P>): Promise<Answer<'GET', P>> {
    return this.send('GET', withQuery(path, query[0] as object | undefined)) as Promise<Answer<'GET', P>>;
  }
  post<P extends string>(path: P, ...body: BodyOf<'POST', P>): Promise<Answer<'POST', P>> {
    return this.call('POST', path, ...body);
  }

  /** Writes a file below the first place, with the folders above it; returns its absolute path. */
  write(path: string, text = `the text of ${path}\n`): string {
    const full = join(this.place, path);
    mkdirSync(dirname(full), { recursive: true });
    writeFileSync(full, text);
    if (asOrdinary) for (let at = full; at.startsWith(this.place); at = dirname(at)) giveTo(at, ORDINARY);
    return full;
  }

  add(typed: string, more: NewShortcut = {}): Promise<ShortcutDetail> {
    return this.post('/shortcuts', { typed, ...more });
  }
  shortcut(id: string): Promise<ShortcutDetail> {
    return this.get(`/shortcuts/${id}`);
  }
  shortcuts(): Promise<ShortcutView[]> {
    return this.get('/shortcuts');
  }
  pins(): Promise<PinView[]> {
    return this.get('/pins');
  }
  open(shortcutId: string, route = 'test'): Promise<OpeningResult> {
    return this.post('/openings', { shortcutId, route });
  }
  /** The refusal that a call meets. */
  async refusal(work: Promise<unknown>): Promise<Refused> {
    try {
      await work;
    } catch (error) {
      if (error instanceof Refused) return error;
      throw error;
    }
    throw new Error('it was not refused');
  }
}
