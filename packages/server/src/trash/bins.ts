/**
 * The bins of the disk (Trash specification 1.0): where they are, and whether one can be trusted. Synchronous, for the
 * threads that move files. What stands in a volume's top folder may be another user's doing, and is looked at by its
 * handle each time before it is used.
 */
import { lstatSync, mkdirSync, type Stats } from 'node:fs';
import { isOfKernel, mountOf, type Mount } from '@rellin/core/mounts';
import { parentOf } from '@rellin/core/paths';
import { withFolder, type Bounds, type HeldFolder } from '../disk/inside.js';
import { absolute, diskPath } from '../disk/paths.js';

export interface Bin {
  /** The folder with `files` and `info` in it. */
  folder: string;
  /** What it is reached from: no link is followed below it. */
  root: string;
  /** The volume's top folder, from which its paths are told; null for the home bin. */
  top: string | null;
}

/** Where bins are looked for. */
export interface BinsOf {
  /** `$XDG_DATA_HOME`. */
  dataHome: string;
  uid: number;
  mounts: readonly Mount[];
}

/** The specification's conditions are not met, or it cannot be written: then there is no bin there. */
export class NoBin extends Error {
  readonly code = 'ENOBIN';
}

/** Made to be read only, or no disk at all: a look at the second kind may do something. */
const WITHOUT_BINS = /^(squashfs|iso9660|autofs|fuse\.portal|fuse\.gvfsd-fuse)$/;
const PRIVATE = 0o700;
const STICKY = 0o1000;

export const homeBin = (dataHome: string): Bin => {
  const folder = absolute(dataHome, 'Trash');
  return { folder, root: folder, top: null };
};

/** What may be reached while something is done with a bin. */
export const withBin = (bounds: Bounds, bin: Pick<Bin, 'root'>): Bounds => ({
  ...bounds,
  roots: [...bounds.roots, bin.root],
});

/** The mount that a path lies on, and whether that of the home bin is the same. */
function volumeOf(path: string, { dataHome, mounts }: BinsOf): { top: string; isHome: boolean } {
  const top = mountOf(mounts, path)?.at ?? '/';
  const home = deepestThere(dataHome);
  const isHome = (mountOf(mounts, home)?.at ?? '/') === top && deviceOf(home) === deviceOf(parentOf(path) || '/');
  return { top, isHome };
}

const deviceOf = (path: string) => lstatSync(diskPath(path)).dev;

function deepestThere(path: string): string {
  for (let at = path; at !== '' && at !== '/'; at = parentOf(at))
    if (lstatSync(diskPath(at), { throwIfNoEntry: false })) return at;
  return '/';
}

const isOwnFolder = (s: Stats | undefined, uid: number) => s !== undefined && s.isDirectory() && s.uid === uid;

/** Both forms of a volume's bin, the administrator's first. */
function onVolume(top: string, uid: number): Bin[] {
  return [`.Trash/${uid}`, `.Trash-${uid}`].map((name) => ({ folder: absolute(top, name), root: top, top }));
}

/** Where there may be bins, by the mounts alone: none of the volumes is touched, of which one may hang. */
export function possibleBins(of: BinsOf): Bin[] {
  const tops = new Set(of.mounts.filter((m) => !isOfKernel(m) && !WITHOUT_BINS.test(m.type)).map((m) => m.at));
  return [homeBin(of.dataHome), ...[...tops].flatMap((top) => onVolume(top, of.uid))];
}

/**
 * The bin that each goes to by renaming: the home bin for what lies on its volume, else its volume's own, made where it
 * is missing. Null where there can be none.
 */
export function binsFor(paths: readonly string[], of: BinsOf, bounds: Bounds): (Bin | null)[] {
  const known = new Map<string, Bin | null>();
  return paths.map((path) => {
    const { top, isHome } = volumeOf(path, of);
    const key = isHome ? '' : top;
    const bin = known.get(key) ?? usableBin(top, isHome, of, bounds);
    known.set(key, bin);
    return bin;
  });
}

function usableBin(top: string, isHome: boolean, of: BinsOf, bounds: Bounds): Bin | null {
  for (const bin of isHome ? [homeBin(of.dataHome)] : onVolume(top, of.uid))
    try {
      makeBin(bin, bounds, of.uid);
      return bin;
    } catch {
      // the next form, or none
    }
  return null;
}

/** Makes what is missing of a bin, and refuses one that another user may have laid out. */
export function makeBin(bin: Bin, bounds: Bounds, uid: number): void {
  if (bin.top === null) mkdirSync(diskPath(bin.folder), { recursive: true, mode: PRIVATE });
  inBin(bin, bounds, uid, makeFolder, (folder) => {
    for (const name of ['files', 'info']) makeFolder(folder, name);
  });
}

function makeFolder(folder: HeldFolder, name: string): void {
  try {
    mkdirSync(folder.at(name), { mode: PRIVATE });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
}

/**
 * Holds a bin, looked at on the way: `.Trash` has to be a folder with the sticky bit, and what is in it, as
 * `.Trash-$uid`, a folder of ours; none of them a link. `missing` is called for one that is ours to make.
 */
export function inBin<T>(
  bin: Bin,
  bounds: Bounds,
  uid: number,
  missing: (folder: HeldFolder, name: string) => void,
  use: (bin: HeldFolder) => T,
): T {
  return withFolder(bin.root, withBin(bounds, bin), (root) => {
    const names = bin.folder.slice(bin.root.length).split('/').filter(Boolean);
    const held: HeldFolder[] = [];
    let folder = root;
    try {
      for (const [i, name] of names.entries()) {
        const isShared = names.length === 2 && i === 0;
        if (!isShared && !folder.seen(name)) missing(folder, name);
        const s = folder.seen(name);
        const isRight = isShared ? s?.isDirectory() && (s.mode & STICKY) !== 0 : isOwnFolder(s, uid);
        if (!isRight) throw new NoBin(`${absolute(folder.path, name)} is no bin of ours`);
        folder = folder.folder(name);
        held.push(folder);
      }
      return use(folder);
    } finally {
      for (const one of held) one.close();
    }
  });
}
