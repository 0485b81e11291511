import type { Kind } from '@rellin/core/kinds';
import type { Bytes, EpochMs } from '@rellin/core/units';
import type { OriginalId, PlaceId } from './ids.js';
import type { OfferedFolder } from './setUp.js';

/** What can be chosen in a folder. Outside the places only folders, and of them only names. */
export interface ChooserEntry {
  /** Absolute path text. */
  path: string;
  name: string;
  type: 'folder' | 'file';
  kind: Kind;
  size: Bytes | null;
  modified: EpochMs | null;
  /** Null outside the places. */
  placeId: PlaceId | null;
  originalId: OriginalId | null;
}

export interface ChooserView {
  path: string;
  /** From the top of the file system down, the folder itself last. */
  trail: { name: string; path: string }[];
  entries: ChooserEntry[];
  /** Further entries, not listed. */
  more: number;
  /** Entries left out since their names begin with a dot. */
  hidden: number;
  /** The place it lies in; null outside the places, where files are not shown until the folder is added. */
  placeId: PlaceId | null;
  /** The folder itself, in a place; null outside. */
  folderId: OriginalId | null;
  /** What stands against listing it, in words; null where nothing does. */
  trouble: string | null;
}

/** Where choosing can begin. */
export interface ChooserStarts {
  home: string;
  folders: OfferedFolder[];
  /** Folders of what was opened last, the latest first. */
  recent: string[];
}

export interface ChooserQuery {
  /** Absolute, from home ("~/…"), or a file address. */
  path: string;
  hidden?: boolean;
}
