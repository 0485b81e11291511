/** A quick count of what lies below a folder: names and their types alone, no file is looked at. */
import { compilePatterns } from '@rellin/core/excludes';
import { fromBytes } from '@rellin/core/paths';
import { absolute, diskPath } from './paths.js';
import { readdirSync } from './port.js';

/** The clock is looked at after so many folders. */
const OFTEN = 16;

/**
 * Entries that an index would have, hidden ones included; folders nearest to the top first, so that a count that ends
 * early has seen of everything. Links are not followed; folders below that cannot be listed count as empty.
 *
 * @param path a folder; throws an error with a code where it cannot be listed
 * @param shut absolute paths of folders that are not looked into
 */
export function countBelow(
  path: string,
  excludes: readonly string[],
  shut: readonly string[],
  ms: number,
): { entries: number; isAll: boolean } {
  const closed = new Set(shut);
  const patterns = compilePatterns([...excludes]);
  const end = performance.now() + ms;
  const folders = [''];
  let entries = 0;
  for (let i = 0; i < folders.length; i++) {
    if (i % OFTEN === 0 && performance.now() > end) return { entries, isAll: false };
    const relative = folders[i]!;
    let found;
    try {
      found = readdirSync(diskPath(absolute(path, relative)), { withFileTypes: true, encoding: 'buffer' });
    } catch (error) {
      if (i === 0) throw error;
      continue;
    }
    for (const entry of found) {
      const name = fromBytes(entry.name);
      const below = relative === '' ? name : `${relative}/${name}`;
      const isFolder = entry.isDirectory();
      if (patterns.isExcluded(below, isFolder)) continue;
      entries++;
      if (isFolder && !closed.has(absolute(path, below))) folders.push(below);
    }
  }
  return { entries, isAll: true };
}
