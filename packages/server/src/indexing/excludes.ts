/** What a place leaves out, by gitignore patterns. Plain names, the common case, are one look-up. */
import { compilePatterns } from '@rellin/core/excludes';
import { whyShut } from '../disk/inside.js';

export const USUAL_EXCLUDES = [
  '.git/',
  'node_modules/',
  '.cache/',
  '.Trash-*/',
  'lost+found/',
  '*~',
  '*.part',
  '.rellin-*',
];

/** Below a home folder: caches, the bin, states of programs. */
export const HOME_EXCLUDES = [
  '/.cache/',
  '/.local/share/Trash/',
  '/.local/state/',
  '/.thumbnails/',
  '/.gvfs/',
  '/.xsession-errors*',
];

export interface Excludes {
  /** `relative` is the path below the place; the name is its last segment. */
  isExcluded(relative: string, name: string, isFolder: boolean): boolean;
  /**
   * Whether a folder is Rellin's own or the kernel's, by what it is: under whatever name, whatever the patterns say.
   */
  isShut(folder: { dev: number; ino: number }): boolean;
  /** Whether any pattern needs the whole path. */
  needsPath: boolean;
}

/** `shut` are folders that are never looked into, as `identities` has them. */
export function compileExcludes(patterns: readonly string[], shut: ReadonlySet<string> = new Set()): Excludes {
  const lines = patterns.map((p) => p.trim()).filter((p) => p !== '' && !p.startsWith('#'));
  const plain = (p: string) => /^[^*?[\]!\\/]+\/?$/.test(p);
  const negated = lines.some((p) => p.startsWith('!'));
  const names = new Set<string>();
  const folders = new Set<string>();
  const rest: string[] = [];
  for (const p of lines) {
    if (negated || !plain(p)) rest.push(p);
    else if (p.endsWith('/')) folders.add(p.slice(0, -1));
    else names.add(p);
  }
  // patterns of a name only, "*~" and ".Trash-*/", can be tested on the name; those with a slash inside need the path
  const needsPath = negated || rest.some((p) => p.slice(0, -1).includes('/'));
  const matcher = rest.length > 0 ? compilePatterns(rest) : undefined;
  return {
    needsPath,
    isShut: ({ dev, ino }) => whyShut(shut, dev, ino) !== undefined,
    isExcluded(relative, name, isFolder) {
      if (names.has(name) || (isFolder && folders.has(name))) return true;
      if (!matcher) return false;
      const tested = needsPath ? relative : name;
      return matcher.isExcluded(tested, isFolder);
    },
  };
}
