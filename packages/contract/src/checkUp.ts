import type { OriginalId, PlaceId, ShortcutId } from './ids.js';
import type { ReviewKind } from '@rellin/core/review';

/** Something that may be the original of a shortcut that was lost. */
export interface CandidateView {
  placeId: PlaceId;
  originalId: OriginalId;
  placeName: string;
  /** Below its place. */
  path: string;
  /** Field by field, in words. */
  evidence: string[];
  /** 0 to 1: how likely it is, given the others and that it may be none of them. */
  sure: number;
}

/** A shortcut that needs a person: lost, or one of several. */
export interface NeedView {
  shortcutId: ShortcutId;
  placeName: string;
  /** Where it was, below its place. */
  was: string;
  candidates: CandidateView[];
}

/** A folder that seems to have moved, and what that explains. */
export interface FolderMoveView {
  id: string;
  from: { placeName: string; path: string };
  to: { placeName: string; path: string };
  explains: { shortcutId: ShortcutId; placeId: PlaceId; originalId: OriginalId; path: string; sure: number }[];
  /** How many lost shortcuts lay in the folder. */
  of: number;
}

export interface CheckUpView {
  /** When every shortcut was looked at last; null before the first time. */
  checkedAt: string | null;
  nextAt: string;
  /** How many originals were compared with what was lost. */
  among: number;
  folderMoves: FolderMoveView[];
  /** What no folder's move explains. */
  needs: NeedView[];
  /** Ids of lost and unsure shortcuts that the person leaves alone. */
  leftAlone: string[];
}

/** Something the review found worth a look. */
export interface ReviewGroupView {
  id: string;
  kind: ReviewKind;
  /** Shortcuts; of duplicates the one to keep first. */
  items: string[];
  collections: { id: string; name: string; members: number }[];
}

/** A shortcut and what it is to point to. */
export interface PointRequest {
  shortcutId: ShortcutId;
  placeId: PlaceId;
  originalId: OriginalId;
}

/** A folder that moved, in words for the journal. */
export interface MovedFolder {
  from: string;
  to: string;
}

export interface PointsRequest {
  points: PointRequest[];
  moved?: MovedFolder;
}

export interface LeaveAlone {
  shortcutIds: ShortcutId[];
  leftAlone: boolean;
}

/** A finding of the review that is not to be shown again. */
export interface Silence {
  id: string;
}
