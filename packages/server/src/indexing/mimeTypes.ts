/**
 * MIME types by extension. The authority is the system's shared-mime-info (`globs2`) where it is installed; `mime-db`
 * stands in where it is not. Only plain `*.ext` globs are taken: literal names and magic are not needed to list a folder.
 */
import { createRequire } from 'node:module';
import { systemText } from '../disk/systemFile.js';
import { extensionOf } from '@rellin/core/paths';
import { kindOf, type EntryType, type Kind } from '@rellin/core/kinds';

/** Lines `weight:type:glob[:flags]`; of several types for one glob the heaviest, then the first, wins. */
export function parseGlobs2(text: string): Map<string, string> {
  const best = new Map<string, { weight: number; mime: string }>();
  for (const line of text.split('\n')) {
    if (line.startsWith('#')) continue;
    const [weight, mime, glob] = line.split(':');
    const extension = /^\*\.([^*?[\]]+)$/.exec(glob ?? '')?.[1];
    if (!mime || !extension) continue;
    const known = best.get(extension.toLowerCase());
    if (!known || Number(weight) > known.weight) best.set(extension.toLowerCase(), { weight: Number(weight), mime });
  }
  return new Map([...best].map(([extension, { mime }]) => [extension, mime]));
}

function load(): Map<string, string> {
  const all = new Map<string, string>();
  const db = createRequire(import.meta.url)('mime-db') as Record<string, { extensions?: string[] }>;
  for (const [mime, { extensions = [] }] of Object.entries(db))
    for (const extension of extensions) if (!all.has(extension)) all.set(extension, mime);
  // without shared-mime-info on this machine: mime-db alone
  const globs = systemText('/usr/share/mime/globs2');
  if (globs !== undefined) for (const [extension, mime] of parseGlobs2(globs)) all.set(extension, mime);
  return all;
}

let table: Map<string, string> | undefined;
const cache = new Map<string, { kind: Kind; mime: string }>();

export function describe(type: EntryType, name: string): { kind: Kind; mime: string } {
  if (type === 'folder') return { kind: 'folder', mime: 'inode/directory' };
  if (type === 'link') return { kind: 'link', mime: 'inode/symlink' };
  const extension = extensionOf(name);
  const known = cache.get(extension);
  if (known) return known;
  table ??= load();
  const mime = table.get(extension) ?? 'application/octet-stream';
  const made = { kind: kindOf(type, name, mime), mime };
  if (cache.size < 5000) cache.set(extension, made);
  return made;
}

/** The kind of things with a MIME type, by an extension that such things have. */
export function kindOfMime(mime: string): Kind {
  if (mime === 'inode/directory') return 'folder';
  table ??= load();
  for (const [extension, type] of table) if (type === mime) return kindOf('file', `x.${extension}`, mime);
  return kindOf('file', '', mime);
}
