/** What is asked of a place's disk thread. All paths are absolute. */
import type { Sight } from '@rellin/core/identity';

export type DiskTask =
  | { kind: 'sights'; paths: string[] }
  | { kind: 'fingerprints'; files: { path: string; size: number }[] }
  | { kind: 'folder'; path: string }
  | { kind: 'names'; path: string }
  | { kind: 'space'; path: string };

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
  /** Bytes. */
  space: { free: number; total: number };
}

export type ToDisk = DiskTask & { ask: number };
