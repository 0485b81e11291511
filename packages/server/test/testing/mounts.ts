/**
 * What this machine lets a test do with file systems: told by trying it, so that what cannot run is skipped by name.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

function tried(...first: string[]): boolean {
  const folder = mkdtempSync(join(tmpdir(), 'rellin-mount-'));
  const is = spawnSync('mount', [...first, 'rellin-test', folder]).status === 0;
  if (is) spawnSync('umount', [folder]);
  rmSync(folder, { recursive: true });
  return is;
}

/** Whether a file system of our own can be mounted, to be filled, made read-only, or pulled. */
export const CAN_MOUNT = tried('-t', 'tmpfs', '-o', 'size=64k');

/** Whether a mount can be moved to another path, as one that was pulled and plugged in again. */
export const CAN_MOVE_MOUNT = CAN_MOUNT && triedMove();

function triedMove(): boolean {
  const base = mkdtempSync(join(tmpdir(), 'rellin-mount-'));
  const [from, to] = [join(base, 'from'), join(base, 'to')];
  for (const folder of [from, to]) mkdirSync(folder);
  spawnSync('mount', ['-t', 'tmpfs', 'rellin-test', from]);
  const is = spawnSync('mount', ['--move', from, to]).status === 0;
  spawnSync('umount', [is ? to : from]);
  rmSync(base, { recursive: true });
  return is;
}

/** A folder on another file system than the temporary one, without mounting anything; undefined where there is none. */
export const OTHER_FILE_SYSTEM = ['/dev/shm', '/run/shm', '/var/tmp'].find(
  (path) => existsSync(path) && statSync(path).dev !== statSync(tmpdir()).dev,
);
