import type { ClashChoice } from '@rellin/core/filing';
import type { EntryType, Kind } from '@rellin/core/kinds';
import type { StayReason, Threshold } from '@rellin/core/sweep';
import type { Reason } from '@rellin/core/belongs';
import type { Bytes, EpochMs } from '@rellin/core/units';
import type { JournalLineId, OriginalId, PlaceId, SearchId, ShortcutId, SweepId, SweepRunId } from './ids.js';
import type { OriginalRef } from './originals.js';

/** Into the folder of a shortcut, into the bin of the disk, or left where it is. */
export type RuleTarget = 'folder' | 'bin' | 'leave';

export interface SweepRule {
  name: string;
  /** Whether it is met by a condition of the search language, or by being the same as something filed already. */
  when: 'query' | 'duplicate';
  /** In the language of docs/query.md; empty for `duplicate`. */
  query: string;
  to: RuleTarget;
  /** For `folder`. */
  shortcutId?: ShortcutId;
}

/** What is swept, and how. */
export interface SweepQuestion {
  folders: OriginalRef[];
  rules: SweepRule[];
  /** What changed so lately stays. */
  recentMinutes: number;
}

/** Where a thing is to go: a folder by its position in the plan's list, or one of these. */
export type SweepTo = number | 'bin' | 'leave' | 'stay';

/** Why it is to go there. */
export type SweepWhy =
  | { by: 'stay'; reason: StayReason }
  /** The rule at this position. */
  | { by: 'rule'; rule: number }
  | { by: 'belongs'; probability: number; reason: Reason }
  | { by: 'unknown' };

export interface SweepSuggestion {
  to: number;
  probability: number;
  reason: Reason;
}

/** A thing in a swept folder. */
export interface SweepThing {
  placeId: PlaceId;
  id: OriginalId;
  /** The swept folder that it lies in, by its position. */
  folder: number;
  name: string;
  type: EntryType;
  kind: Kind;
  size: Bytes;
  modified: EpochMs;
  opened: EpochMs | null;
  /** Where it came from, in words; empty where that is not known. */
  origin: string;
  /** The same content lies there already. */
  duplicateOf: { placeId: PlaceId; id: OriginalId; name: string; trail: string[] } | null;
  to: SweepTo;
  why: SweepWhy;
  /** Other folders where it may belong, the likeliest first. */
  suggestions: SweepSuggestion[];
}

/** A folder that things of a sweep may go to. */
export interface SweepFolder extends OriginalRef {
  name: string;
  trail: string[];
  /** Names of the sweep's things that are taken in it. */
  taken: string[];
}

/** What a sweep would do; nothing is done yet. */
export interface SweepPlan {
  /** When it was made: what changed since stays. */
  at: EpochMs;
  swept: { placeId: PlaceId; originalId: OriginalId; name: string; trail: string[] }[];
  folders: SweepFolder[];
  things: SweepThing[];
  /** Rules that cannot be followed now, with why. */
  troubles: { rule: number; message: string }[];
}

/** Things of one place. */
export interface SweepIds {
  placeId: PlaceId;
  ids: OriginalId[];
}

export interface SweepMove {
  to: 'folder' | 'bin';
  /** For `folder`. */
  placeId?: PlaceId;
  originalId?: OriginalId;
  things: SweepIds[];
}

export interface SweepRequest {
  /** The kept sweep that this is one of. */
  sweepId?: SweepId;
  folders: OriginalRef[];
  /** Of the plan. */
  at: EpochMs;
  moves: SweepMove[];
  /** What to do about names that are taken; both are kept by default. */
  clash?: ClashChoice;
  /** So long a link to each thing stays at its old spot; 0 for none. */
  linkDays: number;
  /** Save a search for what was swept, and pin it. */
  search: 'none' | 'saved' | 'pinned';
}

/** What a sweep left, with why, in words. */
export interface SweepLeft {
  name: string;
  why: string;
}

export interface SweepResult {
  runId: SweepRunId | null;
  moved: number;
  binned: number;
  /** Of those that were to go. */
  left: SweepLeft[];
  searchId: SearchId | null;
  notes: string[];
}

/** How many of a sweep went to one folder, or into the bin. */
export interface SweptTo {
  to: string;
  count: number;
  size: Bytes;
}

/** A folder of a kept sweep, with where it was when the sweep was saved: an index that was made anew has other ids. */
export interface SweptFolder extends OriginalRef {
  path: string;
}

/** What became of one sweep. */
export interface SweepRunView {
  id: SweepRunId;
  sweepId: SweepId | null;
  at: string;
  /** The folders that were swept. */
  name: string;
  by: 'person' | 'automatic';
  went: SweptTo[];
  left: number;
  /** When the links at the old spots go; null where there are none. */
  linksUntil: string | null;
  undoneAt: string | null;
  /** The journal's line, for its undo; null where it can no longer be undone. */
  journalId: JournalLineId | null;
}

export interface NewSweep extends SweepQuestion {
  name: string;
  threshold: Threshold;
  linkDays: number;
  /** It runs by its rules alone when enough has gathered. */
  byItself: boolean;
}

/** A kept sweep. */
export interface SweepView extends NewSweep {
  id: SweepId;
  /** Names of its folders; one that is not there any more has none. */
  folderNames: string[];
  backlog: SweepBacklog;
  /** Enough has gathered. */
  isDue: boolean;
  addedAt: string;
  /** When it ran last. */
  sweptAt: string | null;
}

/** What has gathered in the folders of a kept sweep. */
export interface SweepBacklog {
  things: number;
  size: Bytes;
  oldest: EpochMs | null;
  /** Came since it ran last, or since it was saved. */
  fresh: number;
  /** The kind that most of the fresh things are of. */
  freshKind: Kind | null;
}

export type SweepPatch = Partial<NewSweep>;
