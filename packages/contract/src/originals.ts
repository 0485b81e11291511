import type { Bytes, EpochMs } from '@rellin/core/units';
import type { OriginalId, PlaceId, ProgramId, ShortcutId, TagId } from './ids.js';
import type { Kind, EntryType } from '@rellin/core/kinds';
import type { RouteView } from './reach.js';

/** One entry of a folder listing. */
export interface EntryView {
  id: OriginalId;
  placeId: PlaceId;
  name: string;
  type: EntryType;
  kind: Kind;
  mime: string;
  size: Bytes;
  modified: EpochMs;
  /** How many entries a folder holds; null for anything else. */
  children: number | null;
  /** The shortcut to it, if there is one. */
  shortcut: { id: ShortcutId; name: string; state: string } | null;
  /** Ids of the tags on the original itself, by name; its shortcut has its own. */
  tags: TagId[];
}

export interface TrailStep {
  id: OriginalId;
  name: string;
  /** How many entries lie on this step's level, itself included; for the place, how many places. */
  among: number;
}

export interface FolderView {
  placeId: PlaceId;
  folderId: OriginalId;
  path: string;
  trail: TrailStep[];
  total: number;
  offset: number;
  /** Where the entry asked for stands in the whole order; null where it is not in this folder. */
  atIndex: number | null;
  entries: EntryView[];
  /** Entries that are left out since their names begin with a dot. */
  hidden: number;
  /** Set where the folder could not be read just now. */
  trouble: string | null;
}

export interface OriginalView extends EntryView {
  /** Absolute path text. */
  path: string;
  trail: TrailStep[];
  folderRoute: RouteView;
  /** What the viewer can do with it; null where it has no way to show it. */
  preview: PreviewKind | null;
}

export type PreviewKind = 'text' | 'markdown' | 'table' | 'picture' | 'pdf' | 'sound' | 'video' | 'folder';

export interface LocatedView {
  placeId: PlaceId;
  originalId: OriginalId;
  type: EntryType;
  /** The folder to show: the original itself if it is a folder, its parent otherwise. */
  folderId: OriginalId;
}

export interface StandardFolderView {
  name: string;
  placeId: PlaceId;
  originalId: OriginalId;
}

/** A program that may open a MIME type. */
export interface SuitedProgram {
  id: ProgramId;
  name: string;
  comment: string;
  /** It says so itself, or the system's lists do. */
  suits: boolean;
  /** The one the system starts. */
  isDefault: boolean;
}

export interface ProgramView {
  id: ProgramId;
  name: string;
  genericName: string;
  comment: string;
  categories: string[];
  /** Whether files can be given to it to open. */
  takesFiles: boolean;
  shortcut: { id: ShortcutId; name: string; state: string } | null;
}

/** An original, by its row in the index of its place. */
export interface OriginalRef {
  placeId: PlaceId;
  originalId: OriginalId;
}

/** What a list is read from. */
export interface FromQuery {
  from?: 'catalogue' | 'bin';
}

export type EntrySort = 'name' | 'kind' | 'size' | 'modified';

export interface FolderQuery {
  sort?: EntrySort;
  order?: 'up' | 'down';
  offset?: number;
  limit?: number;
  /** An entry whose position is asked for. */
  at?: number;
}

/** A path, file address or web address as typed or pasted. */
export interface TypedPath {
  path: string;
}

export interface SuitedQuery {
  mime: string;
}

export interface ProgramForKind {
  kind: Kind;
  /** Null leaves it to the system. */
  programId: ProgramId | null;
}

export interface TellSystem {
  kind: Kind;
  programId: ProgramId;
  mime?: string;
}
