import type { Stats } from 'node:fs';
import type { EntryType } from '@rellin/core/kinds';
import type { DiskPath } from './paths.js';
import { lstatSync } from './port.js';

const TYPE_MASK = 0o170000;
const TYPES: Record<number, EntryType> = { 0o100000: 'file', 0o040000: 'folder', 0o120000: 'link' };

export function typeOf(mode: number): EntryType {
  return TYPES[mode & TYPE_MASK] ?? 'other';
}

export interface EntryStat {
  type: EntryType;
  size: number;
  mtime: number;
  birth: number;
  dev: number;
  inode: number;
}

const MINUTE_MS = 60_000;
const MINUTE_NS = 60_000_000_000n;

/**
 * When a file was modified, in epoch milliseconds. They are counted in doubles, in which the last tenth of a
 * microsecond of a minute rounds to the next: such a file would be of the next day at midnight. One that seems to stand
 * on a full minute is looked at once more, in whole nanoseconds.
 */
export function modifiedMs(s: Stats, path: DiskPath): number {
  if (s.mtimeMs % MINUTE_MS !== 0) return s.mtimeMs;
  const exact = lstatSync(path, { bigint: true, throwIfNoEntry: false });
  return exact === undefined || exact.mtimeNs % MINUTE_NS === 0n ? s.mtimeMs : s.mtimeMs - 0.001;
}

/** `path` leads to what was looked at. */
export function entryStat(s: Stats, path: DiskPath): EntryStat {
  return {
    type: typeOf(s.mode),
    size: s.size,
    mtime: modifiedMs(s, path),
    birth: s.birthtimeMs,
    dev: s.dev,
    inode: s.ino,
  };
}
