/**
 * Traces of use that other programs leave in files of their own: read as they are, tolerantly, and never written.
 */
import { parseKeyFile, unescapeValue } from '@rellin/core/desktop';
import { parseFileUri } from '@rellin/core/paths';

/** What a file on the desktop folder leads to. */
export type LinkFile =
  | { to: 'path'; path: string }
  | { to: 'web'; url: string; name: string }
  /** An application: the file's id, and what it starts, by which the installed program is known again. */
  | { to: 'program'; id: string; exec: string };

/** Longer lists of folders than this are not anybody's own. */
const MOST_BOOKMARKS = 500;

/**
 * Folders bookmarked in file dialogs (`gtk-3.0/bookmarks`, which many programs share): a file address a line, with a
 * name behind a blank that is not needed here. Lines that are none are passed over.
 */
export function readFolderBookmarks(text: string): string[] {
  const paths = text.split('\n').flatMap((line) => {
    const uri = parseFileUri(line.trim().split(' ')[0] ?? '');
    return uri.ok ? [uri.path] : [];
  });
  return [...new Set(paths)].slice(0, MOST_BOOKMARKS);
}

/**
 * A desktop entry (Desktop Entry Specification 1.5: `Type=Application` or `Type=Link`) or an internet shortcut
 * (`[InternetShortcut]`, `URL=`; common practice). Undefined where it is none that leads somewhere.
 */
export function readLinkFile(name: string, text: string): LinkFile | undefined {
  const { groups } = parseKeyFile(text.replace(/^\uFEFF/, '').replaceAll('\r\n', '\n'));
  const internet = groups.get('InternetShortcut')?.get('URL');
  if (internet !== undefined) return byAddress(internet, name.replace(/\.url$/i, ''));
  const entry = groups.get('Desktop Entry');
  if (entry?.get('Hidden') === 'true') return undefined;
  if (entry?.get('Type') === 'Link')
    return byAddress(unescapeValue(entry.get('URL') ?? ''), unescapeValue(entry.get('Name') ?? name));
  const exec = entry?.get('Exec');
  return entry?.get('Type') === 'Application' && exec
    ? { to: 'program', id: name, exec: unescapeValue(exec) }
    : undefined;
}

function byAddress(text: string, name: string): LinkFile | undefined {
  const file = parseFileUri(text);
  if (file.ok) return { to: 'path', path: file.path };
  return /^(https?|mailto):/i.test(text) ? { to: 'web', url: text, name } : undefined;
}
