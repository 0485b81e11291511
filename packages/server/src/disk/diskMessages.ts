/** What is asked of a place's disk thread. All paths are absolute. */
import type { LinkStep, SeenEntry } from '@rellin/core/aliases';
import type { Sight } from '@rellin/core/identity';

export type DiskTask =
  | { kind: 'sights'; paths: string[] }
  | { kind: 'fingerprints'; files: { path: string; size: number }[] }
  | { kind: 'folder'; path: string }
  | { kind: 'names'; path: string }
  | { kind: 'space'; path: string }
  | { kind: 'reals'; paths: string[] }
  | { kind: 'links'; folders: string[] }
  | { kind: 'link-steps'; steps: LinkStep[] };

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
  /** Bytes. */
  space: { free: number; total: number };
  /** Where paths lead, all links followed; null where nowhere. */
  reals: (string | null)[];
  /** Null where a folder is not there or cannot be read. */
  links: (SeenEntry[] | null)[];
  'link-steps': StepOutcome[];
}

export type ToDisk = DiskTask & { ask: number };
