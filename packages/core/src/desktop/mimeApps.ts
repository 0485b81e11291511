/**
 * Which program opens a MIME type: MIME Applications Associations 1.0.1 (`mimeapps.list`). Reading and editing of the
 * text; where the files lie is the caller's.
 */
import { parseKeyFile, splitList } from './keyFile.js';
import { lineage, type MimeTree } from './mimeTree.js';

export interface MimeApps {
  /** MIME type → desktop file ids, the wanted first. */
  defaults: Map<string, string[]>;
  added: Map<string, string[]>;
  removed: Map<string, string[]>;
}

const DEFAULTS = 'Default Applications';
const ADDED = 'Added Associations';
const REMOVED = 'Removed Associations';

/** Reads one file; of one for a desktop alone only the defaults. */
export function parseMimeApps(text: string, isForDesktop = false): MimeApps {
  const { groups } = parseKeyFile(text, /^[\w.+-]+\/[\w.+-]+$/);
  const read = (group: string) =>
    new Map(
      [...(groups.get(group) ?? new Map<string, string>())].map(([mime, value]): [string, string[]] => [
        mime.toLowerCase(),
        splitList(value).filter(Boolean),
      ]),
    );
  const none = new Map<string, string[]>();
  return {
    defaults: read(DEFAULTS),
    added: isForDesktop ? none : read(ADDED),
    removed: isForDesktop ? none : read(REMOVED),
  };
}

export interface MimeAppsFile {
  path: string;
  /** One for a desktop alone says only defaults; what it adds or removes does not count. */
  isForDesktop: boolean;
}

/**
 * The files that hold associations, the most important first: the user's, the system's, then those beside programs; in
 * each folder those of the desktops before the one for all. `desktops` are the names of the session's, the first first.
 */
export function mimeAppsFiles(
  {
    configHome,
    configDirs,
    dataHome,
    dataDirs,
  }: Record<'configHome' | 'dataHome', string> & Record<'configDirs' | 'dataDirs', readonly string[]>,
  desktops: readonly string[] = [],
): MimeAppsFile[] {
  const folders = [configHome, ...configDirs, ...[dataHome, ...dataDirs].map((dir) => `${dir}/applications`)];
  return folders.flatMap((folder) => [
    ...desktops.map((name) => ({ path: `${folder}/${name.toLowerCase()}-mimeapps.list`, isForDesktop: true })),
    { path: `${folder}/mimeapps.list`, isForDesktop: false },
  ]);
}

export interface Opens {
  id: string;
  mimeTypes: readonly string[];
}

/**
 * The programs for a MIME type, best first: the default of the most important file that names an installed one, then
 * those added by the user, then those that say of themselves that they open it, less those removed; then the same for
 * what the type is a special case of. `programs` are the installed ones in the order they are to be offered.
 * O(types × files × entries).
 */
export function programsFor(
  mime: string,
  files: readonly MimeApps[],
  programs: readonly Opens[],
  tree: MimeTree = NO_TREE,
): string[] {
  return programsOfTypes(lineage(tree, mime), files, programs, tree);
}

function programsOfTypes(
  types: readonly string[],
  files: readonly MimeApps[],
  programs: readonly Opens[],
  tree: MimeTree,
): string[] {
  const installed = new Set(programs.map((p) => p.id));
  const named = namesIn(tree);
  const out: string[] = [];
  // what was removed for a type does not come back by what that is a special case of
  const removed = new Set<string>();
  const put = (id: string) => {
    if (installed.has(id) && !removed.has(id) && !out.includes(id)) out.push(id);
  };
  for (const type of types) {
    // a default counts even where the association is removed further down
    for (const file of files) for (const id of named(file.defaults, type)) put(id);
    for (const file of files) {
      for (const id of named(file.added, type)) put(id);
      for (const id of named(file.removed, type)) removed.add(id);
    }
    const isIt = (t: string) => (tree.names.get(t.toLowerCase()) ?? t.toLowerCase()) === type;
    for (const p of programs) if (p.mimeTypes.some(isIt)) put(p.id);
  }
  return out;
}

/**
 * The program that the lists name for a type: the first default that is installed, of the type itself, then of what it
 * is a special case of. Where a program opens the nearer type, a default of the farther one does not count (as GLib has
 * it).
 */
export function defaultFor(
  mime: string,
  files: readonly MimeApps[],
  programs: readonly Opens[],
  tree: MimeTree = NO_TREE,
): string | undefined {
  const named = namesIn(tree);
  const installed = new Set(programs.map((p) => p.id));
  for (const type of lineage(tree, mime)) {
    for (const file of files) {
      const id = named(file.defaults, type).find((d) => installed.has(d));
      if (id !== undefined) return id;
    }
    if (programsOfTypes([type], files, programs, tree).length > 0) return undefined;
  }
  return undefined;
}

const NO_TREE: MimeTree = { names: new Map(), parents: new Map() };

/** Looks a type up under its name and its other names. */
function namesIn(tree: MimeTree) {
  const others = new Map<string, string[]>();
  for (const [other, name] of tree.names) others.set(name, [...(others.get(name) ?? []), other]);
  return (map: ReadonlyMap<string, string[]>, type: string): string[] =>
    [type, ...(others.get(type) ?? [])].flatMap((name) => map.get(name) ?? []);
}

/** The default for a MIME type in one file alone; undefined where it names none. */
export function defaultIn(text: string, mime: string): string | undefined {
  return parseMimeApps(text).defaults.get(mime.toLowerCase())?.[0];
}

/**
 * Whether a MIME type and a program's id can stand in a line of the file: a file's name may hold line breaks as well.
 */
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
