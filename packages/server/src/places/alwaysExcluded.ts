/** What is left out of a place whatever its own patterns say. */
import { isWithin } from '@rellin/core/paths';
import { HOME_EXCLUDES, USUAL_EXCLUDES } from '../indexing/excludes.js';

/**
 * Where a place holds the home folder, also what programs keep for themselves there (XDG Base Directory Specification;
 * Trash 1.0).
 */
export function alwaysExcluded(root: string, home: string): string[] {
  const within = home === root ? '' : isWithin(root, home) ? home.slice(root === '/' ? 0 : root.length) : undefined;
  return [
    ...USUAL_EXCLUDES,
    ...(within === undefined ? [] : HOME_EXCLUDES.map((pattern) => `${literally(within)}${pattern}`)),
  ];
}

/** A path as a pattern that stands for it alone. */
const literally = (path: string) => path.replace(/[\\*?[\]!#]/g, '\\$&');
