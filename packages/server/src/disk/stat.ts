import type { Stats } from 'node:fs';
import type { EntryType } from '@rellin/core/kinds';

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

export function entryStat(s: Stats): EntryStat {
  return {
    type: typeOf(s.mode),
    size: s.size,
    mtime: s.mtimeMs,
    birth: s.birthtimeMs,
    dev: s.dev,
    inode: s.ino,
  };
}
