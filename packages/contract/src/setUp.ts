import type { Kind } from '@rellin/core/kinds';
import type { UsedSource } from '@rellin/core/setUp';
import type { BoardId, CollectionId, PlaceId, ProgramId } from './ids.js';

/** Why a folder is offered: the desktop's standard folders, the home folder, what is mounted, or what is used in it. */
export type FolderOrigin = 'standard' | 'home' | 'drive' | 'share' | 'used';

/** A folder that Rellin could look into. */
export interface OfferedFolder {
  /** Absolute path text. */
  path: string;
  name: string;
  origin: FolderOrigin;
  /** Whether it is proposed. */
  proposed: boolean;
  /** The place that it is or lies in, where it is looked into already. */
  placeId: PlaceId | null;
}

/** How much lies in a folder, counted for a moment. */
export interface FolderCount {
  entries: number;
  /** False where there are more than were counted. */
  isAll: boolean;
  /** Why it could not be counted; null where it could. */
  trouble: string | null;
}

/** Something that the person seems to use already. */
export interface UsedThing {
  /** What it is asked for by. */
  key: string;
  name: string;
  kind: Kind;
  /** Absolute path text, web address, or empty for a program. */
  location: string;
  programId: ProgramId | null;
  /** The offered folder that has to be looked into for it; null where none has to be. */
  folder: string | null;
  sources: UsedSource[];
  /** Openings a week, by estimate. */
  perWeek: number;
  proposed: boolean;
}

/** What was found on this machine to begin with. */
export interface SetUpView {
  /** The home folder, which paths are shown from. */
  home: string;
  folders: OfferedFolder[];
  things: UsedThing[];
  /** What could not be read, in words. */
  trouble: string[];
}

/** Pins in strict order and lists, or a board laid by task. */
export type WayOfWorking = 'rows' | 'board';

/** A web address that the person found in a file of bookmarks. */
export interface ChosenAddress {
  url: string;
  name: string;
}

export interface SetUpRequest {
  /** Absolute paths. */
  folders: string[];
  /** Keys of things that were offered. */
  things: string[];
  addresses?: ChosenAddress[];
  way: WayOfWorking;
}

/** What was not made, and why. */
export interface NotMade {
  name: string;
  reason: string;
}

export interface SetUpDone {
  places: number;
  shortcuts: number;
  pins: number;
  keys: number;
  /** The folders to move or copy to. */
  collectionId: CollectionId | null;
  boardId: BoardId | null;
  notMade: NotMade[];
}
