/**
 * What an original is known by, and what was seen of it now. Times are epoch milliseconds; 0 means "not kept by the
 * file system". Inode numbers are unique within one file system only, so that all candidates must come from the place.
 */
import type { EntryType } from '../kinds/index.js';

export interface Identity {
  type: EntryType;
  /** Path relative to the place. */
  path: string;
  inode: number;
  birth: number;
  size: number;
  mtime: number;
  /** Digest of size, first and last 64 KiB; absent for folders and where it was never read. */
  fingerprint?: string;
  /** SHA-256 of the whole; absent where it was never read. */
  digest?: string;
}

/** What the disk said about one path. */
export type Sight =
  { seen: 'entry'; identity: Identity } | { seen: 'nothing' } | { seen: 'denied' } | { seen: 'failed'; reason: string };

/** Something the index knows that might be the original. */
export interface Candidate {
  identity: Identity;
  /** When the index first saw it at this path; epoch milliseconds. */
  firstSeen: number;
  placeId: number;
  originalId: number;
  /** Another shortcut is known by it. */
  isAnothers?: boolean;
}

export interface Observation {
  /** Whether the place is connected. */
  place: 'here' | 'away';
  /** What stands at the recorded path. */
  atPath: Sight;
  /** Entries of the same place with the recorded inode number, other paths only. */
  sameInode: Candidate[];
  /** Entries anywhere with the same size whose digest is known. */
  sameSize: Candidate[];
  /**
   * Where the index had the entry that now stands at the recorded path before, the latest first; empty for one that is
   * new.
   */
  cameFrom?: readonly string[];
  /** Another shortcut is known by what stands at the recorded path: it is that one's, not ours saved over. */
  isAnothers?: boolean;
  /**
   * Another original that the catalogue points to has the same content: by that alone nobody can tell which is which.
   */
  hasTwin?: boolean;
  /** What has its recorded name in the folder that it lay in, where that folder moved; not one known from elsewhere. */
  namesake?: Candidate;
  /** When it was known to stand at its recorded path: what was born before stood elsewhere then. */
  stoodSince?: number;
  /** When the original was last seen at its path; what appeared long before cannot be where it went. */
  lastSeen: number;
}

export type Evidence =
  | 'same-path-same-inode'
  | 'same-path-new-content'
  | 'swap'
  | 'same-inode-and-birth'
  | 'same-inode-and-fingerprint'
  | 'same-inode-and-name'
  | 'same-name-in-moved-folder'
  | 'same-digest';

export type UnsureReason = 'several-alike' | 'replaced-by-other-type' | 'named-like-a-backup' | 'anothers-at-its-path';

export type Decision =
  | { state: 'ready'; identity: Identity; evidence: Evidence }
  | { state: 'saved-over'; identity: Identity; evidence: Evidence }
  | { state: 'followed'; to: Candidate; evidence: Evidence }
  | { state: 'away' }
  | { state: 'no-access' }
  | { state: 'unsure'; candidates: Candidate[]; reason: UnsureReason }
  | { state: 'lost' }
  | { state: 'unchanged'; reason: string };
