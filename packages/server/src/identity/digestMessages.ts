import type { Bounds } from '../disk/inside.js';
import type { Reply } from '../threads/questions.js';

/** A file, by its absolute path, whose digest is wanted. */
export interface ToDigests {
  ask: number;
  path: string;
  bounds: Bounds;
  /** Somebody waits: without rests. */
  isWaitedFor: boolean;
}

/** An answer, or a sign that the disk still gives something. */
export type FromDigests = Reply | { kind: 'going' };
