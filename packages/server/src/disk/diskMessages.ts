/** What is asked of a place's disk thread. All paths are absolute. */
import type { LinkStep, Listing } from '@rellin/core/aliases';
import type { Sight } from '@rellin/core/identity';
import type { Bounds } from './inside.js';

export type DiskTask =
  | { kind: 'sights'; paths: string[] }
  | { kind: 'fingerprints'; files: { path: string; size: number }[]; bounds: Bounds }
  | { kind: 'folder'; path: string }
  | { kind: 'names'; path: string }
  /** What an index would have of a folder; no longer than `ms`. */
  | { kind: 'count'; path: string; excludes: readonly string[]; shut: readonly string[]; ms: number }
  | { kind: 'space'; path: string }
  | { kind: 'reals'; paths: string[] }
  | { kind: 'links'; folders: string[]; bounds: Bounds; mark: string }
  | { kind: 'link-steps'; steps: LinkStep[]; bounds: Bounds; mark: string }
  | { kind: 'real'; path: string; bounds: Bounds }
  | { kind: 'readable'; path: string; bounds: Bounds }
  | { kind: 'stands'; path: string; bounds: Bounds }
  | { kind: 'open'; path: string; bounds: Bounds }
  | { kind: 'read'; file: number; position: number; length: number }
  | { kind: 'close'; file: number };

/** What came of a step: the inode of what stands there now, or why it could not be done. */
export type StepOutcome = { ok: true; inode: number | null } | { ok: false; reason: string };

/** A folder as it is: `undefined` where nothing stands there. */
export interface FolderSight {
  isFolder: boolean;
  inode: number;
  birth: number;
  device: number;
}

export interface DiskAnswers {
  sights: Sight[];
  fingerprints: (string | null)[];
  folder: FolderSight | null;
  names: string[];
  /** `isAll` where time sufficed. */
  count: { entries: number; isAll: boolean };
  /** Bytes. */
  space: { free: number; total: number };
  /** Where paths lead, all links followed; null where nowhere. */
  reals: (string | null)[];
  /** Null where a folder is not there or cannot be read. */
  links: (Listing | null)[];
  'link-steps': StepOutcome[];
  /** Where a path leads, links followed, within the places. */
  real: string;
  readable: null;
  /** Whether something stands at a path, no link on the way. */
  stands: boolean;
  /** A regular file, held open by the thread under a number. */
  open: { file: number; size: number };
  /** Fewer bytes than asked for where the file ends. */
  read: Uint8Array;
  close: null;
}

export type ToDisk = DiskTask & { ask: number };
