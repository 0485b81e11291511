/** The data folder as the starter keeps it: closed to everybody else, one starter at a time. Built-ins only. */
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { chmodSync, mkdirSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Stop } from './log.mjs';

/**
 * Nobody else may do anything. Of the superuser's folder PostgreSQL's group may have been let pass through, and still
 * may.
 */
const FOR_OTHERS = process.getuid?.() === 0 ? 0o067 : 0o077;
export function ensureOwnFolder(path) {
  // the folders above are not ours alone
  mkdirSync(dirname(path), { recursive: true });
  mkdirSync(path, { recursive: true, mode: 0o700 });
  const { mode } = statSync(path);
  if ((mode & FOR_OTHERS) !== 0) chmodSync(path, mode & 0o7777 & ~FOR_OTHERS);
}

/** Writes a file whole, readable by its owner only. */
export function writeOwnFile(path, text) {
  const part = `${path}.${randomBytes(6).toString('hex')}`;
  writeFileSync(part, text, { mode: 0o600, flag: 'wx' });
  renameSync(part, path);
}

/**
 * Takes the lock of a data folder; resolves with what lets it go. It is the kernel's own (flock(2), held by
 * util-linux's program for as long as we keep its input open), so that it is free again whatever becomes of us.
 */
export function lockOf(folder, name, waitSeconds = 120) {
  const path = join(folder, name);
  writeFileSync(path, '', { flag: 'a', mode: 0o600 });
  const holder = spawn('flock', ['-w', String(waitSeconds), '-F', path, 'cat'], {
    stdio: ['pipe', 'pipe', 'ignore'],
  });
  return new Promise((resolve, reject) => {
    holder.once('error', () => reject(new Stop('The program “flock” is missing; it belongs to Debian’s util-linux.')));
    holder.once('exit', () => reject(new Stop('Another start of Rellin on this data does not come to its end.')));
    // what it gives back it has read, which it does once it holds the lock
    holder.stdout.once('data', () => {
      holder.removeAllListeners('exit');
      resolve(() => {
        holder.stdin.end();
        return /** @type {Promise<void>} */ (
          new Promise((done) => (holder.exitCode === null ? holder.once('exit', () => done()) : done()))
        );
      });
    });
    holder.stdin.on('error', () => undefined);
    holder.stdin.write('\n');
  });
}
