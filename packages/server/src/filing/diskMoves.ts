/**
 * One thing filed, and taken back, on the disk. Every step can be repeated: it looks at what is there and does what is
 * missing, so that after a crash the same call finishes the work. Nothing is ever written over: a file comes into being
 * by a link or a rename onto a free name.
 */
import { createHash } from 'node:crypto';
import { createReadStream, type Stats } from 'node:fs';
import {
  copyFile,
  link,
  lstat,
  lutimes,
  mkdir,
  readdir,
  readlink,
  rename,
  rm,
  rmdir,
  symlink,
  unlink,
  utimes,
} from 'node:fs/promises';
import { fromBytes, nameOf, parentOf, shown } from '@rellin/core/paths';
import { absolute, diskPath } from '../disk/paths.js';
import { faultPoint } from '../faults/faultPoint.js';
import { Refusal } from '../problems/refusal.js';

export interface FiledItem {
  /** Absolute path text; null for what came from outside as bytes. */
  from: string | null;
  to: string;
  /** Where what stood at `to` is kept; null where nothing did. */
  stash: string | null;
  /** rename: within one file system · carry: copied, verified, then removed · copy · upload: bytes already in `part`. */
  way: 'rename' | 'carry' | 'copy' | 'upload';
  /** A name beside `to` that holds what is not whole yet. */
  part: string;
  /** Of what is filed, read before the intent is written; never for renames within a file system. */
  digest?: string;
  /** It came to its end once: from then on what stands at `to` is ours. */
  filed?: boolean;
}

async function seen(path: string): Promise<Stats | undefined> {
  try {
    return await lstat(diskPath(path));
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    if (code === 'ENOENT' || code === 'ENOTDIR') return undefined;
    throw error;
  }
}

/** SHA-256 over the content: of a file its bytes, of a folder names and contents in order, of a link where it leads. */
export async function contentDigest(path: string): Promise<string> {
  const hash = createHash('sha256');
  const add = async (at: string, name: string): Promise<void> => {
    const s = await lstat(diskPath(at));
    if (s.isDirectory()) {
      hash.update(`folder ${name}\n`);
      for (const child of await namesIn(at)) await add(absolute(at, child), `${name}/${child}`);
    } else if (s.isSymbolicLink())
      hash.update(`link ${name}\n`).update(await readlink(diskPath(at), { encoding: 'buffer' }));
    else {
      hash.update(`file ${name} ${s.size}\n`);
      for await (const chunk of createReadStream(diskPath(at), { highWaterMark: 1 << 18 }))
        hash.update(chunk as Buffer);
    }
  };
  await add(path, '');
  return hash.digest('hex');
}

async function namesIn(folder: string): Promise<string[]> {
  const names = await readdir(diskPath(folder), { encoding: 'buffer' });
  return names.map((n) => fromBytes(n)).sort();
}

/** Copies a file, link or folder with its times; what is half there is thrown away first. */
async function copyTree(from: string, to: string, signal?: AbortSignal): Promise<void> {
  signal?.throwIfAborted();
  const s = await lstat(diskPath(from));
  if (s.isDirectory()) {
    await mkdir(diskPath(to));
    for (const name of await namesIn(from)) await copyTree(absolute(from, name), absolute(to, name), signal);
  } else if (s.isSymbolicLink()) {
    await symlink(await readlink(diskPath(from), { encoding: 'buffer' }), diskPath(to));
    return lutimes(diskPath(to), s.atimeMs / 1000, s.mtimeMs / 1000);
  } else if (s.isFile()) await copyFile(diskPath(from), diskPath(to));
  else throw new Refusal('not-valid', `${shown(from)} is a device or socket; it cannot be copied.`);
  await utimes(diskPath(to), s.atimeMs / 1000, s.mtimeMs / 1000);
}

/** From one name to a free one within a file system. */
async function place(from: string, to: string): Promise<void> {
  const s = await lstat(diskPath(from));
  if (!s.isDirectory())
    try {
      await link(diskPath(from), diskPath(to));
      await unlink(diskPath(from));
      return;
    } catch (error) {
      const code = (error as NodeJS.ErrnoException).code ?? '';
      // a file system without hard links; the name is looked at, then taken
      if (!['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'EMLINK'].includes(code)) throw error;
    }
  if (await seen(to)) throw occupied(to);
  await rename(diskPath(from), diskPath(to));
}

const occupied = (path: string) =>
  new Refusal('changed-since', `Something else stands at ${shown(path)} now.`, {
    remedy: 'Move or rename it, then try again; nothing was changed.',
  });

async function setAside(item: FiledItem): Promise<void> {
  if (item.stash === null || (await seen(item.stash)) || !(await seen(item.to))) return;
  await mkdir(diskPath(parentOf(item.stash)), { recursive: true });
  await rename(diskPath(item.to), diskPath(item.stash));
}

async function bringBackAside(item: FiledItem): Promise<void> {
  if (item.stash === null || !(await seen(item.stash))) return;
  await place(item.stash, item.to);
  // the last one out takes the folder with it
  await rmdir(diskPath(parentOf(item.stash))).catch(() => undefined);
}

const sameFile = (a: Stats, b: Stats) => a.ino === b.ino && a.dev === b.dev;

/** A verified copy at `to`, by way of `part`. */
async function copied(item: FiledItem, from: string, to: string, part: string, signal?: AbortSignal): Promise<void> {
  await rm(diskPath(part), { recursive: true, force: true });
  const before = item.digest ?? (await contentDigest(from));
  try {
    await copyTree(from, part, signal);
    if ((await contentDigest(part)) !== before || (await contentDigest(from)) !== before)
      throw new Refusal('changed-since', `${shown(nameOf(from))} changed while it was copied; it stays where it is.`);
  } catch (error) {
    await rm(diskPath(part), { recursive: true, force: true });
    throw error;
  }
  await place(part, to);
}

/** Puts it where it is to go; of what is carried to another file system the original stays until it is released. */
export async function forward(item: FiledItem, signal?: AbortSignal): Promise<void> {
  await forwardNow(item, signal);
  item.filed = true;
}

async function forwardNow(item: FiledItem, signal?: AbortSignal): Promise<void> {
  const { from, to, way, part } = item;
  const source = from === null ? undefined : await seen(from);
  const target = await seen(to);
  const gone = () => new Refusal('not-found', `${shown(nameOf(from ?? to))} is not there any more.`);
  switch (way) {
    case 'rename': {
      if (!source) {
        if (target) return;
        throw gone();
      }
      if (target && sameFile(source, target)) return unlink(diskPath(from!));
      await setAside(item);
      faultPoint('what stood there put aside');
      try {
        return await place(from!, to);
      } catch (error) {
        // two mounts of one file system: it cannot be renamed between them
        if ((error as NodeJS.ErrnoException).code !== 'EXDEV') throw error;
        item.way = 'carry';
        item.digest = await contentDigest(from!);
        return forwardNow(item, signal);
      }
    }
    case 'copy':
    case 'carry': {
      const there = target !== undefined && item.digest !== undefined && (await contentDigest(to)) === item.digest;
      if (!there) {
        if (!source) throw gone();
        await setAside(item);
        await copied(item, from!, to, part, signal);
      }
      return;
    }
    case 'upload': {
      if (!(await seen(part))) {
        if (target) return;
        throw gone();
      }
      await setAside(item);
      item.digest ??= await contentDigest(part);
      return place(part, to);
    }
  }
}

/**
 * Takes away the original of what was carried, once everything carried with it stands whole where it is to be: a drive
 * that goes half-way takes nothing with it.
 */
export async function release(item: FiledItem): Promise<void> {
  if (item.way !== 'carry' || !(await seen(item.from!))) return;
  if (!(await seen(item.to)) || (await contentDigest(item.to)) !== item.digest)
    throw new Refusal('changed-since', `${shown(nameOf(item.to))} is not what was copied; its original stays.`);
  await rm(diskPath(item.from!), { recursive: true });
}

/** Puts it back exactly where it was. */
export async function backward(item: FiledItem): Promise<void> {
  const { from, to, way, part } = item;
  await rm(diskPath(part), { recursive: true, force: true });
  const target = await seen(to);
  const source = from === null ? undefined : await seen(from);
  if (way === 'rename' || way === 'carry') {
    if (target && source) {
      const ours = way === 'rename' ? sameFile(source, target) : (await contentDigest(to)) === item.digest;
      if (ours) await rm(diskPath(to), { recursive: true });
      // it is back already, and what it had replaced as well: the end came after that
      else if (item.stash !== null && !(await seen(item.stash))) return;
      else if (item.filed) throw occupied(from!);
      // otherwise it never came so far: what stands there is not ours to touch
      else return;
    } else if (target) {
      await mkdir(diskPath(parentOf(from!)), { recursive: true });
      if (way === 'rename') await place(to, from!);
      else {
        // it may have been edited where it lay; it goes back as it is now
        await copied({ ...item, digest: undefined }, to, from!, `${from!}.rellin-part`);
        await rm(diskPath(to), { recursive: true });
      }
    } else if (!source)
      throw new Refusal('not-found', `${shown(nameOf(to))} is neither where it was filed nor where it came from.`);
  } else if (target) {
    const ours = (await contentDigest(to)) === item.digest;
    if (!ours && !item.filed) return;
    if (!ours)
      throw new Refusal('changed-since', `${shown(nameOf(to))} was changed since it was filed; it stays where it is.`, {
        remedy: 'Take it out by hand if it is not wanted.',
      });
    await rm(diskPath(to), { recursive: true });
  }
  await bringBackAside(item);
}
