/**
 * The example: the made-up observatory, run beside this server in a catalogue, a database and a folder of its own. It
 * is a process that ends with this one, and leaves nothing behind.
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { EntryCode, ExampleView } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { EventsService } from '../events/events.service.js';
import { Refusal } from '../problems/refusal.js';

/** It ends in order within less. */
const END_MS = 20_000;
/** What it said last tells why it ended. */
const MOST_TOLD = 2000;
const ANSWER_MS = 5000;
const CLEARING_TRIES = 20;
const CLEARING_PAUSE_MS = 1000;

@Injectable()
export class ExampleService implements OnApplicationShutdown {
  private readonly log = new Logger('example');
  private readonly folder: string;
  private child: ChildProcess | undefined;
  /** From its beginning until nothing of it is left; or until what an earlier one left is gone. */
  private whole: Promise<void> = Promise.resolve();
  private state: 'none' | 'starting' | 'running' | 'leaving' = 'none';
  private trouble = '';

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly events: EventsService,
  ) {
    this.folder = join(config.dataFolder, 'example');
  }

  /** What an earlier run could not clear away goes now. */
  start(): void {
    if (this.config.exampleCommand) this.whole = this.clear();
  }

  view(): ExampleView {
    if (!this.config.exampleCommand) return { state: 'unavailable', trouble: '' };
    return { state: this.state, trouble: this.trouble };
  }

  /** Begins; it runs some seconds later. */
  begin(): void {
    if (!this.config.exampleCommand)
      throw new Refusal('conflict', 'This Rellin was started without its example.', {
        remedy: 'Run “npm run demo” instead.',
      });
    if (this.state !== 'none') return;
    this.trouble = '';
    this.set('starting');
    this.whole = this.whole.then(() => this.runToItsEnd());
  }

  private async runToItsEnd(): Promise<void> {
    // it may be left before it has begun
    if (!this.isLeaving()) {
      let last = '';
      const { child, ended } = this.run(['--fresh', '--leave-nothing'], (text) => {
        last = (last + text).slice(-MOST_TOLD);
        if (this.state === 'starting' && last.includes('/enter?code=')) this.set('running');
      });
      this.child = child;
      await ended;
      this.child = undefined;
      if (!this.isLeaving()) {
        this.log.warn(`the example ended by itself: ${last}`);
        this.trouble = 'The example ended by itself.';
      }
    }
    await this.clear();
    this.set('none');
  }

  private isLeaving(): boolean {
    return this.state === 'leaving';
  }

  /**
   * Ended before it could clear up behind itself, one may have left something. One whose server was killed may still be
   * ending, and write while it is removed: then it is removed again.
   */
  private async clear(): Promise<void> {
    for (let tries = CLEARING_TRIES; existsSync(this.folder) && tries > 0; tries--) {
      await this.run(['--remove'], () => undefined).ended;
      if (existsSync(this.folder)) await delay(CLEARING_PAUSE_MS, undefined, { ref: false });
    }
  }

  /** A fresh address: each works once. */
  async address(): Promise<EntryCode> {
    if (this.state !== 'running') throw new Refusal('conflict', 'The example is not running.');
    const data = join(this.folder, 'rellin');
    const { address } = JSON.parse(readFileSync(join(data, 'run.json'), 'utf8')) as { address: string };
    const token = readFileSync(join(data, 'command-token'), 'utf8').trim();
    const answer = await fetch(`${address}/api/session/code`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}` },
      signal: AbortSignal.timeout(ANSWER_MS),
    });
    if (!answer.ok) throw new Refusal('conflict', 'The example does not answer.');
    return (await answer.json()) as EntryCode;
  }

  /** Ends it and removes all of it; resolves when nothing of it is left. */
  async leave(): Promise<void> {
    if (this.state !== 'none') this.set('leaving');
    this.child?.kill('SIGTERM');
    await this.whole;
  }

  private set(state: typeof this.state): void {
    this.state = state;
    this.events.changed('example');
  }

  private run(args: readonly string[], heard: (text: string) => void): { child: ChildProcess; ended: Promise<void> } {
    const [program, ...rest] = this.config.exampleCommand!;
    // its standard input stays open as long as we live: where we are killed, it stops by itself
    const child = spawn(program!, [...rest, ...args], {
      env: { ...withoutOurs(process.env), RELLIN_DEMO_DATA: this.folder, RELLIN_EXAMPLE_OF: '1' },
      stdio: ['pipe', 'pipe', 'pipe'],
    });
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (bytes: Buffer) => heard(bytes.toString('utf8')));
    const ended = new Promise<void>((resolve) => {
      child.once('error', () => resolve());
      child.once('close', () => resolve());
    });
    return { child, ended };
  }

  async onApplicationShutdown(): Promise<void> {
    await Promise.race([this.leave(), new Promise((resolve) => setTimeout(resolve, END_MS).unref())]);
  }
}

/** What this server was told is not meant for another one: its database, its port, its own code, its example. */
const withoutOurs = (env: NodeJS.ProcessEnv): NodeJS.ProcessEnv =>
  Object.fromEntries(Object.entries(env).filter(([name]) => !name.startsWith('RELLIN_') && name !== 'DATABASE_URL'));
