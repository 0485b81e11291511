/** A demo of its own for each test file: fresh files, a fresh database, the real server, a signed-in page. */
import type { ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdirSync, mkdtempSync, readFileSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { BrowserContext } from '@playwright/test';
import { launch } from '../scripts/lib/launch.mjs';
import pg from 'pg';
import { type Answer, type BodyOf, type Method, type QueryOf, withQuery } from '@rellin/contract';

const PROJECT = join(import.meta.dirname, '..');
const DATE = '2026-11-24';

async function admin(text: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['RELLIN_TEST_CLUSTER'] });
  await client.connect();
  await client.query(text);
  await client.end();
}

const homeEnvironment = (home: string) => ({
  HOME: home,
  XDG_CONFIG_HOME: join(home, '.config'),
  XDG_DATA_HOME: join(home, '.local/share'),
  XDG_DATA_DIRS: join(home, '.system'),
  RELLIN_OPENER: 'viewer',
});

export class App {
  private readonly database = `e_${randomBytes(6).toString('hex')}`;
  private child: ChildProcess | undefined;
  /** Where the page is, by its own name. */
  address = '';
  /** Where the API answers to a command. */
  private api = '';
  /** Of the first sign-in, shared by every browser after it. */
  private cookies: Awaited<ReturnType<BrowserContext['cookies']>> | undefined;

  /** The home folder of somebody new; the demo has its own. */
  private home: string | undefined;
  readonly files: string;
  private readonly data: string;

  private constructor(private readonly base: string) {
    this.files = join(base, 'files');
    this.data = join(base, 'data');
  }

  /** The demo's own place on disk. */
  get place(): string {
    return join(this.files, 'home/Marrowick');
  }

  /**
   * `base` is the folder to make it in, a fresh one by default; `troubled` begins with something for the check-up;
   * `date` is the day the scenario ends with: today's where it matters how long ago things were opened.
   */
  static async start(base?: string, troubled = false, date = DATE): Promise<App> {
    if (base) mkdirSync(base);
    const app = new App(realpathSync(base ?? mkdtempSync(join(tmpdir(), 'rellin-e2e-'))));
    mkdirSync(app.data);
    const { writeDemo } = (await import('../packages/demo/dist/index.js' as string)) as {
      writeDemo(base: string, seed: number, today: Date, troubled: boolean): number;
    };
    writeDemo(app.files, 7, new Date(`${date}T00:00:00Z`), troubled);
    await admin(`CREATE DATABASE ${app.database} OWNER rellin TEMPLATE ${process.env['RELLIN_TEST_DATABASE']}`);
    await app.serve();
    return app;
  }

  /** For somebody new: nothing but a home folder, which `fill` writes. */
  static async startNew(fill: (home: string) => void): Promise<App> {
    const app = new App(realpathSync(mkdtempSync(join(tmpdir(), 'rellin-e2e-'))));
    mkdirSync(app.data);
    mkdirSync(app.files);
    fill(app.files);
    app.home = app.files;
    await admin(`CREATE DATABASE ${app.database} OWNER rellin TEMPLATE ${process.env['RELLIN_TEST_DATABASE']}`);
    await app.serve();
    return app;
  }

  async serve(): Promise<void> {
    const { demoFolders } = (await import('../packages/demo/dist/index.js' as string)) as {
      demoFolders(base: string): Record<string, string>;
    };
    const { demoEnvironment } = (await import('../scripts/lib/demoEnvironment.mjs' as string)) as {
      demoEnvironment(at: Record<string, string>): Record<string, string>;
    };
    const url = new URL(process.env['RELLIN_TEST_CLUSTER']!);
    url.pathname = `/${this.database}`;
    url.username = 'rellin';
    const { child, listening } = launch({
      env: {
        PATH: process.env['PATH'],
        ...(this.home === undefined ? demoEnvironment(demoFolders(this.files)) : homeEnvironment(this.home)),
        DATABASE_URL: url.href,
        RELLIN_DATA: this.data,
        RELLIN_WEB: join(PROJECT, 'packages/web/dist'),
        RELLIN_LOG: 'info',
      },
    });
    this.child = child;
    ({ address: this.api, page: this.address } = await listening);
    writeFileSync(
      join(this.data, 'run.json'),
      JSON.stringify({ address: this.api, page: this.address, pid: child.pid }),
      { mode: 0o600 },
    );
  }

  get token(): string {
    return readFileSync(join(this.data, 'command-token'), 'utf8').trim();
  }

  private async send(method: string, path: string, body?: unknown): Promise<unknown> {
    const answer = await fetch(`${this.api}/api${path}`, {
      method,
      headers: {
        authorization: `Bearer ${this.token}`,
        ...(body !== undefined && { 'content-type': 'application/json' }),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    return answer.status === 204 || answer.status === 202 ? undefined : await answer.json();
  }
  /** Asks what the list of endpoints knows. */
  call<M extends Method, P extends string>(method: M, path: P, ...body: BodyOf<M, P>): Promise<Answer<M, P>> {
    return this.send(method, path, body[0]) as Promise<Answer<M, P>>;
  }
  get<P extends string>(path: P, ...query: QueryOf<'GET', P>): Promise<Answer<'GET', P>> {
    return this.send('GET', withQuery(path, query[0] as object | undefined)) as Promise<Answer<'GET', P>>;
  }

  /** Signs a browser in by a one-time address and waits for the start view. */
  async enter(context: BrowserContext) {
    const page = await context.newPage();
    if (this.cookies) {
      await context.addCookies(this.cookies);
      await page.goto(this.address);
    } else {
      const { address } = await this.call('POST', '/session/code');
      await page.goto(address);
      this.cookies = await context.cookies();
    }
    if (this.home === undefined)
      await page.getByRole('navigation', { name: 'Pin strip' }).getByRole('button').first().waitFor();
    return page;
  }

  async stopServer(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await gone;
  }

  async end(): Promise<void> {
    await this.stopServer();
    await admin(`DROP DATABASE IF EXISTS ${this.database} WITH (FORCE)`);
    rmSync(this.base, { recursive: true, force: true });
  }
}
