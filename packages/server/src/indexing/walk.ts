/** Walks a tree with up to two threads and hands packed batches to one collector, parents before their children. */
import { Worker } from 'node:worker_threads';
import { FLAGS, type OpenFolder, type WalkBatch, type WalkerMessage } from './walkTypes.js';

export interface WalkOptions {
  root: string | Uint8Array;
  excludes: readonly string[];
  /** Folders never looked into, as “device:inode”. */
  own?: ReadonlySet<string>;
  threads?: number;
  signal?: AbortSignal;
  onBatch(batch: WalkBatch): void;
}

const REFS_PER_THREAD = 2 ** 40;

/** Resolves to false where it was stopped. Rejects only where a thread fails. */
export function walk({ root, excludes, own, threads = 2, signal, onBatch }: WalkOptions): Promise<boolean> {
  const flags = new SharedArrayBuffer(8);
  const shared = new Int32Array(flags);
  const stop = () => Atomics.store(shared, FLAGS.stop, 1);
  signal?.addEventListener('abort', stop, { once: true });
  if (signal?.aborted) stop();

  return new Promise<boolean>((resolve, reject) => {
    const workers: Worker[] = [];
    /** Those that wait for folders. The second begins when the first has some to spare: in a small tree never. */
    const idle: (Worker | 'not begun')[] = new Array<'not begun'>(threads).fill('not begun');
    const waiting: OpenFolder[] = [];
    let settled = false;
    const finish = (error?: Error) => {
      if (settled) return;
      settled = true;
      signal?.removeEventListener('abort', stop);
      for (const worker of workers) void worker.terminate();
      if (error) reject(error);
      else resolve(Atomics.load(shared, FLAGS.stop) === 0);
    };
    const hand = () => {
      while (idle.length > 0 && waiting.length > 0) {
        const share = waiting.splice(0, Math.ceil(waiting.length / idle.length));
        const next = idle.pop()!;
        (next === 'not begun' ? begin() : next).postMessage({ kind: 'walk', folders: share });
      }
      Atomics.store(shared, FLAGS.idle, idle.length);
      if (idle.length === threads && waiting.length === 0) finish();
    };
    const begin = () => {
      const worker = new Worker(new URL('./walker.worker.js', import.meta.url), {
        workerData: { flags, excludes, own, refStart: 1 + workers.length * REFS_PER_THREAD },
      });
      workers.push(worker);
      worker.on('error', (error) => finish(error));
      worker.on('message', (message: WalkerMessage) => {
        if (settled) return;
        if (message.kind === 'batch') {
          try {
            onBatch(message.batch);
          } catch (error) {
            stop();
            finish(error as Error);
          }
        } else if (message.kind === 'spare') {
          waiting.push(...message.folders);
          hand();
        } else {
          idle.push(worker);
          hand();
        }
      });
      return worker;
    };
    waiting.push({ ref: 0, path: root, relative: '' });
    hand();
  });
}
