/**
 * Files moved in threads of their own. One that has heard nothing of its disk for long is given up, and another taken.
 */
import { Worker } from 'node:worker_threads';
import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { shown } from '@rellin/core/paths';
import { DiskHangs, DiskService } from '../disk/disk.service.js';
import { writeRefusalOf } from '../disk/refusals.js';
import { Refusal } from '../problems/refusal.js';
import { Questions } from '../threads/questions.js';
import type { MoveFault } from './diskMoves.js';
import type { FromMover, MoverAnswers, MoverTask } from './moverMessages.js';

const MOST_THREADS = 4;
const SILENCE_MS = 20_000;

interface Mover {
  worker: Worker;
  questions: Questions;
  stop: Int32Array;
  silence: NodeJS.Timeout | undefined;
}

@Injectable()
export class MoverService implements OnApplicationShutdown {
  private readonly idle: Mover[] = [];
  private readonly waiting: ((mover: Mover) => void)[] = [];
  private readonly movers = new Set<Mover>();

  constructor(private readonly disk: DiskService) {}

  /**
   * Does one thing; stopped between two pieces of it where `signal` says so. Refused in words where the disk refuses.
   */
  async run<T extends MoverTask>(task: T, signal?: AbortSignal): Promise<MoverAnswers[T['kind']]> {
    signal?.throwIfAborted();
    const mover = await this.take();
    const stop = () => Atomics.store(mover.stop, 0, 1);
    signal?.addEventListener('abort', stop, { once: true });
    this.heard(mover);
    const bounds = this.disk.bounds();
    try {
      const transfer = task.kind === 'write' ? [task.bytes.buffer as ArrayBuffer] : [];
      return (await mover.questions.ask((ask) =>
        mover.worker.postMessage({ ...task, ask, bounds }, transfer),
      )) as MoverAnswers[T['kind']];
    } catch (error) {
      signal?.throwIfAborted();
      throw moveRefusal(error, pathOf(task));
    } finally {
      signal?.removeEventListener('abort', stop);
      Atomics.store(mover.stop, 0, 0);
      clearTimeout(mover.silence);
      if (this.movers.has(mover)) this.give(mover);
    }
  }

  private take(): Promise<Mover> {
    const mover = this.idle.pop() ?? (this.movers.size < MOST_THREADS ? this.startWorker() : undefined);
    return mover ? Promise.resolve(mover) : new Promise((resolve) => this.waiting.push(resolve));
  }

  private give(mover: Mover): void {
    const next = this.waiting.shift();
    if (next) next(mover);
    else this.idle.push(mover);
  }

  private startWorker(): Mover {
    const stop = new SharedArrayBuffer(4);
    const worker = new Worker(new URL('./mover.worker.js', import.meta.url), {
      workerData: { stop },
      // a part is begun, written and ended by whichever thread is free
      trackUnmanagedFds: false,
    });
    worker.unref();
    const mover: Mover = { worker, questions: new Questions(), stop: new Int32Array(stop), silence: undefined };
    worker.on('message', (message: FromMover) => {
      if (message.kind === 'going') this.heard(mover);
      else mover.questions.hear(message);
    });
    worker.on('error', (error) => this.giveUp(mover, error));
    this.movers.add(mover);
    return mover;
  }

  private heard(mover: Mover): void {
    clearTimeout(mover.silence);
    mover.silence = setTimeout(() => this.giveUp(mover, new DiskHangs()), SILENCE_MS).unref();
  }

  /** A call into a disk that hangs cannot be ended: the thread stays behind, and stops as soon as the disk answers. */
  private giveUp(mover: Mover, error: Error): void {
    Atomics.store(mover.stop, 0, 1);
    this.movers.delete(mover);
    clearTimeout(mover.silence);
    mover.questions.fail(error);
    void mover.worker.terminate();
    const next = this.waiting.shift();
    if (next) next(this.startWorker());
  }

  async onApplicationShutdown(): Promise<void> {
    const ended = [...this.movers].map((m) => m.worker.terminate());
    this.movers.clear();
    await Promise.race([Promise.allSettled(ended), new Promise((resolve) => setTimeout(resolve, 500).unref())]);
  }
}

function pathOf(task: MoverTask): string {
  if ('item' in task) return task.item.to;
  if ('path' in task) return task.path;
  return '';
}

/** What stood against a move, in words. */
function moveRefusal(error: unknown, at: string): Error {
  const { code, fault, path } = error as { code?: string; fault?: string; path?: string };
  if (code === 'ENOBIN')
    return new Refusal('conflict', 'The bin there is not one that Rellin may use; nothing was changed.');
  if (code !== 'EMOVE') return writeRefusalOf(error, at);
  const name = shown(path!.slice(path!.lastIndexOf('/') + 1));
  switch (fault as MoveFault) {
    case 'gone':
      return new Refusal('not-found', `${name} is not there any more.`);
    case 'changed':
      return new Refusal(
        'changed-since',
        `Something else stands at ${shown(path!)} than was chosen; nothing was done.`,
        {
          remedy: 'Look at it again, then try again.',
        },
      );
    case 'changed-while-copied':
      return new Refusal('changed-since', `${name} changed while it was copied; it stays where it is.`);
    case 'occupied':
      return new Refusal('changed-since', `Something else stands at ${shown(path!)} now.`, {
        remedy: 'Move or rename it, then try again; nothing was changed.',
      });
    case 'not-copied':
      return new Refusal('changed-since', `${name} is not what was copied; its original stays.`);
    case 'edited':
      return new Refusal('changed-since', `${name} was changed since it was filed; it stays where it is.`, {
        remedy: 'Take it out by hand if it is not wanted.',
      });
    case 'neither':
      return new Refusal('not-found', `${name} is neither where it was filed nor where it came from.`);
    case 'expunged':
      return new Refusal('not-found', `${name} is not in the bin any more; it was restored, or deleted for good.`);
    case 'other-volume':
      return new Refusal('conflict', `${shown(path!)} lies on another file system than its bin; it stays where it is.`);
    case 'device':
      return new Refusal('not-valid', `${shown(path!)} is a device, pipe or socket; it cannot be copied.`);
  }
}
