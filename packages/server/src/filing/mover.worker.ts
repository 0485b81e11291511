/** A thread that moves files: where a disk hangs it hangs, and is given up; nothing else does. */
import { closeSync, writeSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import { failureOf } from '../threads/questions.js';
import {
  backward,
  beginPart,
  contentDigest,
  endPart,
  forward,
  probe,
  makeFolders,
  namesToFileInto,
  release,
  removeAt,
  removeEmpty,
  type MoveContext,
} from './diskMoves.js';
import type { ToMover } from './moverMessages.js';

const port = parentPort!;
/** Set while what is asked is to stop. */
const stop = new Int32Array((workerData as { stop: SharedArrayBuffer }).stop);
const GOING_MS = 500;
let said = 0;

function tick(): void {
  if (Atomics.load(stop, 0) === 1) throw Object.assign(new Error('stopped'), { code: 'ESTOPPED' });
  const now = Date.now();
  if (now - said < GOING_MS) return;
  said = now;
  port.postMessage({ kind: 'going' });
}

function work(task: ToMover): unknown {
  const context: MoveContext = { bounds: task.bounds, tick };
  switch (task.kind) {
    case 'forward':
      forward(task.item, context);
      return task.item;
    case 'backward':
      backward(task.item, context);
      return null;
    case 'release':
      release(task.item, context);
      return null;
    case 'digest':
      return contentDigest(task.path, context);
    case 'probe':
      return probe(task.paths, context);
    case 'names':
      return namesToFileInto(task.path, context);
    case 'make-folder':
      makeFolders(task.path, context);
      return null;
    case 'remove-empty':
      removeEmpty(task.path, context);
      return null;
    case 'remove':
      removeAt(task.path, context);
      return null;
    case 'begin-part':
      return beginPart(task.path, context);
    case 'write':
      for (let done = 0; done < task.bytes.length;) done += writeSync(task.file, task.bytes, done);
      return null;
    case 'end-part':
      if (task.path === '') closeSync(task.file);
      else endPart(task.path, task.file, context);
      return null;
  }
}

port.on('message', (message: ToMover) => {
  try {
    port.postMessage({ kind: 'answer', ask: message.ask, value: work(message) });
  } catch (error) {
    port.postMessage({ kind: 'failure', ask: message.ask, error: failureOf(error) });
  }
});
