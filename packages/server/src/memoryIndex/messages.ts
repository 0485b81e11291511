/** What the server and its thread with the memory index say to each other. */
import type { PlaceId, SearchId } from '@rellin/contract';
import type { ShortestQuery, FindItem } from '@rellin/core/match';
import type { AnswerOrder, RowCount } from '@rellin/core/memoryIndex';
import type { QueryNode } from '@rellin/core/query';
import type { Reply } from '../threads/questions.js';

/** A shortcut or collection as find knows it. */
export interface CatalogueItem extends FindItem {
  /** The original a shortcut points to. */
  original?: { placeId: PlaceId; id: number };
}

export interface FoundAnswer {
  id: string;
  group: FindItem['group'];
}

export interface AskFor {
  tree: QueryNode;
  /** What is no answer, whatever is asked. */
  except: QueryNode | null;
  places: number[] | null;
  order: AnswerOrder;
  descending: boolean;
  offset: number;
  limit: number;
  /** Whether to count what each row of the builder does. */
  rows: boolean;
}

export interface Asked {
  count: number;
  answers: { placeId: PlaceId; id: number }[];
  rows: RowCount[] | null;
}

export interface WatchedSearch {
  id: string;
  tree: QueryNode;
  places: number[] | null;
  /** When its answer was last written down, epoch milliseconds; null for one that is new. */
  askedAt: number | null;
}

/** An original that came to a search's answer or went from it, as it was called then. */
export interface MovedEntry {
  placeId: PlaceId;
  id: number;
  name: string;
  trail: string[];
}

export interface MovedAnswer {
  searchId: SearchId;
  came: MovedEntry[];
  went: MovedEntry[];
}

/** What the index knows of the ways to an original. */
export interface WaysTo {
  /** How many entries there are on each level from the place down. */
  levels: number[];
  /** Saved searches that answer with it. */
  searches: string[];
}

export type ToIndex =
  | { kind: 'find'; ask: number; query: string; limit: number; within: QueryNode | null }
  | { kind: 'ask'; ask: number; for: AskFor }
  /** Of each original; null where its place is not loaded, or it is not there. */
  | { kind: 'ways'; ask: number; to: { placeId: PlaceId; id: number }[] }
  /** What one would type for each of these if it were in the catalogue. */
  | { kind: 'would-be'; ask: number; items: CatalogueItem[] }
  | { kind: 'settled'; ask: number }
  | { kind: 'catalogue'; items: CatalogueItem[]; gone: string[] | 'others' }
  | { kind: 'place'; placeId: PlaceId; name: string }
  | { kind: 'forget-place'; placeId: PlaceId }
  | { kind: 'changed'; placeId: PlaceId; touched: number[]; folders: boolean }
  | { kind: 'facts'; away: number[] }
  | { kind: 'content'; placeId: PlaceId; ids: number[] }
  | { kind: 'search'; search: WatchedSearch }
  | { kind: 'forget-search'; id: string };

export type FromIndex =
  | Reply
  | { kind: 'shortest'; found: [string, ShortestQuery | undefined][]; left: number }
  | { kind: 'counts'; counts: [string, number][] }
  | { kind: 'moved'; moved: MovedAnswer[]; at: number }
  | { kind: 'loaded'; placeId: PlaceId }
  | { kind: 'trouble'; message: string };
