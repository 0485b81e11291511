/** What passes between the server and its indexing thread. */
import type { Reply } from '../threads/questions.js';
import type { Written } from './differences.js';

export type ToIndexer =
  | { ask: number; kind: 'scan'; placeId: number; root: string; excludes: string[] }
  | { ask: number; kind: 'stop'; placeId: number }
  | { ask: number; kind: 'watch'; placeId: number; root: string; excludes: string[] }
  | { ask: number; kind: 'unwatch'; placeId: number }
  | { ask: number; kind: 'settle'; placeId: number; folderId?: number }
  | { ask: number; kind: 'poll'; placeId: number; folderIds: number[] }
  | { ask: number; kind: 'close' };

export type ScanAnswer =
  | { outcome: 'done'; entries: number; written: Written; ms: number }
  | { outcome: 'stopped' }
  | { outcome: 'failed'; reason: string };

export type FromIndexer =
  | Reply
  | { kind: 'progress'; placeId: number; done: number }
  | { kind: 'written'; placeId: number; written: Written }
  | { kind: 'root-gone'; placeId: number }
  | { kind: 'slowed'; placeId: number; paths: readonly string[] }
  | { kind: 'overflow'; placeId: number }
  | { kind: 'trouble'; placeId: number; message: string };
