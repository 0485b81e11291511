/**
 * One thing filed, and put back, on the disk. Every step can be repeated: it looks at what is there and does what is
 * missing, so that after a crash the same call finishes the work. Nothing is ever written over: a file comes into being
 * by a link or a rename onto a free name. Every folder is held by its handle while something is done in it, and a link
 * on the way to it is refused. Synchronous, for a thread that can be given up; `tick` says that it goes on.
 */
import { createHash, type Hash } from 'node:crypto';
import {
  closeSync,
  constants,
  fstatSync,
  linkSync,
  lutimesSync,
  mkdirSync,
  openSync,
  readlinkSync,
  readSync,
  renameSync,
  rmdirSync,
  symlinkSync,
  unlinkSync,
  writeSync,
  type Stats,
} from 'node:fs';
import { fromBytes, nameOf, parentOf, shown } from '@rellin/core/paths';
import { InsideError, seenInside, withFolder, withParent, type Bounds, type HeldFolder } from '../disk/inside.js';
import { absolute, diskPath } from '../disk/paths.js';
import { inFolder, namesIn, removeTree } from '../disk/trees.js';
import { withBin } from '../trash/bins.js';
import { releaseName, takeName, type BinEnd } from '../trash/infoFiles.js';
import { faultPoint } from '../faults/faultPoint.js';
import { keepExtended, keepPlain } from './attributes.js';

export interface FiledItem {
  /** Absolute path text; null for what came from outside as bytes. */
  from: string | null;
  to: string;
  /** Where what stood at `to` is kept; null where nothing did. */
  stash: string | null;
  /**
   * rename: within one file system · carry: copied, verified, then removed · copy · upload: bytes already in `part`.
   */
  way: 'rename' | 'carry' | 'copy' | 'upload';
  /** A name beside `to` that holds what is not whole yet. */
  part: string;
  /** What `from` was when it was chosen: another one that stands there by now is not what was meant. */
  source?: { dev: number; inode: number };
  /** Of what is filed, read before the intent is written; never for renames within a file system. */
  digest?: string;
  /**
   * Set for what is given a name in its own folder: where else it stands in the course of the same filing. Names may be
   * handed on from one thing to the next, so that a name alone does not say how far it came.
   */
  via?: string[];
  /** It came to its end once: from then on what stands at `to` is ours. */
  filed?: boolean;
  /** Set where it goes into a bin of the disk, or comes from one: its name there is taken before, and free after. */
  bin?: BinEnd & { end: 'from' | 'to' };
  /** Folders above `to` that are to be made for it, the outermost first. */
  folders?: string[];
  /** Once it has gone, a link to it is left where it lay. */
  leavesLink?: boolean;
  /** It could not go when its turn came, and stays: nothing is done with it. */
  isLeftOut?: boolean;
  /** Originals with tags: it, or what lies below it; by which rows the index knew them last. */
  tagged?: TaggedBelow[];
  /** What of it the file system there does not keep. */
  lost?: ('owner' | 'attributes')[];
}

/** `below`: the path below the item, empty for the item itself. */
export interface TaggedBelow {
  below: string;
  placeId: number;
  originalId: number;
}

/** Why something was not done; the server puts it into words. */
export type MoveFault =
  | 'gone'
  | 'changed'
  | 'changed-while-copied'
  | 'occupied'
  | 'not-copied'
  | 'edited'
  | 'neither'
  | 'expunged'
  | 'device'
  | 'other-volume';

class MoveError extends Error {
  readonly code = 'EMOVE';
  constructor(
    readonly fault: MoveFault,
    readonly path: string,
  ) {
    super(`${fault}: ${shown(path)}`);
  }
}

export interface MoveContext {
  bounds: Bounds;
  /** It still goes on. Throws where it is to stop. */
  tick(): void;
}

/** For one item: what goes through a bin may reach that bin as well. */
const withItsBin = (context: MoveContext, { bin }: FiledItem): MoveContext =>
  bin ? { ...context, bounds: withBin(context.bounds, bin.bin) } : context;

const CHUNK = 1 << 20;
const WRITING = constants.O_WRONLY | constants.O_CREAT | constants.O_EXCL | constants.O_NOFOLLOW;

/** What stands at a path; undefined where nothing does, or its folder is gone. */
function seenAt(path: string, { bounds }: MoveContext): Stats | undefined {
  try {
    return seenInside(path, bounds);
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    if (code === 'ENOENT' || code === 'ENOTDIR') return undefined;
    throw error;
  }
}

/** Reads a regular file to its end, piece by piece. */
function eachPiece(folder: HeldFolder, name: string, tick: () => void, use: (piece: Buffer) => void): void {
  const { fd } = folder.file(name);
  try {
    const buffer = Buffer.allocUnsafe(CHUNK);
    for (let n = readSync(fd, buffer, 0, CHUNK, null); n > 0; n = readSync(fd, buffer, 0, CHUNK, null)) {
      use(buffer.subarray(0, n));
      tick();
    }
  } finally {
    closeSync(fd);
  }
}

function addDigest(hash: Hash, folder: HeldFolder, at: string, name: string, tick: () => void): void {
  const s = folder.seen(at);
  if (!s) throw Object.assign(new Error(`${at} is gone`), { code: 'ENOENT' });
  if (s.isDirectory()) {
    hash.update(`folder ${name}\n`);
    inFolder(folder, at, (inner) => {
      for (const child of namesIn(inner)) addDigest(hash, inner, child, `${name}/${child}`, tick);
    });
  } else if (s.isSymbolicLink())
    hash.update(`link ${name}\n`).update(readlinkSync(folder.at(at), { encoding: 'buffer' }));
  else {
    hash.update(`file ${name} ${s.size}\n`);
    eachPiece(folder, at, tick, (piece) => hash.update(piece));
  }
  tick();
}

/** SHA-256 over the content: of a file its bytes, of a folder names and contents in order, of a link where it leads. */
export function contentDigest(path: string, { bounds, tick }: MoveContext): string {
  return withParent(path, bounds, (folder, name) => {
    const hash = createHash('sha256');
    addDigest(hash, folder, name, '', tick);
    return hash.digest('hex');
  });
}

/** Copies the contents of a file or folder, closed to others until all is in them; links come after. */
function copyContents(from: HeldFolder, name: string, to: HeldFolder, toName: string, tick: () => void): void {
  tick();
  const s = from.seen(name);
  if (!s) throw Object.assign(new Error(`${name} is gone`), { code: 'ENOENT' });
  if (s.isDirectory()) {
    mkdirSync(to.at(toName), { mode: 0o700 });
    inBoth(from, name, to, toName, (source, target) => {
      for (const child of namesIn(source)) copyContents(source, child, target, child, tick);
    });
  } else if (s.isFile()) copyFile(from, name, to, toName, tick);
  else if (!s.isSymbolicLink()) throw new MoveError('device', absolute(from.path, name));
}

/** What they are besides: links, then modes, times and owners, each folder after what lies in it. */
function keepAll(from: HeldFolder, name: string, to: HeldFolder, toName: string, tick: () => void, lost: Lost): void {
  tick();
  const s = from.seen(name);
  if (!s) throw Object.assign(new Error(`${name} is gone`), { code: 'ENOENT' });
  if (s.isSymbolicLink()) {
    if (!to.seen(toName)) symlinkSync(readlinkSync(from.at(name), { encoding: 'buffer' }), to.at(toName));
    return lutimesSync(to.at(toName), s.atime, s.mtime);
  }
  if (s.isDirectory())
    inBoth(from, name, to, toName, (source, target) => {
      for (const child of namesIn(source)) keepAll(source, child, target, child, tick, lost);
    });
  if (!keepPlain(to, toName, s)) lost.add('owner');
}

type Lost = Set<'owner' | 'attributes'>;

function inBoth(
  from: HeldFolder,
  name: string,
  to: HeldFolder,
  toName: string,
  use: (source: HeldFolder, target: HeldFolder) => void,
): void {
  inFolder(from, name, (source) => inFolder(to, toName, (target) => use(source, target)));
}

function copyFile(from: HeldFolder, name: string, to: HeldFolder, toName: string, tick: () => void): void {
  const target = openSync(to.at(toName), WRITING, 0o600);
  try {
    eachPiece(from, name, tick, (piece) => {
      for (let done = 0; done < piece.length;) done += writeSync(target, piece, done);
    });
  } finally {
    closeSync(target);
  }
}

function removeAt(path: string, context: MoveContext): void {
  try {
    withParent(path, context.bounds, (folder, name) => removeTree(folder, name, () => context.tick()));
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
}

/** From one name to a free one within a file system. `must` is what has to stand there for it to be meant. */
function place(from: string, to: string, { bounds }: MoveContext, must?: FiledItem['source']): void {
  withParent(from, bounds, (source, name) =>
    withParent(to, bounds, (target, toName) => {
      const s = source.seen(name);
      if (!s) throw Object.assign(new Error(`${from} is gone`), { code: 'ENOENT' });
      if (must && !isSame(s, must)) throw new MoveError('changed', from);
      if (!s.isDirectory())
        try {
          linkSync(source.at(name), target.at(toName));
          unlinkSync(source.at(name));
          return;
        } catch (error) {
          const code = (error as NodeJS.ErrnoException).code ?? '';
          // a file system without hard links, or a file that is not ours to link; the name is looked at, then taken
          if (!['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'EMLINK'].includes(code)) throw error;
        }
      if (target.seen(toName)) throw new MoveError('occupied', to);
      renameSync(source.at(name), target.at(toName));
    }),
  );
}

/**
 * From one name to another within its folder, or on its way already. It is known by its file number; only where that is
 * nowhere, since a program saved it anew, by its name.
 */
function handOn(item: FiledItem, way: 'forward' | 'backward', context: MoveContext): void {
  const [from, to] = way === 'forward' ? [item.from!, item.to] : [item.to, item.from!];
  const isOurs = (path: string): boolean => {
    const s = seenAt(path, context);
    return s !== undefined && isSame(s, item.source!);
  };
  if (isOurs(to)) {
    // it got its second name, and the first is left to go
    if (isOurs(from)) withParent(from, context.bounds, (folder, name) => unlinkSync(folder.at(name)));
    return;
  }
  const must = isOurs(from) ? item.source : undefined;
  if (!must) {
    if (item.via!.some(isOurs)) return;
    // it never came so far
    if (!item.filed && way === 'backward') return;
    const source = seenAt(from, context);
    if (!item.filed) throw new MoveError(source ? 'changed' : 'gone', from);
    if (!source) throw new MoveError('neither', to);
  }
  if (seenAt(to, context)) throw new MoveError('occupied', to);
  place(from, to, context, must);
}

function setAside(item: FiledItem, context: MoveContext): void {
  if (item.stash === null || seenAt(item.stash, context) || !seenAt(item.to, context)) return;
  const stashFolder = parentOf(item.stash);
  withParent(stashFolder, context.bounds, (folder, name) => {
    try {
      mkdirSync(folder.at(name), { mode: 0o700 });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
  });
  withParent(item.to, context.bounds, (source, name) =>
    withParent(item.stash!, context.bounds, (target, toName) => renameSync(source.at(name), target.at(toName))),
  );
}

function bringBackAside(item: FiledItem, context: MoveContext): void {
  if (item.stash === null || !seenAt(item.stash, context)) return;
  place(item.stash, item.to, context);
  // the last one out takes the folder with it
  removeEmpty(parentOf(item.stash), context);
}

/** A folder that is empty goes; one that is not, or is not there, stays as it is. */
export function removeEmpty(path: string, { bounds }: MoveContext): void {
  try {
    withParent(path, bounds, (folder, name) => rmdirSync(folder.at(name)));
  } catch {
    // something lies in it, or it is gone
  }
}

const isSame = (s: Stats, { dev, inode }: { dev: number; inode: number }) => s.ino === inode && s.dev === dev;
const sameFile = (a: Stats, b: Stats) => a.ino === b.ino && a.dev === b.dev;

/** A verified copy at `to`, by way of `part`; with all that a file has where it is `carried`. */
function copied(item: FiledItem, from: string, to: string, part: string, context: MoveContext, carried: boolean): void {
  removeAt(part, context);
  const before = item.digest ?? contentDigest(from, context);
  try {
    withParent(from, context.bounds, (source, name) =>
      withParent(part, context.bounds, (target, toName) => {
        const s = source.seen(name);
        if (s && item.source && !item.filed && !isSame(s, item.source)) throw new MoveError('changed', from);
        const lost: Lost = new Set();
        const tick = () => context.tick();
        copyContents(source, name, target, toName, tick);
        if (carried && !keepExtended(source, name, target, toName)) lost.add('attributes');
        keepAll(source, name, target, toName, tick, lost);
        if (carried && lost.size > 0) item.lost = [...lost];
      }),
    );
    if (contentDigest(part, context) !== before || contentDigest(from, context) !== before)
      throw new MoveError('changed-while-copied', from);
  } catch (error) {
    removeAt(part, context);
    throw error;
  }
  place(part, to, context);
}

/** Puts it where it is to go; of what is carried to another file system the original stays until it is released. */
export function forward(item: FiledItem, plain: MoveContext): void {
  if (item.isLeftOut) return;
  const context = withItsBin(plain, item);
  const { bin } = item;
  removeLeftLink(item, context);
  for (const folder of item.folders ?? []) makeFolders(folder, context);
  if (bin?.end === 'to') {
    if (!takeName(bin, context)) throw new MoveError('occupied', item.to);
    faultPoint('name in the bin taken');
  }
  forwardNow(item, context);
  if (bin?.end === 'from' && !seenAt(item.from!, context)) releaseName(bin, context);
  item.filed = true;
}

function forwardNow(item: FiledItem, context: MoveContext): void {
  const { from, to, way, part } = item;
  if (item.via) return handOn(item, 'forward', context);
  const source = from === null ? undefined : seenAt(from, context);
  const target = seenAt(to, context);
  switch (way) {
    case 'rename': {
      if (!source) {
        if (target) return;
        throw new MoveError('gone', from!);
      }
      // what stood there was put aside and ours got its second name: only the first is left to go
      const isThere = target !== undefined && sameFile(source, target);
      if (isThere && (item.stash === null || seenAt(item.stash, context)))
        return withParent(from!, context.bounds, (folder, name) => unlinkSync(folder.at(name)));
      if (!item.filed && item.source && !isSame(source, item.source)) throw new MoveError('changed', from!);
      setAside(item, context);
      faultPoint('what stood there put aside');
      try {
        return place(from!, to, context, item.filed ? undefined : item.source);
      } catch (error) {
        // two mounts of one file system: it cannot be renamed between them
        if ((error as NodeJS.ErrnoException).code !== 'EXDEV') throw error;
        // a bin takes nothing from elsewhere unless that was said before
        if (item.bin?.end === 'to') throw new MoveError('other-volume', from!);
        item.way = 'carry';
        item.digest = contentDigest(from!, context);
        return forwardNow(item, context);
      }
    }
    case 'copy':
    case 'carry': {
      const there = target !== undefined && item.digest !== undefined && contentDigest(to, context) === item.digest;
      if (!there) {
        if (!source) throw new MoveError('gone', from!);
        setAside(item, context);
        copied(item, from!, to, part, context, way === 'carry');
      }
      return;
    }
    case 'upload': {
      if (!seenAt(part, context)) {
        if (target) return;
        throw new MoveError('gone', to);
      }
      setAside(item, context);
      item.digest ??= contentDigest(part, context);
      return place(part, to, context);
    }
  }
}

/**
 * Removes the original of what was carried, once everything carried with it stands whole where it is to be: a drive
 * that goes half-way takes nothing with it.
 */
export function release(item: FiledItem, plain: MoveContext): void {
  if (item.isLeftOut) return;
  const context = withItsBin(plain, item);
  if (item.way === 'carry') releaseCarried(item, context);
  if (item.leavesLink) leaveLink(item, context);
}

function releaseCarried(item: FiledItem, context: MoveContext): void {
  const source = seenAt(item.from!, context);
  if (!source || isLeftLink(source, item, context)) return;
  if (!seenAt(item.to, context) || contentDigest(item.to, context) !== item.digest)
    throw new MoveError('not-copied', item.to);
  removeAt(item.from!, context);
  if (item.bin?.end === 'from') releaseName(item.bin, context);
}

function isLeftLink(seen: Stats, { from, to, leavesLink }: FiledItem, { bounds }: MoveContext): boolean {
  return leavesLink === true && seen.isSymbolicLink() && linkAt(from!, bounds) === to;
}

/** Where a link leads, as text; undefined where it cannot be read. */
function linkAt(path: string, bounds: Bounds): string | undefined {
  try {
    return withParent(path, bounds, (folder, name) => fromBytes(readlinkSync(folder.at(name), { encoding: 'buffer' })));
  } catch {
    return undefined;
  }
}

/** Where the name was taken meanwhile, or the file system has no links, none is left. */
function leaveLink(item: FiledItem, context: MoveContext): void {
  if (seenAt(item.from!, context)) return;
  withParent(item.from!, context.bounds, (folder, name) => {
    try {
      symlinkSync(diskPath(item.to), folder.at(name));
    } catch (error) {
      const code = (error as NodeJS.ErrnoException).code ?? '';
      if (!['EEXIST', 'EPERM', 'ENOTSUP', 'EOPNOTSUPP'].includes(code)) throw error;
    }
  });
}

function removeLeftLink(item: FiledItem, context: MoveContext): void {
  if (!item.leavesLink) return;
  removeLinkTo(item.from!, item.to, context);
}

/** A link goes where it leads there; whatever else stands at its path stays. */
export function removeLinkTo(at: string, to: string, context: MoveContext): void {
  if (!seenAt(at, context)?.isSymbolicLink() || linkAt(at, context.bounds) !== to) return;
  withParent(at, context.bounds, (folder, name) => unlinkSync(folder.at(name)));
}

/** Puts it back exactly where it was. */
export function backward(item: FiledItem, plain: MoveContext): void {
  if (item.isLeftOut) return;
  const context = withItsBin(plain, item);
  const { bin } = item;
  removeLeftLink(item, context);
  if (bin?.end === 'from' && !seenAt(item.from!, context) && seenAt(item.to, context) && !takeName(bin, context))
    throw new MoveError('occupied', item.from!);
  backwardNow(item, context);
  if (bin?.end === 'to') releaseName(bin, context);
  for (const folder of [...(item.folders ?? [])].reverse()) removeEmpty(folder, context);
}

function backwardNow(item: FiledItem, context: MoveContext): void {
  const { from, to, way, part } = item;
  if (item.via) return handOn(item, 'backward', context);
  removeAt(part, context);
  const target = seenAt(to, context);
  const source = from === null ? undefined : seenAt(from, context);
  if (way === 'rename' || way === 'carry') {
    if (target && source) {
      const ours = way === 'rename' ? sameFile(source, target) : contentDigest(to, context) === item.digest;
      if (ours && way === 'rename' && item.stash !== null && !seenAt(item.stash, context)) return;
      if (ours) removeAt(to, context);
      // it is back already, and what it had replaced as well: the end came after that
      else if (item.stash !== null && !seenAt(item.stash, context)) return;
      else if (item.filed) throw new MoveError('occupied', from!);
      // otherwise it never came so far: what stands there is not ours to touch
      else return;
    } else if (target) {
      makeFolders(parentOf(from!), context);
      if (way === 'rename') place(to, from!, context);
      else {
        // it may have been edited where it lay; it goes back as it is now
        const beside = absolute(parentOf(from!), nameOf(part));
        copied({ ...item, digest: undefined, source: undefined }, to, from!, beside, context, true);
        removeAt(to, context);
      }
    } else if (!source && item.filed) throw new MoveError(item.bin?.end === 'to' ? 'expunged' : 'neither', to);
  } else if (target) {
    const ours = contentDigest(to, context) === item.digest;
    if (!ours && !item.filed) return;
    if (!ours) throw new MoveError('edited', to);
    removeAt(to, context);
  }
  bringBackAside(item, context);
}

/** A folder and those above it that are missing, within the places. */
export function makeFolders(path: string, context: MoveContext): void {
  try {
    return withFolder(path, context.bounds, () => undefined);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
  if (!context.bounds.roots.some((root) => path.startsWith(root) && path !== root))
    throw new InsideError('outside', path);
  makeFolders(parentOf(path), context);
  withParent(path, context.bounds, (folder, name) => {
    try {
      mkdirSync(folder.at(name));
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
  });
}

/**
 * What stands at paths, for whoever asks before anything is done. Links are told as links; null where nothing stands.
 */
export interface SeenFile {
  dev: number;
  inode: number;
  isFolder: boolean;
  size: number;
  modified: number;
  /** When anything of it was changed last, its name and owner as well; epoch milliseconds. */
  changed: number;
}

export function probe(paths: readonly string[], context: MoveContext): (SeenFile | null)[] {
  return paths.map((path) => {
    context.tick();
    const s = seenAt(path, context);
    return s ? seenOf(s) : null;
  });
}

/** The same of all that lies in a folder, by its name. */
export function entriesIn(path: string, context: MoveContext): [string, SeenFile][] {
  return withFolder(path, context.bounds, (folder) =>
    namesIn(folder).flatMap((name): [string, SeenFile][] => {
      context.tick();
      const s = folder.seen(name);
      return s ? [[name, seenOf(s)]] : [];
    }),
  );
}

const seenOf = (s: Stats): SeenFile => ({
  dev: s.dev,
  inode: s.ino,
  isFolder: s.isDirectory(),
  size: s.size,
  modified: s.mtimeMs,
  changed: s.ctimeMs,
});

/** Names in a folder that something may be written into. */
export function namesToFileInto(path: string, { bounds }: MoveContext): string[] {
  return withFolder(path, bounds, namesIn);
}

/** A new file for bytes that come from outside, closed to others until it is whole; its handle. */
export function beginPart(path: string, { bounds }: MoveContext): number {
  return withParent(path, bounds, (folder, name) => openSync(folder.at(name), WRITING, 0o600));
}

/** As whoever makes a file gets it: by the mask of the process. */
export function endPart(path: string, fd: number, { bounds }: MoveContext): void {
  const mode = 0o666 & ~process.umask();
  try {
    withParent(path, bounds, (folder, name) => {
      const s = folder.seen(name);
      const own = fstatSync(fd);
      if (!s || !sameFile(s, own)) throw new MoveError('changed', path);
      keepPlain(folder, name, Object.assign(own, { mode }));
    });
  } finally {
    closeSync(fd);
  }
}

export { removeAt };
