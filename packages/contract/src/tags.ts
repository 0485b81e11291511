import type { EntryView, OriginalRef } from './originals.js';

export interface TagView {
  id: string;
  name: string;
  /** A name of the palette. */
  colour: string;
  /** Shortcuts (not in the bin) and originals that bear it. */
  count: number;
  pinned: boolean;
}

/** All that bears a tag, wherever it lies. */
export interface TaggedView {
  shortcutIds: string[];
  searchIds: string[];
  originals: (EntryView & { trail: string[] })[];
}

/** What bears a tag. */
export interface Bearers {
  shortcutIds?: string[];
  searchIds?: string[];
  originals?: OriginalRef[];
}

export interface TagPatch {
  name?: string;
  colour?: string;
}

export interface NewTag extends Bearers {
  name: string;
  colour?: string;
}
