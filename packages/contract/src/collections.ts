import type { CollectionId, MemberId, OriginalId, PlaceId, SearchId, ShortcutId } from './ids.js';
import type { OriginalRef } from './originals.js';
import type { TargetRef } from './shortcuts.js';

export type CollectionType = 'plain' | 'mirror' | 'working-set';

/** In which order members are shown; "own" is the person's. */
export type MemberOrder = 'own' | 'name' | 'kind' | 'size' | 'modified' | 'added' | 'opened' | 'rate' | 'reach';

/** An ordered gathering of shortcuts and collections. A member may be in many. */
export interface CollectionView {
  id: CollectionId;
  name: string;
  description: string;
  type: CollectionType;
  /** A colour of the tags' palette, or empty. */
  colour: string;
  /** As `parsePicture` of core reads it; empty where none was chosen. */
  picture: string;
  sortBy: MemberOrder;
  showAs: 'auto' | 'list' | 'grid';
  /** For a mirror: the shortcut to the folder it shows, and that folder. */
  mirror: { shortcutId: ShortcutId; placeId: PlaceId; originalId: OriginalId; state: string } | null;
  /** For a working set: when it empties itself; null where by hand only. */
  until: string | null;
  /** How many members the set had when it was emptied last; 0 where nothing can be brought back. */
  lastMembers: number;
  keys: string | null;
  /** Members not in the bin; for a mirror what its folder holds. */
  count: number;
  /** Collections it is a member of. */
  parents: CollectionId[];
  pinned: boolean;
  /** Grows with every change of the collection or its members. */
  revision: number;
  addedAt: string;
  removedAt: string | null;
}

export interface MemberView {
  id: MemberId;
  type: 'shortcut' | 'collection' | 'search';
  /** The id of the shortcut, collection or saved search. */
  itemId: string;
  keepFirst: boolean;
  addedAt: string;
}

export interface MembersView {
  collectionId: CollectionId;
  revision: number;
  /** In own order. */
  members: MemberView[];
}

/** A folder of which shortcuts are made to what lies in it, not deeper. */
export interface FolderSource extends OriginalRef {
  only?: 'all' | 'files' | 'folders' | 'programs';
}

/** What is put into a collection; targets without a shortcut get one. */
export interface Additions {
  shortcutIds?: ShortcutId[];
  collectionIds?: CollectionId[];
  searchIds?: SearchId[];
  targets?: TargetRef[];
  fromFolder?: FolderSource;
}

export interface NewMembers extends Additions {
  /** The member that what is added stands before; the end by default. */
  before?: string;
}

export interface NewCollection extends Additions {
  name: string;
  type?: CollectionType;
  description?: string;
  colour?: string;
  picture?: string;
  until?: string | null;
  parentId?: CollectionId;
  /** For a mirror: the folder it shows. */
  folder?: OriginalRef;
}

export interface CollectionChange {
  name?: string;
  description?: string;
  colour?: string;
  picture?: string;
  sortBy?: MemberOrder;
  showAs?: CollectionView['showAs'];
  until?: string | null;
  keys?: string | null;
}

export interface CollectionPatch extends CollectionChange {
  /** The state the page has seen; a later one refuses the change. */
  revision?: number;
}

export interface MemberIds {
  memberIds: MemberId[];
}

export interface MemberMove extends MemberIds {
  /** The member they stand before; null for the end. */
  before: string | null;
  revision?: number;
}

export interface MemberKeep extends MemberIds {
  keepFirst: boolean;
}
