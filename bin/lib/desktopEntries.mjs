/**
 * Rellin met from outside its page: desktop entries (Desktop Entry Specification 1.5, written as 1.4) that add what is
 * opened with them, open the find line, and open each pin, for any menu, panel or key of the system. Built-ins only.
 */
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';

/** Only what bears this is ever written over or taken away. */
const OURS = 'X-Rellin=';

/** What people keep shortcuts to; the specification knows no wildcard. */
const TYPES = [
  'inode/directory',
  'application/octet-stream',
  'application/pdf',
  'application/zip',
  'application/json',
  'application/xml',
  'application/gpx+xml',
  'application/epub+zip',
  'application/msword',
  'application/vnd.ms-excel',
  'application/vnd.oasis.opendocument.text',
  'application/vnd.oasis.opendocument.spreadsheet',
  'application/vnd.oasis.opendocument.presentation',
  'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  'audio/flac',
  'audio/mpeg',
  'audio/ogg',
  'audio/x-wav',
  'image/gif',
  'image/jpeg',
  'image/png',
  'image/svg+xml',
  'image/tiff',
  'image/webp',
  'message/rfc822',
  'text/calendar',
  'text/csv',
  'text/html',
  'text/markdown',
  'text/plain',
  'video/mp4',
  'video/webm',
  'video/x-matroska',
];

/** Section "Possible value types": a line stays a line, and does not begin with a space. */
const value = (text) =>
  text
    .replaceAll('\\', '\\\\')
    .replace(/^ /, '\\s')
    .replaceAll('\n', '\\n')
    .replaceAll('\t', '\\t')
    .replaceAll('\r', '\\r');

/** Section "The Exec key": reserved characters are quoted, then the value is escaped as any string. */
export function execArgument(text) {
  const quoted = /^[A-Za-z0-9_./:@+-]+$/.test(text) ? text : `"${text.replace(/["`$\\]/g, '\\$&')}"`;
  return value(quoted).replaceAll('%', '%%');
}

/**
 * @param {{ name: string, comment: string, args: string[], fields?: string, types?: string[], hidden?: boolean }} what
 * @param {string[]} command
 */
function entry({ name, comment, args, fields = '', types, hidden }, command) {
  const lines = [
    '[Desktop Entry]',
    'Type=Application',
    'Version=1.4',
    `Name=${value(name)}`,
    `Comment=${value(comment)}`,
    `Exec=${[...command, ...args].map(execArgument).join(' ')}${fields}`,
    'Terminal=false',
    'Categories=Utility;',
    ...(types ? [`MimeType=${types.join(';')};`] : []),
    ...(hidden ? ['NoDisplay=true'] : []),
    `${OURS}1`,
  ];
  return `${lines.join('\n')}\n`;
}

export const applicationsFolder = () =>
  join(process.env.XDG_DATA_HOME || join(homedir(), '.local/share'), 'applications');

/** The entries there are to be, by the name of their file. */
function entries(pins) {
  return {
    'rellin.desktop': { name: 'Rellin', comment: 'Shortcuts to what you use most', args: ['page'] },
    'rellin-find.desktop': { name: 'Find in Rellin', comment: 'Opens the find line', args: ['page', '--find'] },
    // shown by “open with”, not in menus
    'rellin-add.desktop': {
      name: 'Add to Rellin',
      comment: 'Makes a shortcut; the original stays where it is',
      args: ['add', '--show'],
      fields: ' %U',
      types: TYPES,
      hidden: true,
    },
    ...Object.fromEntries(
      pins.map((pin) => [
        `rellin-${pin.target}-${pin.targetId}.desktop`,
        pin.target === 'shortcut'
          ? { name: pin.name, comment: 'A pin of Rellin', args: ['open', '--id', pin.targetId] }
          : {
              name: pin.name,
              comment: `A ${pin.target} of Rellin`,
              args: ['page', `--${pin.target}`, pin.targetId],
            },
      ]),
    ),
  };
}

const isOurs = (path) =>
  readFileSync(path, 'utf8')
    .split('\n')
    .some((line) => line.startsWith(OURS));

/** Writes the entries and takes away those of pins that are pinned no more; returns what it wrote and what it left. */
export function writeEntries(pins, command) {
  const folder = applicationsFolder();
  mkdirSync(folder, { recursive: true });
  const wanted = entries(pins);
  const foreign = [];
  for (const [file, what] of Object.entries(wanted)) {
    const path = join(folder, file);
    if (existsSync(path) && !isOurs(path)) foreign.push(path);
    else writeFileSync(path, entry(what, command));
  }
  removeEntries((file) => !(file in wanted));
  return { written: Object.keys(wanted).length - foreign.length, foreign, folder };
}

/** Takes away Rellin's own entries, or some of them; returns how many. */
export function removeEntries(which = (/** @type {string} */ _file) => true) {
  const folder = applicationsFolder();
  const gone = (existsSync(folder) ? readdirSync(folder) : []).filter(
    (file) => /^rellin(-.*)?\.desktop$/.test(file) && which(file) && isOurs(join(folder, file)),
  );
  for (const file of gone) rmSync(join(folder, file));
  return gone.length;
}
