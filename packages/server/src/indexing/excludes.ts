/** What a place leaves out, by gitignore patterns. Plain names, the common case, are one look-up. */
import { compilePatterns } from '@rellin/core/excludes';

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

export interface Excludes {
  /** `relative` is the path below the place; the name is its last segment. */
  isExcluded(relative: string, name: string, isFolder: boolean): boolean;
  /** Whether a folder is Rellin's own, by what it is: under whatever name, whatever the patterns say. */
  isOwn(folder: { dev: number; ino: number }): boolean;
  /** Whether any pattern needs the whole path. */
  needsPath: boolean;
}

/** `own` are Rellin's own folders, as “device:inode”. */
export function compileExcludes(patterns: readonly string[], own: ReadonlySet<string> = new Set()): Excludes {
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
    isOwn: ({ dev, ino }) => own.size > 0 && own.has(`${dev}:${ino}`),
    isExcluded(relative, name, isFolder) {
      if (names.has(name) || (isFolder && folders.has(name))) return true;
      if (!matcher) return false;
      const tested = needsPath ? relative : name;
      return matcher.isExcluded(tested, isFolder);
    },
  };
}
