/**
 * What a file has besides its bytes: mode, times, owner, extended attributes and access lists. Node can set the first
 * three; the rest is left to coreutils' `cp`, which is given both ends as open handles and copies no contents.
 */
import { spawnSync } from 'node:child_process';
import { chmodSync, closeSync, constants, lchownSync, lutimesSync, openSync, type Stats } from 'node:fs';
import type { HeldFolder } from '../disk/inside.js';

const O_PATH = 0o10000000;
/** Whatever `cp` is given lies on the disks that are filed between; it waits for nothing else. */
const LONGEST_MS = 120_000;

/** Mode, times and owner of a file or folder, as far as the system lets us; whether its owner is the same. */
export function keepPlain(folder: HeldFolder, name: string, { mode, uid, gid, atime, mtime }: Stats): boolean {
  const at = folder.at(name);
  const now = folder.seen(name)!;
  if (now.uid === uid && now.gid === gid && now.mode === mode && now.mtimeMs === mtime.getTime()) return true;
  let isSameOwner = true;
  if (now.uid !== uid || now.gid !== gid)
    try {
      lchownSync(at, uid, gid);
    } catch {
      // an ordinary user cannot give files away
      isSameOwner = false;
    }
  // a set-user bit is true only for the owner who gave it
  chmodSync(at, isSameOwner ? mode & 0o7777 : mode & 0o1777);
  lutimesSync(at, atime, mtime);
  return isSameOwner;
}

/**
 * All of it, of a whole tree, links made on the way; false where the file system there does not take all of it.
 * `toName` is plain ASCII.
 */
export function keepExtended(from: HeldFolder, name: string, to: HeldFolder, toName: string): boolean {
  // of a link nothing but its times can be kept, and they were
  if (from.seen(name)?.isSymbolicLink()) return true;
  const source = openSync(from.at(name), O_PATH | constants.O_NOFOLLOW);
  const target = openSync(to.at(), O_PATH | constants.O_DIRECTORY);
  try {
    const done = spawnSync(
      'cp',
      [
        '-R',
        '-H',
        '--no-target-directory',
        '--attributes-only',
        '--preserve=mode,ownership,timestamps,xattr',
        '/proc/self/fd/3',
        `/proc/self/fd/4/${toName}`,
      ],
      {
        stdio: ['ignore', 'ignore', 'ignore', source, target],
        timeout: LONGEST_MS,
        env: { PATH: process.env['PATH'], LC_ALL: 'C' },
      },
    );
    return done.status === 0;
  } finally {
    closeSync(source);
    closeSync(target);
  }
}
