export type CollectionType = 'plain' | 'mirror' | 'working-set';

/** In which order members are shown; "own" is the person's. */
export type MemberOrder = 'own' | 'name' | 'kind' | 'size' | 'modified' | 'added' | 'opened' | 'rate' | 'reach';

/** An ordered gathering of shortcuts and collections. A member may be in many. */
export interface CollectionView {
  id: string;
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
  mirror: { shortcutId: string; placeId: number; originalId: string; state: string } | null;
  /** For a working set: when it empties itself; null where by hand only. */
  until: string | null;
  /** How many members the set had when it was emptied last; 0 where nothing can be brought back. */
  lastMembers: number;
  keys: string | null;
  /** Members not in the bin; for a mirror what its folder holds. */
  count: number;
  /** Collections it is a member of. */
  parents: string[];
  pinned: boolean;
  /** Grows with every change of the collection or its members. */
  revision: number;
  addedAt: string;
  removedAt: string | null;
}

export interface MemberView {
  id: string;
  type: 'shortcut' | 'collection' | 'search';
  /** The id of the shortcut, collection or saved search. */
  itemId: string;
  keepFirst: boolean;
  addedAt: string;
}

export interface MembersView {
  collectionId: string;
  revision: number;
  /** In own order. */
  members: MemberView[];
}
