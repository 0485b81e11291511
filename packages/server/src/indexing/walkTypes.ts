/** What passes between the walking threads and the collector. */
import type { Buffer } from 'node:buffer';
import type { EntryType } from '@rellin/core/kinds';

/** A folder still to be listed. */
export interface OpenFolder {
  /** Names the folder in batches; the walk's first folder is 0. */
  ref: number;
  path: string | Uint8Array | Buffer;
  /** Path below the place; kept only where an exclude pattern needs it. */
  relative: string;
}

export interface WalkBatch {
  /** Folders listed, each followed by its entries in the columns below. */
  folders: { ref: number; count: number; error?: string }[];
  /** Joined by "/", the one character besides NUL that no name holds. */
  names: string;
  /** File format bits (S_IFMT >> 12). */
  types: Uint8Array;
  /** For each entry that is a folder, in order, its ref. */
  refs: Float64Array;
  /** size, mtime, birth, dev, inode for each entry. */
  numbers: Float64Array;
}

export const NUMBERS_PER_ENTRY = 5;
export const FLAGS = { stop: 0, idle: 1 } as const;

export type WalkerMessage =
  { kind: 'batch'; batch: WalkBatch } | { kind: 'spare'; folders: OpenFolder[] } | { kind: 'idle' };

export function typeOfFormat(format: number): EntryType {
  return format === 8 ? 'file' : format === 4 ? 'folder' : format === 10 ? 'link' : 'other';
}
