import type { Reason } from '@rellin/core/belongs';
import type { OriginalRef } from './originals.js';

/** A folder where something may belong. */
export interface BelongsView extends OriginalRef {
  name: string;
  /** From its place down to the folder above it. */
  trail: string[];
  /** From 0 to 1: of suggestions with this figure such a share is right. */
  probability: number;
  reason: Reason;
}

export interface BelongsRequest {
  originals: OriginalRef[];
}
