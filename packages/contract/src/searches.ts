import type { CollectionId, OriginalId, PlaceId, SearchId, TagId } from './ids.js';
import type { ListShape } from './acts.js';
import type { EntryView } from './originals.js';

export type SearchOrder = 'name' | 'kind' | 'size' | 'modified' | 'created' | 'opened';

/** How an answer is laid out: as any list of things, or grouped. "folders" are columns side by side, one a folder. */
export type SearchShape = ListShape | 'folders' | 'by-kind' | 'by-month' | 'by-place';

/** A named question whose answer keeps itself up to date. */
export interface SearchView {
  id: SearchId;
  name: string;
  description: string;
  /** In the language of docs/query.md. */
  query: string;
  /** Looks only into these places; null for all. */
  places: number[] | null;
  showAs: SearchShape;
  sortBy: SearchOrder;
  descending: boolean;
  /** At most so many are shown; all are counted. */
  most: number;
  colour: string;
  keys: string | null;
  /** Its count of what is new is not shown. */
  muted: boolean;
  tags: TagId[];
  /** Ids of the collections it is a member of. */
  collections: CollectionId[];
  pinned: boolean;
  count: number;
  /** Since last looked, and still so. */
  came: number;
  went: number;
  /** Came since the beginning of today. */
  today: number;
  lookedAt: string;
  addedAt: string;
  removedAt: string | null;
}

/** One original of an answer. */
export interface AnswerView extends EntryView {
  created: number;
  /** Absolute path text. */
  path: string;
  /** Folders from the place down. */
  trail: string[];
  /** Where its content holds what was asked, matched words between « and »; null where content was not asked. */
  snippet: string | null;
}

export interface QueryTroubleView {
  at: number;
  length: number;
  message: string;
  suggestion?: string;
}

export interface AnswersView {
  /** All that fulfil the query, shown or not. */
  count: number;
  answers: AnswerView[];
  /** For each row of the builder, depth first: how many it lets through, and how many it alone shuts out. */
  rows: { through: number; alone: number }[] | null;
  /** Set where the text cannot be read; nothing is answered then. */
  trouble: QueryTroubleView | null;
}

export interface SearchChange {
  at: string;
  placeId: PlaceId;
  originalId: OriginalId;
  name: string;
  trail: string[];
}

/** How many answered at the end of a day (`2026-11-30`). */
export interface SearchSize {
  day: string;
  count: number;
}

/** What became of a saved search's answer. */
export interface SearchChangesView {
  lookedAt: string;
  /** Since last looked, latest first; what came and went again is in neither. */
  came: SearchChange[];
  went: SearchChange[];
  today: SearchChange[];
  /** Its size at the end of each day, oldest first. */
  sizes: SearchSize[];
}

export interface SearchPatch {
  name?: string;
  description?: string;
  query?: string;
  /** Null for all. */
  places?: number[] | null;
  showAs?: SearchShape;
  sortBy?: SearchOrder;
  descending?: boolean;
  most?: number;
  colour?: string;
  keys?: string | null;
  muted?: boolean;
}

export interface NewSearch extends SearchPatch {
  tagIds?: TagId[];
  collectionId?: CollectionId;
  /** Pinned there. */
  slot?: number;
}

export interface SearchQuestion {
  query: string;
  places?: number[] | null;
  sortBy?: SearchOrder;
  descending?: boolean;
  offset?: number;
  limit?: number;
  /** Count what each row of the builder does. */
  rows?: boolean;
}

export interface AnswersQuery {
  offset?: number;
  limit?: number;
}
