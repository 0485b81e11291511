import type { PlaceId } from '@rellin/contract';
import type { Bounds } from '../disk/inside.js';

/** What the server and the thread that reads contents say to each other. */
export interface ReadPlace {
  placeId: PlaceId;
  root: string;
  bounds: Bounds;
  kinds: string[];
  /** Bytes; larger files are left out. */
  limit: number;
}

export type ToReader =
  | { kind: 'place'; place: ReadPlace }
  /** Only these originals, and those newer than any seen. */
  | { kind: 'changed'; place: ReadPlace; ids: number[] }
  | { kind: 'stop' };

export type FromReader =
  | { kind: 'begun'; placeId: PlaceId; total: number }
  /** The file that is being read: whoever waits too long for the next word ends the thread. */
  | { kind: 'reading'; placeId: PlaceId; id: number }
  | { kind: 'written'; placeId: PlaceId; ids: number[]; done: number }
  | { kind: 'done'; placeId: PlaceId }
  | { kind: 'trouble'; message: string };
