/** The names of the shapes that a list can have. */
import type { FolderShape, ListShape } from '@rellin/contract';

export const SHAPE_WORDS: Record<ListShape, string> = {
  table: 'Table',
  'small-tiles': 'Small tiles',
  'medium-tiles': 'Medium tiles',
  'large-tiles': 'Large tiles',
  compact: 'Compact',
  preview: 'With preview',
};

export const FOLDER_SHAPE_WORDS: Record<FolderShape, string> = {
  ...SHAPE_WORDS,
  'side-by-side': 'Folders side by side',
};
