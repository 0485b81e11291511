import type { EntryView } from './originals.js';

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
