/**
 * Digests of whole files, in a thread of low priority. What is not waited for is read at a quarter of the disk's
 * time, so that whoever works with the disk does not notice; what is waited for goes on beside it at full speed.
 */
import { createHash } from 'node:crypto';
import { closeSync, readlinkSync, readSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { setTimeout } from 'node:timers/promises';
import { parentPort } from 'node:worker_threads';
import type { ToDigests } from './digestMessages.js';
import { withParent } from '../disk/inside.js';

const CHUNK = 1 << 20;
/** After each chunk so many times as long as it took is rested, */
const REST = 3;
/** but no longer than this: where a chunk took long because the processor was busy, a long rest spares nobody. */
const LONGEST_REST_MS = 100;

const port = parentPort!;

try {
  // on Linux a thread has a number and a priority of its own
  const thread = Number(readlinkSync('/proc/thread-self').split('/').pop());
  // at the lowest it would get next to nothing while a build keeps every core busy, for hours perhaps
  setPriority(thread, constants.priority.PRIORITY_BELOW_NORMAL);
} catch {
  // elsewhere, or where that is not allowed, the rests must do
}

/** SHA-256 of the file in hexadecimal, or null where it cannot be read to its end. */
async function digest({ path, bounds, isWaitedFor }: ToDigests): Promise<string | null> {
  let file: number | undefined;
  try {
    file = withParent(path, bounds, (folder, name) => folder.file(name)).fd;
    const hash = createHash('sha256');
    const buffer = Buffer.alloc(CHUNK);
    for (;;) {
      const started = performance.now();
      const length = readSync(file, buffer, 0, CHUNK, null);
      if (length === 0) return hash.digest('hex');
      hash.update(buffer.subarray(0, length));
      port.postMessage({ kind: 'going' });
      await setTimeout(isWaitedFor ? 0 : Math.min((performance.now() - started) * REST, LONGEST_REST_MS));
    }
  } catch {
    return null;
  } finally {
    if (file !== undefined) closeSync(file);
  }
}

port.on('message', (message: ToDigests) => {
  void digest(message).then((value) => port.postMessage({ kind: 'answer', ask: message.ask, value }));
});
