/**
 * MIME types by name. The authority is the system's shared-mime-info (`globs2`) where it is installed; `mime-db` stands
 * in where it is not, and for what that does not know. Contents are not looked at to list a folder.
 */
import { createHash } from 'node:crypto';
import { createRequire } from 'node:module';
import { parseMimeTree, type MimeTree } from '@rellin/core/desktop';
import {
  kindOf,
  KINDS_VERSION,
  parseGlobs2,
  typeByName,
  type EntryType,
  type GlobTable,
  type Kind,
} from '@rellin/core/kinds';
import { extensionOf } from '@rellin/core/paths';
import { systemText } from '../disk/systemFile.js';

interface Tables {
  globs: GlobTable;
  byExtension: Map<string, string>;
  /** Another text for other tables. */
  digest: string;
}

function load(): Tables {
  const byExtension = new Map<string, string>();
  const db = createRequire(import.meta.url)('mime-db') as Record<string, { extensions?: string[] }>;
  for (const [mime, { extensions = [] }] of Object.entries(db))
    for (const extension of extensions) if (!byExtension.has(extension)) byExtension.set(extension, mime);
  const globs2 = systemText('/usr/share/mime/globs2') ?? '';
  const digest = createHash('sha256')
    .update(`${KINDS_VERSION}\n${globs2}\n`)
    .update(JSON.stringify([...byExtension]));
  return { globs: parseGlobs2(globs2), byExtension, digest: digest.digest('hex') };
}

let tables: Tables | undefined;
let tree: MimeTree | undefined;

/** The other names of types and what they are a special case of, as the system has them. */
export function mimeTree(): MimeTree {
  return (tree ??= parseMimeTree(
    systemText('/usr/share/mime/aliases') ?? '',
    systemText('/usr/share/mime/subclasses') ?? '',
  ));
}

export function describe(type: EntryType, name: string): { kind: Kind; mime: string } {
  if (type === 'folder') return { kind: 'folder', mime: 'inode/directory' };
  if (type === 'link') return { kind: 'link', mime: 'inode/symlink' };
  tables ??= load();
  const mime =
    typeByName(tables.globs, name) ?? tables.byExtension.get(extensionOf(name)) ?? 'application/octet-stream';
  return { kind: kindOf(type, name, mime), mime };
}

/** What kinds and types are told by: the same text as long as all of it is the same. */
export function kindTables(): string {
  return (tables ??= load()).digest;
}

/** The kind of things with a MIME type, by an extension that such things have. */
export function kindOfMime(mime: string): Kind {
  if (mime === 'inode/directory') return 'folder';
  tables ??= load();
  for (const [ending, globs] of tables.globs.endings)
    if (globs.some((g) => g.mime === mime)) return kindOf('file', `x${ending}`, mime);
  for (const [extension, type] of tables.byExtension) if (type === mime) return kindOf('file', `x.${extension}`, mime);
  return kindOf('file', '', mime);
}
