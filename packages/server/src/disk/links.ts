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
  readFileSync,
  rmdirSync,
  writeFileSync,
} from 'node:fs';
import { Buffer } from 'node:buffer';
import type { LinkForm, LinkStep, SeenEntry } from '@rellin/core/aliases';
import { fromBytes, nameOf, parentOf, shown, toBytes } from '@rellin/core/paths';
import { faultPoint } from '../faults/faultPoint.js';
import { absolute, diskPath } from './paths.js';
import type { StepOutcome } from './diskMessages.js';
import { lstatSync, openSync, readdirSync, readlinkSync, renameSync, symlinkSync, unlinkSync } from './port.js';

/** Longer ones are not read: a desktop entry is a few lines. */
const LONGEST_ENTRY = 1 << 16;
/** Beside what is to be, until it is whole. */
const PART = '.rellin-link-';

/** Undefined where nothing stands there. */
function seen(path: string): SeenEntry | undefined {
  const s = lstatSync(diskPath(path), { throwIfNoEntry: false });
  if (!s) return undefined;
  const name = nameOf(path);
  if (s.isDirectory()) return { name, form: 'folder', content: '', inode: s.ino };
  if (s.isSymbolicLink())
    return {
      name,
      form: 'link',
      content: fromBytes(readlinkSync(diskPath(path), { encoding: 'buffer' })),
      inode: s.ino,
    };
  if (s.isFile() && name.endsWith('.desktop') && s.size <= LONGEST_ENTRY)
    return { name, form: 'entry', content: readFileSync(diskPath(path), 'utf8'), inode: s.ino };
  return { name, form: 'other', content: '', inode: s.ino };
}

/**
 * What lies in a folder; null where there is none, or a link in its place. Only what may be ours is looked at: of all else
 * the name is enough. What was left half made is taken away.
 */
export function linksIn(folder: string): SeenEntry[] | null {
  let entries: Dirent<Buffer>[];
  try {
    if (!lstatSync(diskPath(folder)).isDirectory()) return null;
    entries = readdirSync(diskPath(folder), { encoding: 'buffer', withFileTypes: true });
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    if (code === 'ENOENT' || code === 'ENOTDIR' || code === 'EACCES') return null;
    throw error;
  }
  return entries.flatMap((entry) => {
    const name = fromBytes(entry.name);
    const path = absolute(folder, name);
    const other: SeenEntry = { name, form: 'other', content: '', inode: 0 };
    try {
      if (name.startsWith(PART)) {
        unlinkSync(diskPath(path));
        return [];
      }
      if (entry.isFile() && !name.endsWith('.desktop')) return [other];
      return seen(path) ?? [];
    } catch {
      // what cannot be looked at takes its name all the same
      return [other];
    }
  });
}

export function runStep(step: LinkStep): StepOutcome {
  faultPoint('before a step with a link');
  try {
    switch (step.do) {
      case 'make':
        make(step.to.path, step.form, step.to.content);
        return { ok: true, inode: inodeOf(step.to.path) };
      case 'change':
        if (!isOurs(step.form, step.from)) return refused(step.from.path);
        change(step);
        return { ok: true, inode: inodeOf(step.to.path) };
      case 'release':
        if (!isOurs(step.form, step.from)) return { ok: true, inode: null };
        if (step.from.content !== step.to.content) change(step);
        return { ok: true, inode: null };
      case 'clear':
      case 'remove':
        if (!isOurs(step.form, step.from)) return { ok: true, inode: null };
        if (step.form === 'folder') removeEmpty(step.from.path);
        else unlinkSync(diskPath(step.from.path));
        return { ok: true, inode: null };
      case 'adopt':
      case 'note':
        return { ok: true, inode: step.inode };
      case 'forget':
        return { ok: true, inode: null };
    }
  } catch (error) {
    return { ok: false, reason: reasonOf(error as NodeJS.ErrnoException) };
  }
}

/** Null where somebody took it away in this very moment: it was made all the same, and its going is found like any other. */
function inodeOf(path: string): number | null {
  try {
    return lstatSync(diskPath(path)).ino;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  }
}
const refused = (path: string): StepOutcome => ({ ok: false, reason: `${shown(nameOf(path))} was changed meanwhile` });

function isOurs(form: LinkForm, { path, content }: { path: string; content: string }): boolean {
  const is = seen(path);
  return is !== undefined && is.form === form && (form === 'folder' || is.content === content);
}

function make(path: string, form: LinkForm, content: string): void {
  if (form === 'folder') mkdirSync(diskPath(path));
  else if (form === 'link') symlinkSync(linkText(content), diskPath(path));
  else {
    const part = written(path, content);
    try {
      putWhole(part, path);
      faultPoint('an entry under two names');
    } finally {
      unlinkSync(diskPath(part));
    }
  }
}

/** By a call that refuses a name that is taken: a rename would write over it. Some file systems know no second name. */
function putWhole(part: string, path: string): void {
  try {
    linkSync(diskPath(part), diskPath(path));
  } catch (error) {
    if (!['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'ENOSYS'].includes((error as NodeJS.ErrnoException).code ?? ''))
      throw error;
    copyFileSync(diskPath(part), diskPath(path), constants.COPYFILE_EXCL);
  }
}

const linkText = (content: string) => Buffer.from(toBytes(content));

/** The whole text beside the path, on the disk. */
function written(path: string, content: string): string {
  const part = partOf(path);
  const file = openSync(diskPath(part), 'wx', 0o644);
  try {
    writeFileSync(file, content);
    fsyncSync(file);
  } catch (error) {
    unlinkSync(diskPath(part));
    throw error;
  } finally {
    closeSync(file);
  }
  return part;
}

const partOf = (path: string) => absolute(parentOf(path), PART + randomBytes(6).toString('hex'));

function change({ form, from, to }: Extract<LinkStep, { do: 'change' | 'release' }>): void {
  if (form === 'folder') {
    if (lstatSync(diskPath(to.path), { throwIfNoEntry: false })) throw taken();
    renameSync(diskPath(from.path), diskPath(to.path));
    return;
  }
  if (from.path !== to.path) {
    make(to.path, form, to.content);
    faultPoint('the new link beside the old');
    unlinkSync(diskPath(from.path));
    return;
  }
  // of one name: the old is there until the new is
  let part: string;
  if (form === 'link') {
    part = partOf(to.path);
    symlinkSync(linkText(to.content), diskPath(part));
  } else part = written(to.path, to.content);
  faultPoint('the new link under a name for now');
  renameSync(diskPath(part), diskPath(to.path));
}

function removeEmpty(path: string): void {
  try {
    rmdirSync(diskPath(path));
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
    default:
      return error.message;
  }
}
