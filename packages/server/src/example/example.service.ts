/**
 * The example: the made-up observatory, run beside this server in a catalogue, a database and a folder of its own. It
 * is a process that ends with this one, and leaves nothing behind.
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
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

@Injectable()
export class ExampleService implements OnApplicationShutdown {
  private readonly log = new Logger('example');
  private readonly folder: string;
  private child: ChildProcess | undefined;
  private ended: Promise<void> = Promise.resolve();
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
    if (this.config.exampleCommand && existsSync(this.folder)) this.run(['--remove'], () => undefined);
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
    let last = '';
    this.run(['--fresh', '--leave-nothing'], (text) => {
      last = (last + text).slice(-MOST_TOLD);
      if (this.state === 'starting' && last.includes('/enter?code=')) this.set('running');
    });
    void this.ended.then(() => {
      if (this.state !== 'leaving') {
        this.log.warn(`the example ended by itself: ${last}`);
        this.trouble = 'The example ended by itself.';
      }
      this.set('none');
    });
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
    if (!this.child) return;
    this.set('leaving');
    this.child.kill('SIGTERM');
    await this.ended;
  }

  private set(state: typeof this.state): void {
    this.state = state;
    this.events.changed('example');
  }

  private run(args: readonly string[], heard: (text: string) => void): void {
    const [program, ...rest] = this.config.exampleCommand!;
    // its standard input stays open as long as we live: where we are killed, it stops by itself
    const child = spawn(program!, [...rest, ...args], {
      env: { ...process.env, RELLIN_DEMO_DATA: this.folder, RELLIN_EXAMPLE_OF: '1', RELLIN_DATA: '', DATABASE_URL: '' },
      stdio: ['pipe', 'pipe', 'pipe'],
    });
    this.child = child;
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (bytes: Buffer) => heard(bytes.toString('utf8')));
    this.ended = new Promise<void>((resolve) => {
      child.once('error', () => resolve());
      child.once('close', () => resolve());
    }).then(() => {
      if (this.child === child) this.child = undefined;
    });
  }

  async onApplicationShutdown(): Promise<void> {
    await Promise.race([this.leave(), new Promise((resolve) => setTimeout(resolve, END_MS).unref())]);
  }
}
