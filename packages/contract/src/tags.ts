import type { SearchId, ShortcutId, TagId } from './ids.js';
import type { EntryView, OriginalRef } from './originals.js';

export interface TagView {
  id: TagId;
  name: string;
  /** A name of the palette. */
  colour: string;
  /** Shortcuts (not in the bin) and originals that bear it. */
  count: number;
  pinned: boolean;
}

/** All that bears a tag, wherever it lies. */
export interface TaggedView {
  shortcutIds: ShortcutId[];
  searchIds: SearchId[];
  originals: (EntryView & { trail: string[] })[];
}

/** What bears a tag. */
export interface Bearers {
  shortcutIds?: ShortcutId[];
  searchIds?: SearchId[];
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
