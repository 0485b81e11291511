/**
 * Which program opens a MIME type: MIME Applications Associations 1.0.1 (`mimeapps.list`). Reading and editing of the
 * text; where the files lie is the caller's.
 */
import { parseKeyFile, splitList } from './keyFile.js';

export interface MimeApps {
  /** MIME type → desktop file ids, the wanted first. */
  defaults: Map<string, string[]>;
  added: Map<string, string[]>;
  removed: Map<string, string[]>;
}

const DEFAULTS = 'Default Applications';
const ADDED = 'Added Associations';
const REMOVED = 'Removed Associations';

export function parseMimeApps(text: string): MimeApps {
  const { groups } = parseKeyFile(text, /^[\w.+-]+\/[\w.+-]+$/);
  const read = (group: string) =>
    new Map(
      [...(groups.get(group) ?? new Map<string, string>())].map(([mime, value]): [string, string[]] => [
        mime.toLowerCase(),
        splitList(value).filter(Boolean),
      ]),
    );
  return { defaults: read(DEFAULTS), added: read(ADDED), removed: read(REMOVED) };
}

/** The files that hold associations, the most important first: the user's, the system's, then those beside programs. */
export function mimeAppsFiles(
  configHome: string,
  configDirs: string[],
  dataHome: string,
  dataDirs: string[],
): string[] {
  return [
    ...[configHome, ...configDirs].map((dir) => `${dir}/mimeapps.list`),
    ...[dataHome, ...dataDirs].map((dir) => `${dir}/applications/mimeapps.list`),
  ];
}

export interface Opens {
  id: string;
  mimeTypes: readonly string[];
}

/**
 * The programs for a MIME type, best first: the default of the most important file that names an installed one, then
 * those added by the user, then those that say of themselves that they open it, less those removed. `programs` are the
 * installed ones in the order they are to be offered. O(files × entries).
 */
export function programsFor(mime: string, files: readonly MimeApps[], programs: readonly Opens[]): string[] {
  const type = mime.toLowerCase();
  const installed = new Set(programs.map((p) => p.id));
  const out: string[] = [];
  const removed = new Set<string>();
  const put = (id: string) => {
    if (installed.has(id) && !removed.has(id) && !out.includes(id)) out.push(id);
  };
  // a default counts even where the association is removed further down
  for (const file of files) for (const id of file.defaults.get(type) ?? []) put(id);
  for (const file of files) {
    for (const id of file.added.get(type) ?? []) put(id);
    for (const id of file.removed.get(type) ?? []) removed.add(id);
  }
  for (const p of programs) if (p.mimeTypes.some((t) => t.toLowerCase() === type)) put(p.id);
  return out;
}

/** The default for a MIME type in one file alone; undefined where it names none. */
export function defaultIn(text: string, mime: string): string | undefined {
  return parseMimeApps(text).defaults.get(mime.toLowerCase())?.[0];
}

/** Whether a MIME type and a program's id can stand in a line of the file: a file's name may hold line breaks as well. */
export function isPlainEntry(mime: string, id: string | undefined): boolean {
  return /^[\w.+-]+\/[\w.+-]+$/.test(mime) && (id === undefined || !/[\u0000-\u001f;=[\]]/.test(id));
}

/**
 * The text with another default for a MIME type, or with none where `id` is undefined; every other line as it was,
 * comments too. The former defaults stay behind the new one, so that one can fall back on them. A type or program that
 * would be more than one entry of the file (`isPlainEntry`) changes nothing.
 */
export function withDefault(text: string, mime: string, id: string | undefined): string {
  if (!isPlainEntry(mime, id)) return text;
  const lines = text === '' ? [] : text.replace(/\n$/, '').split('\n');
  const start = lines.findIndex((l) => l.trim() === `[${DEFAULTS}]`);
  const value = (rest: string[]) => `${mime}=${[id!, ...rest.filter((r) => r !== id)].join(';')};`;
  if (start < 0) {
    if (id === undefined) return text;
    const gap = lines.length > 0 && lines[lines.length - 1] !== '' ? [''] : [];
    return [...lines, ...gap, `[${DEFAULTS}]`, value([]), ''].join('\n');
  }
  const after = lines.slice(start + 1).findIndex((l) => l.startsWith('['));
  const end = after < 0 ? lines.length : start + 1 + after;
  const isIt = (line: string) => line.split('=')[0]!.trim().toLowerCase() === mime.toLowerCase();
  const at = lines.findIndex((line, i) => i > start && i < end && isIt(line));
  if (at >= 0) {
    if (id === undefined) lines.splice(at, 1);
    else lines[at] = value(splitList(lines[at]!.slice(lines[at]!.indexOf('=') + 1).trim()).filter(Boolean));
  } else if (id !== undefined) lines.splice(start + 1, 0, value([]));
  return `${lines.join('\n')}\n`;
}
