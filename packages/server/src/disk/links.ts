/**
 * Link files on the disk: what lies in a folder, and one step at a time with what is ours. A step looks again before it
 * acts, and comes into being by a call that refuses a name that is taken, so that nothing is ever written over.
 */
import { randomBytes } from 'node:crypto';
import {
  closeSync,
  constants,
  copyFileSync,
  type Dirent,
  fsyncSync,
  linkSync,
  mkdirSync,
  readSync,
  rmdirSync,
  writeFileSync,
} from 'node:fs';
import { Buffer } from 'node:buffer';
import type { LinkForm, LinkStep, Listing, SeenEntry } from '@rellin/core/aliases';
import { fromBytes, nameOf, shown, toBytes } from '@rellin/core/paths';
import { faultPoint } from '../faults/faultPoint.js';
import type { StepOutcome } from './diskMessages.js';
import { InsideError, withFolder, withParent, type Bounds, type HeldFolder } from './inside.js';
import { lstatSync, openSync, readdirSync, readlinkSync, renameSync, symlinkSync, unlinkSync } from './port.js';

/** Longer ones are not read: a desktop entry is a few lines. */
const LONGEST_ENTRY = 1 << 16;

/**
 * Beside what is to be, until it is whole. The catalogue's own mark is in it: a person's file never has such a name.
 */
const partName = (mark: string) => `.rellin-link-${mark}-${randomBytes(6).toString('hex')}`;
const isPart = (name: string, mark: string) => name.startsWith(`.rellin-link-${mark}-`);

/** Undefined where nothing stands there. */
function seen(folder: HeldFolder, name: string): SeenEntry | undefined {
  const s = folder.seen(name);
  if (!s) return undefined;
  if (s.isDirectory()) return { name, form: 'folder', content: '', inode: s.ino };
  if (s.isSymbolicLink()) {
    const content = fromBytes(readlinkSync(folder.at(name), { encoding: 'buffer' }));
    return { name, form: 'link', content, inode: s.ino };
  }
  if (s.isFile() && name.endsWith('.desktop') && s.size <= LONGEST_ENTRY)
    return { name, form: 'entry', content: textOf(folder, name), inode: s.ino };
  return { name, form: 'other', content: '', inode: s.ino };
}

function textOf(folder: HeldFolder, name: string): string {
  const { fd } = folder.file(name);
  try {
    const bytes = Buffer.alloc(LONGEST_ENTRY);
    return bytes.toString('utf8', 0, readSync(fd, bytes, 0, LONGEST_ENTRY, 0));
  } finally {
    closeSync(fd);
  }
}

/**
 * What lies in a folder; null where there is none, or a link in its place. Only what may be ours is looked at: of all
 * else the name is enough. What we left half made is removed.
 */
export function linksIn(path: string, bounds: Bounds, mark: string): Listing | null {
  try {
    return withFolder(path, bounds, (folder) => ({ inode: folder.stat().ino, entries: entriesOf(folder, mark) }));
  } catch (error) {
    if (error instanceof InsideError) return null;
    const code = (error as NodeJS.ErrnoException).code;
    if (code === 'ENOENT' || code === 'ENOTDIR' || code === 'EACCES') return null;
    throw error;
  }
}

function entriesOf(folder: HeldFolder, mark: string): SeenEntry[] {
  const entries: Dirent<Buffer>[] = readdirSync(folder.at(), { encoding: 'buffer', withFileTypes: true });
  return entries.flatMap((entry) => {
    const name = fromBytes(entry.name);
    const other: SeenEntry = { name, form: 'other', content: '', inode: 0 };
    try {
      if (isPart(name, mark)) {
        unlinkSync(folder.at(name));
        return [];
      }
      if (entry.isFile() && !name.endsWith('.desktop')) return [other];
      return seen(folder, name) ?? [];
    } catch {
      // what cannot be looked at takes its name all the same
      return [other];
    }
  });
}

export function runStep(step: LinkStep, bounds: Bounds, mark: string): StepOutcome {
  faultPoint('before a step with a link');
  const within = <T>(path: string, use: (folder: HeldFolder, name: string) => T) => withParent(path, bounds, use);
  try {
    switch (step.do) {
      case 'make':
        return within(step.to.path, (folder, name) => {
          make(folder, name, step.form, step.to.content, mark);
          return { ok: true, inode: inodeOf(folder, name) };
        });
      case 'change':
        return within(step.from.path, (folder, name) => {
          if (!isOurs(folder, name, step.form, step.from.content)) return refused(step.from.path);
          return within(step.to.path, (into, toName) => {
            change(step, folder, into, mark);
            return { ok: true, inode: inodeOf(into, toName) };
          });
        });
      case 'release':
        return within(step.from.path, (folder, name) => {
          if (!isOurs(folder, name, step.form, step.from.content)) return { ok: true, inode: null };
          if (step.from.content !== step.to.content) within(step.to.path, (into) => change(step, folder, into, mark));
          return { ok: true, inode: null };
        });
      case 'clear':
      case 'remove':
        return within(step.from.path, (folder, name) => {
          if (!isOurs(folder, name, step.form, step.from.content)) return { ok: true, inode: null };
          if (step.form === 'folder') removeEmpty(folder, name);
          else unlinkSync(folder.at(name));
          return { ok: true, inode: null };
        });
      case 'adopt':
      case 'note':
        return { ok: true, inode: step.inode };
      case 'forget':
        return { ok: true, inode: null };
    }
  } catch (error) {
    // where there is nothing left to remove, it is removed
    const isGone = (error as NodeJS.ErrnoException).code === 'ENOENT';
    if (isGone && (step.do === 'release' || step.do === 'clear' || step.do === 'remove'))
      return { ok: true, inode: null };
    return { ok: false, reason: reasonOf(error as NodeJS.ErrnoException) };
  }
}

/**
 * Null where somebody removed it in this very moment: it was made all the same, and its going is found like any other.
 */
function inodeOf(folder: HeldFolder, name: string): number | null {
  try {
    return lstatSync(folder.at(name)).ino;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  }
}
const refused = (path: string): StepOutcome => ({ ok: false, reason: `${shown(nameOf(path))} was changed meanwhile` });

function isOurs(folder: HeldFolder, name: string, form: LinkForm, content: string): boolean {
  const is = seen(folder, name);
  return is !== undefined && is.form === form && (form === 'folder' || is.content === content);
}

function make(folder: HeldFolder, name: string, form: LinkForm, content: string, mark: string): void {
  if (form === 'folder') mkdirSync(folder.at(name));
  else if (form === 'link') symlinkSync(linkText(content), folder.at(name));
  else {
    const part = written(folder, content, mark);
    try {
      putWhole(folder, part, name);
      faultPoint('an entry under two names');
    } finally {
      unlinkSync(folder.at(part));
    }
  }
}

/** By a call that refuses a name that is taken: a rename would write over it. Some file systems know no second name. */
function putWhole(folder: HeldFolder, part: string, name: string): void {
  try {
    linkSync(folder.at(part), folder.at(name));
  } catch (error) {
    if (!['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'ENOSYS'].includes((error as NodeJS.ErrnoException).code ?? ''))
      throw error;
    copyFileSync(folder.at(part), folder.at(name), constants.COPYFILE_EXCL);
  }
}

const linkText = (content: string) => Buffer.from(toBytes(content));

/** The whole text beside where it is to be, on the disk; its name. */
function written(folder: HeldFolder, content: string, mark: string): string {
  const part = partName(mark);
  const file = openSync(folder.at(part), 'wx', 0o644);
  try {
    writeFileSync(file, content);
    fsyncSync(file);
  } catch (error) {
    unlinkSync(folder.at(part));
    throw error;
  } finally {
    closeSync(file);
  }
  return part;
}

function change(
  { form, from, to }: Extract<LinkStep, { do: 'change' | 'release' }>,
  folder: HeldFolder,
  into: HeldFolder,
  mark: string,
): void {
  const [name, toName] = [nameOf(from.path), nameOf(to.path)];
  if (form === 'folder') {
    if (into.seen(toName)) throw taken();
    renameSync(folder.at(name), into.at(toName));
    return;
  }
  if (from.path !== to.path) {
    make(into, toName, form, to.content, mark);
    faultPoint('the new link beside the old');
    unlinkSync(folder.at(name));
    return;
  }
  // of one name: the old is there until the new is
  let part: string;
  if (form === 'link') {
    part = partName(mark);
    symlinkSync(linkText(to.content), into.at(part));
  } else part = written(into, to.content, mark);
  faultPoint('the new link under a name for now');
  renameSync(into.at(part), into.at(toName));
}

function removeEmpty(folder: HeldFolder, name: string): void {
  try {
    rmdirSync(folder.at(name));
  } catch (error) {
    // what a person put into it stays, and it with that
    if ((error as NodeJS.ErrnoException).code !== 'ENOTEMPTY') throw error;
  }
}

const taken = () => Object.assign(new Error('taken'), { code: 'EEXIST' });

function reasonOf(error: NodeJS.ErrnoException): string {
  switch (error.code) {
    case 'EEXIST':
      return 'the name is taken';
    case 'ENOSPC':
    case 'EDQUOT':
      return 'the disk is full';
    case 'EROFS':
      return 'the disk can only be read';
    case 'EACCES':
      return 'the system does not let Rellin write there';
    case 'EPERM':
      return 'its file system keeps no links, or does not let Rellin write';
    case 'ENOENT':
      return 'its folder is gone';
    case 'EINSIDE':
      return 'its folder is no longer what it was';
    default:
      return error.message;
  }
}
