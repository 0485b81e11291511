/**
 * A walking thread: lists folders with synchronous `readdir` and `lstat` (five times quicker than the promise API, as
 * measured) and posts packed batches. It gives half of its open folders away when another thread is idle.
 */
import { Buffer } from 'node:buffer';
import { parentPort, workerData } from 'node:worker_threads';
import { fromBytes } from '@rellin/core/paths';
import { compileExcludes } from './excludes.js';
import { FLAGS, NUMBERS_PER_ENTRY, type OpenFolder, type WalkBatch, type WalkerMessage } from './walkTypes.js';
import { lstatSync, readdirSync } from '../disk/port.js';
import { modifiedMs } from '../disk/stat.js';

const {
  flags,
  excludes: patterns,
  own,
  refStart,
} = workerData as {
  flags: SharedArrayBuffer;
  excludes: string[];
  own?: ReadonlySet<string>;
  refStart: number;
};
const shared = new Int32Array(flags);
const excludes = compileExcludes(patterns, own);
const port = parentPort!;
const BATCH = 4000;
let nextRef = refStart;

let folders: WalkBatch['folders'] = [];
let names: string[] = [];
let types: number[] = [];
let refs: number[] = [];
let numbers: number[] = [];

function flush(): void {
  if (folders.length === 0) return;
  const batch: WalkBatch = {
    folders,
    names: names.join('/'),
    types: Uint8Array.from(types),
    refs: Float64Array.from(refs),
    numbers: Float64Array.from(numbers),
  };
  post({ kind: 'batch', batch }, [batch.types.buffer, batch.refs.buffer, batch.numbers.buffer] as ArrayBuffer[]);
  folders = [];
  names = [];
  types = [];
  refs = [];
  numbers = [];
}

function post(message: WalkerMessage, transfer: ArrayBuffer[] = []): void {
  port.postMessage(message, transfer);
}

type Name = { text: string; disk: string | Buffer };

/** Names as path text with what the kernel wants; only folders that hold odd names are read as bytes. */
function list(path: string | Buffer): Name[] {
  if (typeof path === 'string') {
    const plain = readdirSync(path);
    let odd = false;
    for (const name of plain) if (name.includes('\ufffd') || name.includes('\udbfd')) odd = true;
    if (!odd) return plain as unknown as Name[];
  }
  return readdirSync(path, { encoding: 'buffer' }).map((disk) => ({ text: fromBytes(disk), disk }));
}

const SLASH = Buffer.from('/');
function child(path: string | Buffer, name: string | Buffer): string | Buffer {
  if (typeof path === 'string' && typeof name === 'string') return path === '/' ? `/${name}` : `${path}/${name}`;
  return Buffer.concat([Buffer.from(path), SLASH, Buffer.from(name)]);
}

function walkFolder(folder: OpenFolder, open: OpenFolder[]): void {
  const path = typeof folder.path === 'string' ? folder.path : Buffer.from(folder.path);
  let entries: Name[] | string[];
  try {
    entries = list(path);
  } catch (error) {
    folders.push({ ref: folder.ref, count: 0, error: (error as NodeJS.ErrnoException).code ?? 'EIO' });
    return;
  }
  let count = 0;
  let failure: string | undefined;
  for (const entry of entries) {
    const text = typeof entry === 'string' ? entry : entry.text;
    const full = child(path, typeof entry === 'string' ? entry : entry.disk);
    let s;
    try {
      s = lstatSync(full, { throwIfNoEntry: false });
    } catch (error) {
      // what cannot be looked at is not gone
      const { code } = error as NodeJS.ErrnoException;
      if (code !== 'ENOENT' && code !== 'ENOTDIR') failure = code ?? 'EIO';
      continue;
    }
    if (!s) continue;
    const format = s.mode & 0o170000;
    const isFolder = format === 0o040000;
    const relative = excludes.needsPath ? (folder.relative === '' ? text : `${folder.relative}/${text}`) : '';
    if (excludes.isExcluded(relative, text, isFolder) || (isFolder && excludes.isShut(s))) continue;
    names.push(text);
    types.push(format >> 12);
    numbers.push(s.size, modifiedMs(s, full), s.birthtimeMs, s.dev, s.ino);
    if (isFolder) {
      const ref = nextRef++;
      refs.push(ref);
      open.push({ ref, path: full, relative });
    }
    count++;
  }
  folders.push({ ref: folder.ref, count, error: failure });
}

port.on('message', (message: { kind: 'walk'; folders: OpenFolder[] }) => {
  const open = message.folders;
  while (open.length > 0) {
    if (Atomics.load(shared, FLAGS.stop) === 1) break;
    walkFolder(open.pop()!, open);
    if (types.length >= BATCH) flush();
    if (open.length > 8 && Atomics.load(shared, FLAGS.idle) > 0) {
      // the parents of what is given away must reach the collector first
      flush();
      post({ kind: 'spare', folders: open.splice(0, open.length >> 1) });
    }
  }
  flush();
  post({ kind: 'idle' });
});

if (NUMBERS_PER_ENTRY !== 5) throw new Error('walker and collector disagree on the columns');
