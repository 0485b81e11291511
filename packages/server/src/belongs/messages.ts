/** What the server and its thread that knows where files belong say to each other. */
import type { PlaceId } from '@rellin/contract';
import type { FileFacts, Suggestion } from '@rellin/core/belongs';
import type { Reply } from '../threads/questions.js';

/** A folder in messages and in the model: place and original. */
export type FolderKey = `${number}/${number}`;

export type ToBelongs =
  /** `unsorted`: folders that the files lie in and that are no answer. */
  | { kind: 'ask'; ask: number; files: FileFacts[]; unsorted: FolderKey[] }
  /** `folders`: folders moved or vanished, and all below them. */
  | { kind: 'changed'; placeId: PlaceId; touched: number[]; folders: boolean };

export type Suggested = Suggestion<FolderKey>[][];
export type FromBelongs = Reply;
