import { fold } from '@rellin/core/match';

/** A row of the table `original` as the indexing thread writes it. */
export interface OriginalRow {
  id: number;
  parentId: number;
  name: string;
  type: string;
  kind: string;
  mime: string;
  size: number;
  mtime: number;
  birth: number;
  dev: number;
  inode: number;
}

const PLAIN = /^[\x00-\x7f]*$/;

/** What the column `folded` holds: null where lower(name) is the folded name. */
export function foldedOf(name: string): string | null {
  return PLAIN.test(name) ? null : fold(name);
}

/** No path below a place holds two strokes in a row. */
const BETWEEN = '//';

/** What the column `came_from` holds: where an original was before, the latest first. */
export const writeHistory = (paths: readonly string[] = []): string | null =>
  paths.length === 0 ? null : paths.join(BETWEEN);
export const readHistory = (column: string | null): string[] => (column === null ? [] : column.split(BETWEEN));
