/** Writes the demo to disk: places, programs, the user's folders, and the catalogue as a seed file. */
import { mkdirSync, rmSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { Buffer } from 'node:buffer';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import {
  BOARDS,
  catalogue,
  collections,
  monthOf,
  MORE,
  openingsOf,
  QUICK_FILTERS,
  searches,
  sweeps,
  openedWithoutShortcut,
} from './catalogue.js';
import { INDEX_THEME, programIcon } from './programIcons.js';
import { PROGRAMS } from './scenario.js';
import { makeTree, type DemoFile } from './tree.js';
import { throwAway } from './deleted.js';
import { demoFolders } from './folders.js';
import { makeInbox } from './inbox.js';
import { HAND_MADE_LINKS, trouble } from './trouble.js';

function writeFiles(root: string, files: readonly DemoFile[]): void {
  const made = new Set<string>();
  const newest = new Map<string, number>();
  for (const { path, bytes, modified } of files) {
    const full = typeof path === 'string' ? join(root, path) : Buffer.concat([Buffer.from(`${root}/`), path]);
    const folder = typeof full === 'string' ? dirname(full) : undefined;
    if (folder && !made.has(folder)) {
      mkdirSync(folder, { recursive: true });
      made.add(folder);
    }
    writeFileSync(full, bytes);
    utimesSync(full, modified, modified);
    for (let at = folder; at && at.length >= root.length; at = dirname(at))
      newest.set(at, Math.max(newest.get(at) ?? 0, modified.getTime()));
  }
  // a folder is as old as the newest thing in it, not as old as the demo
  for (const [folder, time] of newest) utimesSync(folder, new Date(time), new Date(time));
}

/** Writes everything anew below `base`; returns how many files. `troubled` begins with something for the check-up. */
export function writeDemo(base: string, seed: number, today: Date, troubled = true): number {
  const at = demoFolders(base);
  for (const folder of [at.home, join(base, 'media'), join(base, 'unplugged'), join(base, 'system')])
    rmSync(folder, { recursive: true, force: true });
  const tree = makeTree(seed, today);
  const gone = troubled ? trouble(today) : { files: [], shortcuts: [] };
  const inbox = makeInbox(seed, today, tree);
  writeFiles(at.marrowick, [...tree.marrowick, ...gone.files, ...inbox]);
  writeFiles(at.fieldDrive, tree.fieldDrive);
  writeFiles(at.stationShare, tree.stationShare);
  throwAway(at, today);
  if (troubled) for (const [path, target] of HAND_MADE_LINKS) symlinkSync(target, join(at.marrowick, path));
  mkdirSync(dirname(at.fieldDriveStore), { recursive: true });

  const applications = join(at.systemData, 'applications');
  mkdirSync(applications, { recursive: true });
  for (const [id, name, comment, categories, types] of PROGRAMS)
    writeFileSync(
      join(applications, `${id}.desktop`),
      `[Desktop Entry]\nType=Application\nVersion=1.4\nName=${name}\nComment=${comment}\nExec=${id} ${types ? '%F' : ''}\nIcon=${id}\nTerminal=false\nCategories=${categories}\n${types ? `MimeType=${types}\n` : ''}`,
    );
  const icons = join(at.systemData, 'icons/hicolor');
  mkdirSync(join(icons, 'scalable/apps'), { recursive: true });
  writeFileSync(join(icons, 'index.theme'), INDEX_THEME);
  PROGRAMS.forEach(([id], i) => writeFileSync(join(icons, `scalable/apps/${id}.svg`), programIcon(i)));
  mkdirSync(at.configHome, { recursive: true });
  mkdirSync(at.dataHome, { recursive: true });
  writeFileSync(join(at.configHome, 'mimeapps.list'), '[Default Applications]\ntext/csv=sheetanchor.desktop;\n');
  writeFileSync(
    join(at.configHome, 'user-dirs.dirs'),
    [
      'DOCUMENTS="$HOME/Marrowick/Office"',
      'PICTURES="$HOME/Marrowick/Survey/Photographs"',
      'MUSIC="$HOME/Marrowick/Sound"',
    ]
      .map((line) => `XDG_${line.replace('=', '_DIR=')}\n`)
      .join(''),
  );
  writeFileSync(join(at.dataHome, 'recently-used.xbel'), recentFiles(at.marrowick, today));
  const items = catalogue(today.getUTCFullYear(), monthOf(today));
  const shortcuts = items.map((item, i) => {
    const { target } = item;
    const to =
      'url' in target
        ? { url: target.url }
        : 'programId' in target
          ? { programId: target.programId }
          : { path: join(at[target.root], target.path) };
    return {
      name: item.name,
      description: item.description,
      pin: item.pin,
      ...to,
      openings: openingsOf(item, i, seed, today),
      ...MORE[item.name],
    };
  });
  const gathered = collections(today.getUTCFullYear()).map(({ folder, ...collection }) => ({
    ...collection,
    ...(folder && { path: join(at.marrowick, folder) }),
  }));
  writeFileSync(
    at.seedFile,
    JSON.stringify(
      {
        shortcuts: [
          ...shortcuts,
          ...gone.shortcuts.map(({ recorded, ...one }) => ({
            ...one,
            recorded: { ...recorded, path: join(at.marrowick, recorded.path) },
          })),
        ],
        withoutShortcut: openedWithoutShortcut(today).map((one) => ({ ...one, path: join(at.marrowick, one.path) })),
        collections: gathered,
        boards: BOARDS,
        quickFilters: QUICK_FILTERS,
        searches: searches(today.getUTCFullYear()),
        sweeps: sweeps(at.marrowick),
        publications: troubled ? [{ collection: 'Filing targets', folder: join(at.marrowick, 'Office') }] : [],
      },
      null,
      1,
    ),
  );
  return gone.files.length + inbox.length + tree.marrowick.length + tree.fieldDrive.length + tree.stationShare.length;
}

/** The list of recent files as a desktop keeps it: yesterday a program opened what has no shortcut. */
function recentFiles(root: string, today: Date): string {
  const [, name, , , types] = PROGRAMS.find(([id]) => id === 'sheetanchor')!;
  const at = new Date(today.getTime() - 86_400_000 + 9 * 3_600_000).toISOString();
  const bookmarks = openedWithoutShortcut(today).map(
    ({
      path,
    }) => `  <bookmark href="${pathToFileURL(join(root, path)).href}" added="${at}" modified="${at}" visited="${at}">
    <info>
      <metadata owner="http://freedesktop.org">
        <mime:mime-type type="${String(types).split(';')[0]}"/>
        <bookmark:applications>
          <bookmark:application name="${name}" exec="&apos;sheetanchor %F&apos;" modified="${at}" count="1"/>
        </bookmark:applications>
      </metadata>
    </info>
  </bookmark>`,
  );
  return `<?xml version="1.0" encoding="UTF-8"?>
<xbel version="1.0" xmlns:bookmark="http://www.freedesktop.org/standards/desktop-bookmarks" xmlns:mime="http://www.freedesktop.org/standards/shared-mime-info">
${bookmarks.join('\n')}
</xbel>
`;
}
