/** Info files of a bin, and what lies in it. Synchronous, for the threads that move files. */
import {
  closeSync,
  constants,
  fstatSync,
  openSync,
  readSync,
  renameSync,
  unlinkSync,
  writeSync,
  type Stats,
} from 'node:fs';
import {
  formerPath,
  INFO_SUFFIX,
  localTime,
  readDirectorySizes,
  readTrashInfo,
  writeDirectorySizes,
  writeTrashInfo,
  type DirectorySize,
  type TrashInfo,
} from '@rellin/core/trash';
import type { Bounds, HeldFolder } from '../disk/inside.js';
import { inFolder, namesIn, removeTree } from '../disk/trees.js';
import { inBin, makeBin, NoBin, type Bin } from './bins.js';
import { filesInUse, keyOfFile } from './filesInUse.js';

/** A thing's end in a bin, as an item of filing carries it. */
export interface BinEnd {
  bin: Bin;
  /** Its name there. */
  name: string;
  /** What its info file tells, without the time where it is deleted now. */
  info: TrashInfo;
}

/** What lies in a bin. */
export interface BinEntry {
  name: string;
  /** Where it lay, absolute; null where its info file is missing or cannot be read. */
  path: string | null;
  /** As its info file has it, for putting it back there. */
  info: TrashInfo | null;
  type: 'file' | 'folder' | 'link' | 'other';
  /** What it takes on the disk, in bytes. */
  takes: number;
  dev: number;
  inode: number;
  /** Bytes, and epoch milliseconds. */
  size: number;
  modified: number;
}

/** What lies in a bin, and by what the bin itself is known: one volume may be mounted twice. */
export interface BinContents {
  key: string;
  entries: BinEntry[];
}

export interface BinContext {
  bounds: Bounds;
  tick(): void;
}

const OWN_UID = process.getuid?.() ?? 0;
const WRITING = constants.O_WRONLY | constants.O_CREAT | constants.O_EXCL | constants.O_NOFOLLOW;
const LONGEST_INFO = 65_536;
const LONGEST_SIZES = 16_000_000;
const BLOCK = 512;
const DAY_MS = 86_400_000;
const SIZES = 'directorysizes';
const SIZES_PART = '.rellin-part-directorysizes';

function refuseMissing(_: HeldFolder, name: string): void {
  throw new NoBin(`${name} is not there`);
}

function within<T>(bin: Bin, { bounds }: BinContext, sub: 'info' | 'files', use: (folder: HeldFolder) => T): T {
  return inBin(bin, bounds, OWN_UID, refuseMissing, (held) => inFolder(held, sub, use));
}

function readFile(folder: HeldFolder, name: string, limit: number): Buffer | undefined {
  let fd: number;
  try {
    ({ fd } = folder.file(name));
  } catch {
    return undefined;
  }
  try {
    const { size } = fstatSync(fd);
    if (size > limit) return undefined;
    const bytes = Buffer.alloc(size);
    return bytes.subarray(0, readSync(fd, bytes, 0, size, 0));
  } finally {
    closeSync(fd);
  }
}

function infoOf(folder: HeldFolder, name: string): TrashInfo | undefined {
  const bytes = readFile(folder, name + INFO_SUFFIX, LONGEST_INFO);
  const read = bytes && readTrashInfo(bytes);
  return read?.ok ? read.info : undefined;
}

/**
 * Takes a name in the bin by making its info file, the bin as well where it is missing. Whether it is ours: one of the
 * same path that stands there already is from before an end. Without a time it is deleted now.
 */
export function takeName({ bin, name, info: told }: BinEnd, context: BinContext): boolean {
  makeBin(bin, context.bounds, OWN_UID);
  return within(bin, context, 'info', (info) => {
    const text = writeTrashInfo({ ...told, deletedAt: told.deletedAt ?? localTime(new Date()) });
    let fd: number;
    try {
      fd = openSync(info.at(name + INFO_SUFFIX), WRITING, 0o600);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      if (infoOf(info, name)?.path === told.path) return true;
      // one that was never written to its end is free where nothing bears its name
      if (info.seen(name + INFO_SUFFIX)?.size !== 0 || within(bin, context, 'files', (f) => f.seen(name))) return false;
      unlinkSync(info.at(name + INFO_SUFFIX));
      fd = openSync(info.at(name + INFO_SUFFIX), WRITING, 0o600);
    }
    try {
      const bytes = Buffer.from(text);
      for (let done = 0; done < bytes.length;) done += writeSync(fd, bytes, done);
    } catch (error) {
      // of a disk that is full not even the name is taken
      unlinkSync(info.at(name + INFO_SUFFIX));
      throw error;
    } finally {
      closeSync(fd);
    }
    return true;
  });
}

/** Gives the name free again where nothing bears it, and its info file is the one meant. */
export function releaseName({ bin, name, info: told }: BinEnd, context: BinContext): void {
  try {
    if (within(bin, context, 'files', (files) => files.seen(name))) return;
    within(bin, context, 'info', (info) => {
      if (infoOf(info, name)?.path === told.path) unlinkSync(info.at(name + INFO_SUFFIX));
    });
  } catch (error) {
    // the bin is gone, and the name with it
    if (!['ENOBIN', 'ENOENT'].includes((error as NodeJS.ErrnoException).code ?? '')) throw error;
  }
}

/** Names that are taken in a bin, by a thing or by an info file alone. */
export function namesInBin(bin: Bin, context: BinContext): string[] {
  makeBin(bin, context.bounds, OWN_UID);
  const infos = within(bin, context, 'info', namesIn);
  const files = within(bin, context, 'files', namesIn);
  const named = infos.flatMap((n) => (n.endsWith(INFO_SUFFIX) ? n.slice(0, -INFO_SUFFIX.length) : []));
  return [...new Set([...files, ...named])];
}

/** What a thing takes on the disk with all in it, a file with several names once, as du(1) has it. */
function takes(folder: HeldFolder, name: string, tick: () => void, seen = new Set<number>()): number {
  tick();
  const s = folder.seen(name);
  if (!s) return 0;
  let sum = seen.has(s.ino) && s.nlink > 1 && !s.isDirectory() ? 0 : s.blocks * BLOCK;
  seen.add(s.ino);
  if (s.isDirectory()) {
    inFolder(folder, name, (inner) => {
      for (const child of namesIn(inner)) sum += takes(inner, child, tick, seen);
    });
  }
  return sum;
}

/**
 * What lies in a bin; undefined where there is none of ours. Sizes of folders are measured once, and kept where other
 * programs find them as well.
 */
export function listBin(bin: Bin, context: BinContext): BinContents | undefined {
  try {
    return contentsOf(bin, context);
  } catch (error) {
    if (NONE.has((error as NodeJS.ErrnoException).code ?? '')) return undefined;
    throw error;
  }
}

/** It is not there, not ours to look into, laid out by somebody else, or the mount is of a single file. */
const NONE = new Set(['ENOENT', 'ENOTDIR', 'EACCES', 'EPERM', 'ENOBIN', 'EINSIDE']);

function contentsOf(bin: Bin, context: BinContext): BinContents {
  const entries: BinEntry[] = [];
  const sizes = new Map<string, DirectorySize>();
  return inBin(bin, context.bounds, OWN_UID, refuseMissing, (held) => {
    const known = readDirectorySizes(readFile(held, SIZES, LONGEST_SIZES) ?? new Uint8Array());
    within(bin, context, 'info', (infos) =>
      within(bin, context, 'files', (files) => {
        for (const name of namesIn(files)) {
          context.tick();
          const s = files.seen(name);
          if (!s) continue;
          const info = infoOf(infos, name);
          let size = s.blocks * BLOCK;
          if (s.isDirectory()) {
            const infoTime = Math.floor((infos.seen(name + INFO_SUFFIX)?.mtimeMs ?? 0) / 1000);
            const before = known.get(name);
            size =
              before && info && before.infoTime === infoTime ? before.size : takes(files, name, () => context.tick());
            if (info) sizes.set(name, { name, size, infoTime });
          }
          entries.push({
            name,
            path: (info && formerPath(info.path, bin.top)) ?? null,
            info: info ?? null,
            type: s.isDirectory() ? 'folder' : s.isSymbolicLink() ? 'link' : s.isFile() ? 'file' : 'other',
            takes: size,
            dev: s.dev,
            inode: s.ino,
            size: s.size,
            modified: s.mtimeMs,
          });
        }
      }),
    );
    const isKept = sizes.size === known.size && [...sizes.values()].every((s) => known.get(s.name)?.size === s.size);
    if (!isKept) keepSizes(held, [...sizes.values()]);
    const { dev, ino } = held.stat();
    return { key: `${dev} ${ino}`, entries };
  });
}

/** Written beside and renamed, as the specification asks; where the bin cannot be written they are measured again. */
function keepSizes(bin: HeldFolder, sizes: readonly DirectorySize[]): void {
  try {
    const fd = openSync(bin.at(SIZES_PART), WRITING, 0o600);
    try {
      const bytes = writeDirectorySizes(sizes);
      for (let done = 0; done < bytes.length;) done += writeSync(fd, bytes, done);
    } finally {
      closeSync(fd);
    }
    renameSync(bin.at(SIZES_PART), bin.at(SIZES));
  } catch {
    try {
      unlinkSync(bin.at(SIZES_PART));
    } catch {
      // there is none
    }
  }
}

/** A thing in a bin as it was listed. */
export type Listed = Pick<BinEntry, 'name' | 'dev' | 'inode'>;
/** What became of a thing that was to be deleted for good; another one may bear its name by now. */
export type Expunged = 'gone' | 'in-use' | 'changed';

/**
 * Deletes things in a bin for good. The info file goes last, so that what an end leaves half-way is still listed.
 * What a program has open is left.
 */
export function expunge(bin: Bin, things: readonly Listed[], context: BinContext): Expunged[] {
  const used = filesInUse();
  const tick = () => context.tick();
  return within(bin, context, 'files', (files) =>
    things.map(({ name, dev, inode }) => {
      const s = files.seen(name);
      if (s && (s.dev !== dev || s.ino !== inode)) return 'changed';
      if (isUsed(files, name, used, tick)) return 'in-use';
      removeTree(files, name, tick);
      within(bin, context, 'info', (infos) => {
        if (infos.seen(name + INFO_SUFFIX)) unlinkSync(infos.at(name + INFO_SUFFIX));
      });
      return 'gone';
    }),
  );
}

function isUsed(folder: HeldFolder, name: string, used: ReadonlySet<string>, tick: () => void): boolean {
  tick();
  const s = folder.seen(name);
  if (!s) return false;
  if (used.has(keyOfFile(s))) return true;
  return s.isDirectory() && inFolder(folder, name, (inner) => namesIn(inner).some((n) => isUsed(inner, n, used, tick)));
}

/**
 * Info files whose thing is gone: another program left them, or an end came between. Younger ones stay: whoever deletes
 * something just now has written the info file first.
 */
export function clearLoneInfos(bin: Bin, context: BinContext): void {
  const isOld = (info: Stats | undefined) => info !== undefined && info.mtimeMs < Date.now() - DAY_MS;
  within(bin, context, 'files', (files) =>
    within(bin, context, 'info', (infos) => {
      for (const info of namesIn(infos))
        if (info.endsWith(INFO_SUFFIX) && isOld(infos.seen(info)) && !files.seen(info.slice(0, -INFO_SUFFIX.length)))
          unlinkSync(infos.at(info));
    }),
  );
}
