/** What passes between the server and its indexing thread. */
import type { OriginalId, PlaceId } from '@rellin/contract';
import type { Reply } from '../threads/questions.js';
import type { Written } from './differences.js';

export type ToIndexer =
  | { ask: number; kind: 'scan'; placeId: PlaceId; root: string; excludes: string[] }
  | { ask: number; kind: 'stop'; placeId: PlaceId }
  | { ask: number; kind: 'watch'; placeId: PlaceId; root: string; excludes: string[] }
  | { ask: number; kind: 'unwatch'; placeId: PlaceId }
  | { ask: number; kind: 'settle'; placeId: PlaceId; folderId?: OriginalId }
  | { ask: number; kind: 'poll'; placeId: PlaceId; folderIds: number[] }
  | { ask: number; kind: 'close' };

export type ScanAnswer =
  | { outcome: 'done'; entries: number; written: Written; ms: number }
  | { outcome: 'stopped' }
  | { outcome: 'failed'; reason: string };

export type FromIndexer =
  | Reply
  | { kind: 'progress'; placeId: PlaceId; done: number }
  | { kind: 'written'; placeId: PlaceId; written: Written }
  | { kind: 'root-gone'; placeId: PlaceId }
  | { kind: 'slowed'; placeId: PlaceId; paths: readonly string[] }
  | { kind: 'overflow'; placeId: PlaceId }
  | { kind: 'trouble'; placeId: PlaceId; message: string };
