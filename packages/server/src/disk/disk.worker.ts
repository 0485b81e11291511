/** A place's own thread for looking at its disk: where a share hangs, this thread hangs, and nothing else does. */
import { closeSync, opendirSync, readSync, statfsSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { fromBytes } from '@rellin/core/paths';
import type { Sight } from '@rellin/core/identity';
import { countBelow } from './countBelow.js';
import { linksIn, runStep } from './links.js';
import { fingerprintSync } from './fingerprint.js';
import { openFile, realInside, withFolder, withParent, type Bounds } from './inside.js';
import { failureOf } from '../threads/questions.js';
import { diskPath } from './paths.js';
import { entryStat } from './stat.js';
import type { DiskTask, FolderSight, ToDisk } from './diskMessages.js';
import { lstatSync, readdirSync, realpathSync } from './port.js';

const port = parentPort!;

/** Where an entry stands is the caller's to add. */
function sight(path: string): Sight {
  try {
    const s = lstatSync(diskPath(path), { throwIfNoEntry: false });
    if (!s) return { seen: 'nothing' };
    // a device's number changes from one mount to the next: nothing is known by it
    const { dev: _, ...known } = entryStat(s, diskPath(path));
    return { seen: 'entry', identity: { ...known, path } };
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    if (code === 'ENOENT' || code === 'ENOTDIR') return { seen: 'nothing' };
    if (code === 'EACCES' || code === 'EPERM') return { seen: 'denied' };
    return { seen: 'failed', reason: (error as Error).message };
  }
}

function folder(path: string): FolderSight | null {
  const s = lstatSync(diskPath(path), { throwIfNoEntry: false });
  return s ? { isFolder: s.isDirectory(), inode: s.ino, birth: s.birthtimeMs, device: s.dev } : null;
}

function real(path: string): string | null {
  try {
    return fromBytes(realpathSync(diskPath(path), { encoding: 'buffer' }));
  } catch {
    return null;
  }
}

/** Only what was opened here is closed here, and once. */
const files = new Set<number>();

function open(path: string, bounds: Bounds): { file: number; size: number } {
  const { fd, stats } = openFile(path, bounds);
  files.add(fd);
  return { file: fd, size: stats.size };
}

function work(task: DiskTask): unknown {
  switch (task.kind) {
    case 'sights':
      return task.paths.map(sight);
    case 'fingerprints':
      return task.files.map(({ path, size }) => fingerprintSync(path, size, task.bounds) ?? null);
    case 'folder':
      return folder(task.path);
    case 'names':
      return readdirSync(diskPath(task.path));
    case 'count':
      return countBelow(task.path, task.excludes, task.shut, task.ms);
    case 'space': {
      const s = statfsSync(diskPath(task.path));
      return { free: s.bavail * s.bsize, total: s.blocks * s.bsize };
    }
    case 'reals':
      return task.paths.map(real);
    case 'links':
      return task.folders.map((folder) => linksIn(folder, task.bounds, task.mark));
    case 'link-steps':
      return task.steps.map((step) => runStep(step, task.bounds, task.mark));
    case 'real':
      return realInside(task.path, task.bounds);
    case 'readable':
      // a thousand names are not listed for it
      withFolder(task.path, task.bounds, (held) => opendirSync(held.at()).closeSync());
      return null;
    case 'stands':
      return withParent(task.path, task.bounds, (parent, name) => parent.seen(name) !== undefined);
    case 'open':
      return open(task.path, task.bounds);
    case 'read': {
      const bytes = new Uint8Array(task.length);
      const length = readSync(task.file, bytes, 0, task.length, task.position);
      return length === task.length ? bytes : bytes.slice(0, length);
    }
    case 'close':
      if (files.delete(task.file)) closeSync(task.file);
      return null;
  }
}

port.on('message', (message: ToDisk) => {
  try {
    const value = work(message);
    // bytes are handed over, not copied
    const transfer = value instanceof Uint8Array ? [value.buffer as ArrayBuffer] : [];
    port.postMessage({ kind: 'answer', ask: message.ask, value }, transfer);
  } catch (error) {
    port.postMessage({ kind: 'failure', ask: message.ask, error: failureOf(error) });
  }
});
