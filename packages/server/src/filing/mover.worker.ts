/** A thread that moves files: where a disk hangs it hangs, and is given up; nothing else does. */
import { closeSync, writeSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import { failureOf } from '../threads/questions.js';
import {
  backward,
  beginPart,
  contentDigest,
  endPart,
  entriesIn,
  forward,
  probe,
  makeFolders,
  namesToFileInto,
  release,
  removeAt,
  removeEmpty,
  removeLinkTo,
  type MoveContext,
} from './diskMoves.js';
import { parseMounts, type Mount } from '@rellin/core/mounts';
import { readSystemFile } from '../disk/systemFile.js';
import { binsFor, possibleBins, withBin, type BinsOf } from '../trash/bins.js';
import { clearLoneInfos, expunge, listBin, namesInBin } from '../trash/infoFiles.js';
import { inUse } from '../trash/filesInUse.js';
import type { ToMover, WhereBins } from './moverMessages.js';
import { originsIn } from './origins.js';
import { beginnings, sameContent } from './sameContent.js';

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

const binsOf = ({ dataHome, standIns }: WhereBins): BinsOf => ({
  dataHome,
  uid: process.getuid?.() ?? 0,
  mounts: [
    ...parseMounts(readSystemFile('/proc/self/mountinfo').toString('utf8')),
    ...standIns.map((at): Mount => ({ at, root: '/', type: 'stand-in', source: at, device: '' })),
  ],
});

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
      return contentDigest(task.path, task.bin ? { ...context, bounds: withBin(task.bounds, task.bin) } : context);
    case 'probe':
      return probe(task.paths, context);
    case 'names':
      return namesToFileInto(task.path, context);
    case 'entries':
      return entriesIn(task.path, context);
    case 'make-folder':
      makeFolders(task.path, context);
      return null;
    case 'remove-empty':
      removeEmpty(task.path, context);
      return null;
    case 'remove':
      removeAt(task.path, context);
      return null;
    case 'remove-link':
      removeLinkTo(task.path, task.to, context);
      return null;
    case 'beginnings':
      return beginnings(task.paths, context);
    case 'same-content':
      return sameContent(task.path, task.others, context);
    case 'origins':
      return originsIn(task.path, task.names, context);
    case 'files-in-use':
      return inUse();
    case 'begin-part':
      return beginPart(task.path, context);
    case 'write':
      for (let done = 0; done < task.bytes.length;) done += writeSync(task.file, task.bytes, done);
      return null;
    case 'end-part':
      if (task.path === '') closeSync(task.file);
      else endPart(task.path, task.file, context);
      return null;
    case 'bins-for':
      return binsFor(task.paths, binsOf(task.where), task.bounds);
    case 'bin-names':
      return namesInBin(task.bin, context);
    case 'possible-bins':
      return possibleBins(binsOf(task.where));
    case 'bin-list':
      return listBin(task.bin, context);
    case 'expunge':
      return expunge(task.bin, task.things, context);
    case 'clear-lone-infos':
      clearLoneInfos(task.bin, context);
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
