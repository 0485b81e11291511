/** What a link file is called, and where it says its original is. */
import { extensionOf, segmentsOf } from '../paths/index.js';

/** A symbolic link, a desktop entry, or the folder that links lie in. */
export type LinkForm = 'link' | 'entry' | 'folder';

/** NAME_MAX of POSIX systems, less what " (99)" and an order's number may take. */
const LONGEST_BYTES = 240;
const FORBIDDEN = /[/\u0000-\u001f\u007f]/g;

const bytesOf = (text: string) => new TextEncoder().encode(text).length;

/**
 * A file name for a shortcut: no stroke or control character, not hidden, short enough; with the original's extension,
 * by which dialogs choose what they list, and ".desktop" for a desktop entry.
 */
export function linkName(name: string, form: LinkForm, originalName = ''): string {
  const plain = name.replace(FORBIDDEN, ' ').trim().replace(/^\.+/, '').trim() || 'link';
  const extension = form === 'link' ? extensionOf(originalName) : form === 'entry' ? 'desktop' : '';
  const ending =
    extension === '' || extensionOf(plain).toLowerCase() === extension.toLowerCase() ? '' : `.${extension}`;
  let stem = plain;
  while (bytesOf(stem + ending) > LONGEST_BYTES) stem = [...stem].slice(0, -1).join('');
  return stem.trimEnd() + ending;
}

/**
 * What a symbolic link in `folder` holds to lead to `path`, both absolute. Within one place it is relative, so that it
 * leads there also when the place appears under another path.
 */
export function linkTarget(folder: string, path: string, placeRoot: string | undefined): string {
  if (placeRoot === undefined) return path;
  const from = segmentsOf(folder);
  const to = segmentsOf(path);
  let same = 0;
  while (same < from.length && same < to.length && from[same] === to[same]) same++;
  const up = from.slice(same).map(() => '..');
  return [...up, ...to.slice(same)].join('/') || '.';
}
