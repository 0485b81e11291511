/**
 * Reads the traces beside everything else: lists may be many megabytes, a home folder may lie on a share that hangs,
 * and anybody may have written them. What was read is told at once, so that what hangs later takes nothing with it.
 */
import { readdirSync, readlinkSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { fromBytes } from '@rellin/core/paths';
import { readSystemFile, systemText } from '../disk/systemFile.js';
import { readRecentFiles, RECENT_FILES, type OpenedElsewhere } from '../recentFiles/readRecentFiles.js';
import { readFolderBookmarks, readLinkFile, type LinkFile } from './readTraces.js';

export interface TracesAsked {
  dataHome: string;
  configHome: string;
  home: string;
  /** The folder that the desktop shows. */
  desktop: string | null;
}

export type TracesTold =
  | { kind: 'recent'; opened: OpenedElsewhere[] }
  | { kind: 'bookmarks'; paths: string[] }
  | { kind: 'desktop'; links: LinkFile[] }
  | { kind: 'trouble'; text: string };

/** Bytes; desktops keep some hundred entries, which is a hundredth of it. */
const LONGEST_LIST = 32_000_000;
const LONGEST_LINK = 100_000;
/** More on a desktop than this are not looked at. */
const MOST_ON_DESKTOP = 2000;

const { dataHome, configHome, home, desktop } = workerData as TracesAsked;
const tell = (told: TracesTold) => parentPort!.postMessage(told);

function recent(): void {
  try {
    const list = readRecentFiles(readSystemFile(join(dataHome, RECENT_FILES), LONGEST_LIST).toString('utf8'));
    if (list.ok) tell({ kind: 'recent', opened: list.opened });
    else tell({ kind: 'trouble', text: 'The desktop’s list of recent files is damaged and was left out.' });
  } catch (error) {
    // a new account has none
    if ((error as NodeJS.ErrnoException).code === 'EFBIG')
      tell({
        kind: 'trouble',
        text: 'The desktop’s list of recent files is larger than 32 MB and was left out.',
      });
  }
}

function bookmarks(): void {
  const files = [join(configHome, 'gtk-3.0/bookmarks'), join(home, '.gtk-bookmarks')];
  const paths = files.flatMap((file) => readFolderBookmarks(systemText(file) ?? ''));
  tell({ kind: 'bookmarks', paths: [...new Set(paths)] });
}

function onDesktop(folder: string): void {
  let entries;
  try {
    entries = readdirSync(folder, { withFileTypes: true, encoding: 'buffer' });
  } catch {
    return; // there is none, or it may not be read: nothing lies there
  }
  const links = entries.slice(0, MOST_ON_DESKTOP).flatMap((entry): LinkFile[] => {
    const name = fromBytes(entry.name);
    const path = Buffer.concat([Buffer.from(`${folder}/`), entry.name]);
    try {
      if (entry.isSymbolicLink()) {
        const to = readlinkSync(path, { encoding: 'buffer' });
        return [{ to: 'path', path: to[0] === 0x2f ? fromBytes(to) : resolve(folder, fromBytes(to)) }];
      }
      if (!entry.isFile() || !/\.(desktop|url)$/i.test(name)) return [];
      const link = readLinkFile(name, readSystemFile(path, LONGEST_LINK).toString('utf8'));
      return link ? [link] : [];
    } catch {
      return []; // it went meanwhile, or may not be read
    }
  });
  tell({ kind: 'desktop', links });
}

recent();
bookmarks();
if (desktop !== null) onDesktop(desktop);
