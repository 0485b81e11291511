import type { ClashChoice } from '@rellin/core/filing';
import type { Kind } from '@rellin/core/kinds';
import type { Bytes } from '@rellin/core/units';
import type { DeletedId } from './ids.js';
import type { FilingTarget } from './filing.js';
import type { OriginalRef } from './originals.js';

/** An original in a bin of the disk. */
export interface DeletedOriginal {
  id: DeletedId;
  /** The name it had; where that is not known the one it has in the bin. */
  name: string;
  /** Where it lay, absolute; null where that is not known. */
  path: string | null;
  /** ISO 8601; null where it is not known. */
  deletedAt: string | null;
  kind: Kind;
  isFolder: boolean;
  /** What it still takes on the disk. */
  takes: Bytes;
  /** Whether Rellin put it there; otherwise another program did. */
  byRellin: boolean;
}

/** A bin of the disk: that of the home folder, or of a volume. */
export interface DiskBin {
  name: string;
  /** Of one that is away it is not known what lies in it. */
  state: 'here' | 'away';
  takes: Bytes;
  /** Why it cannot be read, in words; empty where it can. */
  trouble: string;
  originals: DeletedOriginal[];
}

export interface DeleteRequest {
  originals: OriginalRef[];
  /** What lies on a volume without a bin is copied into the bin of the home folder, then removed. */
  acrossVolumes?: boolean;
}

/** Deleted; or nothing yet, since there is no bin where some of them lie. */
export type DeleteView =
  { state: 'done'; deleted: number; notes: string[] } | { state: 'no-bin'; originals: number; name: string };

export interface RestoreRequest {
  ids: DeletedId[];
  /** Another folder than that where each lay. */
  into?: FilingTarget;
  clash?: ClashChoice;
}

export interface ExpungeRequest {
  ids: DeletedId[];
}

export interface ExpungeView {
  deleted: number;
  /** Left, with the reason. */
  kept: { name: string; why: string }[];
}
