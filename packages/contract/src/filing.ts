import type { Bytes, EpochMs } from '@rellin/core/units';
import type { OriginalId, PlaceId, ShortcutId } from './ids.js';
import type { ClashChoice } from '@rellin/core/filing';
import type { OriginalRef } from './originals.js';

/** What came of filing: done, or the names that are taken, with nothing done yet. */
export type FilingView =
  | {
      state: 'done';
      filed: number;
      skipped: number;
      into: string;
      /** What of it the file system there does not keep, in words. */
      notes: string[];
    }
  | { state: 'clashes'; into: string; total: number; clashes: Clash[] };

export interface Clash {
  name: string;
  /** What stands there; its size is null for a folder. */
  there: { size: Bytes | null; modified: EpochMs } | null;
  coming: { size: Bytes | null; modified: EpochMs } | null;
}

/** The folder to file into: a shortcut's original, or an original. */
export interface FilingTarget {
  shortcutId?: ShortcutId;
  placeId?: PlaceId;
  originalId?: OriginalId;
  /** A folder to make in it first, and file into. */
  newFolder?: string;
}

export interface FilingRequest {
  shortcutIds?: ShortcutId[];
  originals?: OriginalRef[];
  into: FilingTarget;
  how: 'move' | 'copy';
  clash?: ClashChoice;
}

export interface OriginalName extends OriginalRef {
  name: string;
}

/** New names of originals, each in the folder where it lies. */
export interface OriginalNames {
  names: OriginalName[];
}

export interface Renamed {
  /** Those that had their name already are not counted. */
  renamed: number;
}

export interface OriginalRefs {
  originals: OriginalRef[];
}

export interface UploadQuery extends FilingTarget {
  name: string;
  clash?: ClashChoice;
}
