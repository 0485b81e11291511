/**
 * The one way to whatever lies below a place. A folder is held by a handle and everything in it is reached through that
 * (`/proc/self/fd/N/name`, which the kernel resolves from the open folder): a folder swapped for a link at the worst
 * moment leads nowhere else. Node has no `openat2`; its RESOLVE_BENEATH and RESOLVE_NO_SYMLINKS (openat2(2)) are
 * re-created here segment by segment. Only regular files are opened for reading, and never in a way that waits.
 *
 * Synchronous throughout, for threads that can be given up; nothing here belongs on the main thread.
 */
import {
  closeSync,
  constants,
  fstatSync,
  lstatSync as plainLstat,
  readSync,
  realpathSync as plainRealpath,
  type Stats,
} from 'node:fs';
import { fromBytes, isWithin, nameOf, parentOf } from '@rellin/core/paths';
import { kernelDevices } from './kernelFolders.js';
import { absolute, diskPath, type DiskPath } from './paths.js';
import { lstatSync, named, openSync, realpathSync } from './port.js';

/**
 * Names a place in the tree without opening it: neither permission to read nor a device's attention is needed
 * (open(2)).
 */
const O_PATH = 0o10000000;
const FOLDER = O_PATH | constants.O_DIRECTORY | constants.O_NOFOLLOW;
const NAMED = O_PATH | constants.O_NOFOLLOW;
const READING = constants.O_RDONLY | constants.O_NONBLOCK | constants.O_NOCTTY;

export type InsideFault =
  /** It leads outside every place. */
  | 'outside'
  /** It lies in Rellin's own data folder. */
  | 'own'
  /** The kernel shows its own state there. */
  | 'kernel'
  /** What stands on the way is no folder now, or a link: it was changed this very moment. */
  | 'changed'
  /** It is a pipe, a socket or a device: nothing that is read. */
  | 'not-a-file';

/** An expected failure of access below a place; the system's own have their code as ever. */
export class InsideError extends Error {
  readonly code = 'EINSIDE';
  constructor(
    readonly fault: InsideFault,
    readonly path: string,
  ) {
    super(`${fault}: ${path}`);
  }
}

/** What may be reached, and what of it may not. */
export interface Bounds {
  /** The roots of the places, as absolute path text. */
  roots: readonly string[];
  /** Rellin's own folders: shut, wherever they lie and by whatever way one comes. */
  own: readonly string[];
}

/** A folder that is held open. */
export class HeldFolder {
  private constructor(
    readonly fd: number,
    /** Where it was when it was opened. */
    readonly path: string,
    private readonly own: ReadonlySet<string>,
  ) {
    named(fd, path);
  }

  /** The way to an entry through the handle; of the folder itself without a name. */
  at(name?: string): DiskPath {
    const base = `/proc/self/fd/${this.fd}`;
    if (name === undefined) return `${base}/.`;
    if (name === '' || name === '.' || name === '..' || name.includes('/')) throw new InsideError('outside', name);
    const text = diskPath(name);
    return typeof text === 'string' ? `${base}/${text}` : Buffer.concat([Buffer.from(`${base}/`), text]);
  }

  stat(): Stats {
    return fstatSync(this.fd);
  }

  /** What stands at a name; undefined where nothing does. Links are told as links. */
  seen(name: string): Stats | undefined {
    return lstatSync(this.at(name), { throwIfNoEntry: false });
  }

  /** A folder in it, held as well; a link is not followed. */
  folder(name: string): HeldFolder {
    return HeldFolder.hold(this.at(name), absolute(this.path, name), this.own);
  }

  /** A regular file in it, open for reading. A pipe, socket or device is refused before it is opened. */
  file(name: string): { fd: number; stats: Stats } {
    const entry = openSync(this.at(name), NAMED);
    try {
      if (!fstatSync(entry).isFile()) throw new InsideError('not-a-file', absolute(this.path, name));
      const fd = openSync(`/proc/self/fd/${entry}`, READING);
      return { fd, stats: fstatSync(fd) };
    } finally {
      closeSync(entry);
    }
  }

  close(): void {
    named(this.fd, undefined);
    closeSync(this.fd);
  }

  /** Of a path that the caller answers for: the root of a place, or an entry of a held folder. */
  static hold(at: DiskPath, path: string, own: ReadonlySet<string>): HeldFolder {
    let fd: number;
    try {
      fd = openSync(at, FOLDER);
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code === 'ENOTDIR' || code === 'ELOOP') throw new InsideError('changed', path);
      throw error;
    }
    const { dev, ino } = fstatSync(fd);
    const why = whyShut(own, dev, ino);
    if (why) {
      closeSync(fd);
      throw new InsideError(why, path);
    }
    return new HeldFolder(fd, path, own);
  }
}

/** Which folders are shut, by what they are and not by a name: Rellin's own, and all of what is the kernel's. */
export function identities(own: readonly string[]): ReadonlySet<string> {
  const out = new Set(kernelDevices().map((dev) => `${dev}:*`));
  for (const path of own)
    try {
      const { dev, ino } = plainLstat(plainRealpath(path));
      out.add(`${dev}:${ino}`);
    } catch {
      // one that is not there cannot be reached either
    }
  return out;
}

/** Why a folder is shut; undefined where it is not. */
export function whyShut(shut: ReadonlySet<string>, dev: number, ino: number): 'own' | 'kernel' | undefined {
  if (shut.size === 0) return undefined;
  if (shut.has(`${dev}:${ino}`)) return 'own';
  return shut.has(`${dev}:*`) ? 'kernel' : undefined;
}

/** Where a path leads, all links followed; it must lie below a root. */
export function realInside(path: string, { roots }: Bounds): string {
  const real = fromBytes(realpathSync(diskPath(path), { encoding: 'buffer' }));
  if (!realRoots(roots).some((root) => isWithin(root, real))) throw new InsideError('outside', path);
  return real;
}

function realRoots(roots: readonly string[]): string[] {
  return roots.flatMap((root) => {
    try {
      return [fromBytes(realpathSync(diskPath(root), { encoding: 'buffer' }))];
    } catch {
      return []; // a place that is away
    }
  });
}

/**
 * Holds a folder by its path as it is written: from the root of a place downward, no link on the way. `use` has it
 * until it returns. Cost: one open a segment.
 */
export function withFolder<T>(path: string, bounds: Bounds, use: (folder: HeldFolder) => T): T {
  const own = identities(bounds.own);
  const tops = [...bounds.roots, ...realRoots(bounds.roots)].filter((root) => isWithin(root, path));
  if (tops.length === 0) throw new InsideError('outside', path);
  const root = tops.sort((a, b) => b.length - a.length)[0]!;
  // the way to a place's root is its owner's affair, links and all
  const real = realpathSync(diskPath(root), { encoding: 'buffer' });
  // own folders above the place shut it as well; below the kernel's others are mounted
  for (let at = fromBytes(real); at !== '' && at !== '/'; at = parentOf(at)) {
    const s = plainLstat(diskPath(at), { throwIfNoEntry: false });
    if (s && whyShut(own, s.dev, s.ino) === 'own') throw new InsideError('own', path);
  }
  let folder = HeldFolder.hold(real, root, own);
  try {
    for (const name of path.slice(root.length).split('/').filter(Boolean)) {
      const next = folder.folder(name);
      folder.close();
      folder = next;
    }
    return use(folder);
  } finally {
    folder.close();
  }
}

/** The same for the folder that an entry lies in. */
export function withParent<T>(path: string, bounds: Bounds, use: (folder: HeldFolder, name: string) => T): T {
  return withFolder(parentOf(path) || '/', bounds, (folder) => use(folder, nameOf(path)));
}

/** What stands at a path, a place's root included; undefined where nothing does. */
export function seenInside(path: string, bounds: Bounds): Stats | undefined {
  if ([...bounds.roots, ...realRoots(bounds.roots)].includes(path))
    return withFolder(path, bounds, (folder) => folder.stat());
  return withParent(path, bounds, (folder, name) => folder.seen(name));
}

/**
 * Opens a regular file for reading, links followed first as long as they stay within the places. The caller closes it.
 */
export function openFile(path: string, bounds: Bounds): { fd: number; stats: Stats } {
  const real = realInside(path, bounds);
  return withParent(real, bounds, (folder, name) => folder.file(name));
}

/** The whole of a file; refused where it is larger than `limit` bytes, also where it grows meanwhile. */
export function readWhole(path: string, bounds: Bounds, limit: number): Buffer {
  const { fd, stats } = openFile(path, bounds);
  try {
    if (stats.size > limit) throw Object.assign(new Error('too large'), { code: 'EFBIG' });
    const bytes = Buffer.allocUnsafe(Math.min(limit, stats.size) + 1);
    let length = 0;
    for (;;) {
      const n = readSync(fd, bytes, length, bytes.length - length, length);
      if (n === 0) return bytes.subarray(0, length);
      length += n;
      if (length === bytes.length) return bytes.subarray(0, Math.min(length, stats.size));
    }
  } finally {
    closeSync(fd);
  }
}
