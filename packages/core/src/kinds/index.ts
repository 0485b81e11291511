/**
 * Kinds: what a person calls a thing ("table", "picture"), coarser than a MIME type.
 * By extension first (a fixed table, common practice), then by MIME type, so that a kind does not depend on which
 * MIME database the machine carries.
 */
import { extensionOf } from '../paths/index.js';

export { parseGlobs2, typeByName, type GlobTable } from './globs.js';

/** One more whenever `kindOf` or a table below answers otherwise: what was told by the former is told anew. */
export const KINDS_VERSION = 1;

export const KINDS = [
  'folder',
  'program',
  'table',
  'text',
  'document',
  'pdf',
  'picture',
  'map',
  'sound',
  'video',
  'archive',
  'source',
  'web',
  'link',
  'file',
] as const;
export type Kind = (typeof KINDS)[number];

/** What the file system says an entry is; "other" is a socket, pipe or device. */
export type EntryType = 'file' | 'folder' | 'link' | 'other';

const BY_EXTENSION: Record<string, Kind> = {};
const define = (kind: Kind, extensions: string) => {
  for (const extension of extensions.split(' ')) BY_EXTENSION[extension] = kind;
};
define('table', 'csv tsv ods xls xlsx');
define('text', 'txt md markdown log rst text conf cfg cnf properties ics vcf srt tex bib');
define('document', 'odt doc docx rtf odp ppt pptx epub');
define('pdf', 'pdf');
define('picture', 'png jpg jpeg gif webp svg bmp tif tiff avif heic ico');
define('map', 'gpx kml kmz geojson shp');
define('sound', 'wav mp3 ogg oga flac opus m4a aac');
define('video', 'mp4 webm mkv mov avi ogv');
define('archive', 'zip tar gz tgz xz bz2 zst 7z rar');
define('source', 'ts tsx js mjs cjs jsx py c h cc cpp rs go java sh css json yaml yml toml xml sql ini');
define('web', 'html htm url');
define('program', 'desktop appimage');

/** The kind of an entry from its type, name and MIME type. Pure table look-up. */
export function kindOf(type: EntryType, name: string, mime = ''): Kind {
  if (type === 'folder') return 'folder';
  if (type === 'link') return 'link';
  const known = BY_EXTENSION[extensionOf(name)];
  if (known) return known;
  const [family] = mime.split('/');
  switch (family) {
    case 'image':
      return 'picture';
    case 'audio':
      return 'sound';
    case 'video':
      return 'video';
    case 'text':
      return 'text';
    default:
      return 'file';
  }
}

/** Sorting by kind: programs, folders, then files by kind. */
export function kindRank(kind: Kind): number {
  return kind === 'program' ? 0 : kind === 'folder' ? 1 : 2 + KINDS.indexOf(kind);
}

const WORDS: Partial<Record<Kind, string>> = { pdf: 'PDF', web: 'web address' };
/** The word shown beside the icon. */
export function kindWord(kind: Kind): string {
  return WORDS[kind] ?? kind;
}
