/**
 * The calls by which Rellin looks at places' disks and puts links there, in one place, so that a test can put faults in
 * their way: it names a file by RELLIN_DISK_FAULTS and writes rules into it. Without that they are the system's own.
 */
import { spawnSync } from 'node:child_process';
import * as fs from 'node:fs';

/** What happens to calls for paths that begin with `below`. */
export interface DiskFault {
  call: keyof typeof CALLS;
  below: string;
  /** The error's code ("EIO"); what a file system cannot tell or tells otherwise; or nothing until a file is there. */
  fault: { code: string } | { birth: number } | { inode: number } | { hangUntil: string };
  /** Only each so-many-th such call; every one by default. */
  each?: number;
}

const CALLS = {
  lstat: fs.lstatSync,
  readdir: fs.readdirSync,
  // the other one takes a name's bytes for UTF-8
  realpath: fs.realpathSync.native,
  open: fs.openSync,
  readlink: fs.readlinkSync,
  symlink: fs.symlinkSync,
  rename: fs.renameSync,
  unlink: fs.unlinkSync,
};

const FILE = process.env['RELLIN_DISK_FAULTS'];

/** Folders held open, and where they were: faults are told by paths, whatever way one comes. */
const held = new Map<number, string>();

/** A handle now stands for a folder; or, without a path, no longer. */
export function named(fd: number, path: string | undefined): void {
  if (FILE === undefined) return;
  if (path === undefined) held.delete(fd);
  else held.set(fd, path);
}

const spelt = (path: string) =>
  path.replace(/^\/proc\/self\/fd\/(\d+)(\/\.$)?/, (all, fd: string) => held.get(Number(fd)) ?? all);

const counts = new Map<string, number>();

function faultsFor(call: string, path: string): DiskFault['fault'][] {
  let rules: DiskFault[];
  try {
    rules = JSON.parse(fs.readFileSync(FILE!, 'utf8')) as DiskFault[];
  } catch {
    return [];
  }
  return rules
    .filter((rule) => rule.call === call && path.startsWith(rule.below))
    .filter((rule) => {
      const key = JSON.stringify(rule);
      const count = (counts.get(key) ?? 0) + 1;
      counts.set(key, count);
      return count % (rule.each ?? 1) === 0;
    })
    .map((rule) => rule.fault);
}

/**
 * As a call into a share that does not answer: this thread neither goes on nor can be ended until the file is there.
 */
function hangUntil(path: string): void {
  spawnSync('sh', ['-c', 'until [ -e "$1" ]; do sleep 0.02; done', 'sh', path]);
}

function withFaults<F extends (...args: never[]) => unknown>(call: string, real: F): F {
  return ((...args: Parameters<F>) => {
    // of the calls with two paths the last is where something comes to be
    const paths = (args as unknown[]).filter((a) => typeof a === 'string' || Buffer.isBuffer(a)).map(String);
    const path = spelt(call === 'symlink' || call === 'rename' ? paths[1]! : paths[0]!);
    const faults = faultsFor(call, path);
    for (const fault of faults) if ('hangUntil' in fault) hangUntil(fault.hangUntil);
    for (const fault of faults)
      if ('code' in fault) throw Object.assign(new Error(`${fault.code}: ${call} '${path}'`), { code: fault.code });
    const answer = real(...args);
    for (const fault of faults)
      if (call === 'lstat' && answer) {
        if ('birth' in fault) (answer as fs.Stats).birthtimeMs = fault.birth;
        if ('inode' in fault) (answer as fs.Stats).ino = fault.inode;
      }
    return answer;
  }) as unknown as F;
}

const port = FILE
  ? (Object.fromEntries(
      Object.entries(CALLS).map(([call, real]) => [call, withFaults(call, real as (...args: never[]) => unknown)]),
    ) as typeof CALLS)
  : CALLS;

/** A disk that fails once may answer the next time; one that fails again has failed. */
function askedTwice<F extends (...args: never[]) => unknown>(call: F): F {
  return ((...args: Parameters<F>) => {
    try {
      return call(...args);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EIO') throw error;
      return call(...args);
    }
  }) as unknown as F;
}

export const lstatSync = askedTwice(port.lstat);
export const readdirSync = askedTwice(port.readdir);
export const realpathSync = port.realpath;
export const openSync = askedTwice(port.open);
export const readlinkSync = askedTwice(port.readlink);
export const symlinkSync = port.symlink;
export const renameSync = port.rename;
export const unlinkSync = port.unlink;
