/**
 * Paths relative to a place: segments of path text joined by "/", no leading or trailing slash; "" is the place itself.
 * Purely lexical: links are resolved where the disk is (the server), never here.
 */

/** Joins a relative folder path and a name. */
export function join(folder: string, name: string): string {
  return folder === '' ? name : `${folder}/${name}`;
}

/** The folder part of a path; "" for a direct child of the place and for the place itself. */
export function parentOf(path: string): string {
  const cut = path.lastIndexOf('/');
  return cut < 0 ? '' : path.slice(0, cut);
}

/** The last segment of a path. */
export function nameOf(path: string): string {
  return path.slice(path.lastIndexOf('/') + 1);
}

export function segmentsOf(path: string): string[] {
  return path === '' ? [] : path.split('/');
}

/** The letters after the last dot in lower case, without it; "" for none, for dot files and for a trailing dot. */
export function extensionOf(name: string): string {
  const dot = name.lastIndexOf('.');
  return dot <= 0 ? '' : name.slice(dot + 1).toLowerCase();
}

/** The longest that is taken for an extension: what follows a dot may belong to a name as well. */
const LONGEST_EXTENSION = 5;

/**
 * A name as people say it: without its extension. Folders and dot files keep all of theirs.
 *
 * @example nameWithoutExtension('tides.csv', false) // 'tides'
 */
export function nameWithoutExtension(name: string, isFolder: boolean): string {
  const { length } = extensionOf(name);
  return isFolder || length === 0 || length > LONGEST_EXTENSION ? name : name.slice(0, -length - 1);
}

/** Whether `path` is `folder` or lies below it. Both relative to the same place, or both absolute. */
export function isWithin(folder: string, path: string): boolean {
  if (folder === '' || folder === path) return true;
  return path.startsWith(folder.endsWith('/') ? folder : folder + '/');
}

/**
 * Resolves "." and ".." and repeated slashes in an absolute path without asking the disk.
 * `undefined` where the path is not absolute or holds a NUL.
 */
export function normalizeAbsolute(path: string): string | undefined {
  if (!path.startsWith('/') || path.includes('\0')) return undefined;
  const out: string[] = [];
  for (const segment of path.split('/')) {
    if (segment === '' || segment === '.') continue;
    if (segment === '..') out.pop();
    else out.push(segment);
  }
  return '/' + out.join('/');
}
