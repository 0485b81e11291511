/** Reads the recent-files list beside everything else: it may be many megabytes, and anybody may have written it. */
import { parentPort, workerData } from 'node:worker_threads';
import { readSystemFile } from '../disk/systemFile.js';
import { readRecentFiles, type RecentFilesResult } from './readRecentFiles.js';

const { path, limit } = workerData as { path: string; limit: number };

function read(): RecentFilesResult | undefined {
  let text: string;
  try {
    text = readSystemFile(path, limit).toString('utf8');
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    // a new account has none, and a pipe or a heap of bytes in its place is none
    return code === 'EFBIG' ? { ok: false, reason: 'too-large' } : undefined;
  }
  return readRecentFiles(text);
}

parentPort!.postMessage(read());
