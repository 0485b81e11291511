/** A place's own thread for looking at its disk: where a share hangs, this thread hangs, and nothing else does. */
import { statfsSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { fromBytes } from '@rellin/core/paths';
import type { Sight } from '@rellin/core/identity';
import { linksIn, runStep } from './links.js';
import { fingerprintSync } from './fingerprint.js';
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
    const { dev: _, ...known } = entryStat(s);
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

function work(task: DiskTask): unknown {
  switch (task.kind) {
    case 'sights':
      return task.paths.map(sight);
    case 'fingerprints':
      return task.files.map(({ path, size }) => fingerprintSync(path, size) ?? null);
    case 'folder':
      return folder(task.path);
    case 'names':
      return readdirSync(diskPath(task.path));
    case 'space': {
      const s = statfsSync(diskPath(task.path));
      return { free: s.bavail * s.bsize, total: s.blocks * s.bsize };
    }
    case 'reals':
      return task.paths.map(real);
    case 'links':
      return task.folders.map(linksIn);
    case 'link-steps':
      return task.steps.map(runStep);
  }
}

port.on('message', (message: ToDisk) => {
  try {
    port.postMessage({ kind: 'answer', ask: message.ask, value: work(message) });
  } catch (error) {
    port.postMessage({ kind: 'failure', ask: message.ask, message: (error as Error).message });
  }
});
