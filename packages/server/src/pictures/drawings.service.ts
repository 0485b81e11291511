/** Drawings (SVG) made into pictures, one at a time, by a process that is ended where one takes too long. */
import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import pLimit from 'p-limit';
import { Refusal } from '../problems/refusal.js';
import type { Drawn, ToDraw } from './drawing.process.js';

/** What people draw takes a fraction of a second. */
const DRAW_MS = 5000;
/** The process is kept for the next one so long. */
const IDLE_MS = 30_000;

@Injectable()
export class DrawingsService implements OnApplicationShutdown {
  private child: ChildProcess | undefined;
  private idle: NodeJS.Timeout | undefined;
  private readonly turns = pLimit(1);

  /** A PNG of `side` pixels on its longer side. Whoever asked may go away: then it is not drawn to its end. */
  png(svg: Uint8Array, side: number, gone?: AbortSignal): Promise<Buffer> {
    return this.turns(async () => {
      gone?.throwIfAborted();
      const drawn = await this.draw({ svg, side }, gone);
      if ('failed' in drawn)
        throw new Refusal('not-valid', 'That drawing is damaged, or drawing it takes too long.', {
          remedy: 'Look at its text, or open it with its own program.',
        });
      return Buffer.from(drawn.png);
    });
  }

  private draw(asked: ToDraw, gone: AbortSignal | undefined): Promise<Drawn> {
    const child = this.started();
    return new Promise((resolve) => {
      const end = (drawn: Drawn) => {
        clearTimeout(late);
        gone?.removeEventListener('abort', giveUp);
        child.removeAllListeners('message');
        this.idle = setTimeout(() => this.stop(), IDLE_MS).unref();
        resolve(drawn);
      };
      const giveUp = () => {
        this.stop();
        end({ failed: 'given up' });
      };
      const late = setTimeout(giveUp, DRAW_MS);
      gone?.addEventListener('abort', giveUp);
      child.once('message', (drawn: Drawn) => end(drawn));
      child.once('exit', () => end({ failed: 'the process ended' }));
      child.send(asked);
    });
  }

  private started(): ChildProcess {
    clearTimeout(this.idle);
    if (this.child?.connected) return this.child;
    const child = fork(fileURLToPath(new URL('./drawing.process.js', import.meta.url)), {
      // nothing of ours: neither addresses nor codes
      env: {},
      execArgv: [],
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    });
    // what cannot be started has ended
    child.on('error', () => child.emit('exit'));
    child.unref();
    child.channel?.unref();
    return (this.child = child);
  }

  private stop(): void {
    clearTimeout(this.idle);
    this.child?.kill('SIGKILL');
    this.child = undefined;
  }

  onApplicationShutdown(): void {
    this.stop();
  }
}
