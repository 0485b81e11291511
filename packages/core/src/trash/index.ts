/**
 * What the FreeDesktop.org Trash specification 1.0 writes: info files, the names under which things lie in a bin, and
 * the sizes of its folders. No I/O. Paths and names are path text, so that any bytes come back as they were.
 */
import { fromBytes, isWithin, nameOf, normalizeAbsolute, toBytes } from '../paths/index.js';

/** Of what an info file tells. */
export interface TrashInfo {
  /** Where the thing lay: absolute, or in the bin of a volume from that volume's top. */
  path: string;
  /** When it was deleted, local time without a zone as it is written: "2026-05-31T08:05:00"; null where it is none. */
  deletedAt: string | null;
  /** The program that wrote it, by a key of ours that all others pass over; null where it is not told. */
  by: string | null;
}

export type TrashInfoError =
  /** The first line is not "[Trash Info]". */
  | { kind: 'no-header' }
  | { kind: 'no-path' }
  /** Its path is empty, leads upward out of its volume, or holds a NUL. */
  | { kind: 'bad-path' };

export type TrashInfoResult = { ok: true; info: TrashInfo } | { ok: false; error: TrashInfoError };

/** What is added to a name for its info file. */
export const INFO_SUFFIX = '.trashinfo';
const HEADER = '[Trash Info]';
/** “X-” begins the keys of extensions, as in the Desktop Entry Specification. */
const BY = 'X-DeletedBy';
const NAME_BYTES = 255;

const encoder = new TextEncoder();
const bytesOf = (text: string) => toBytes(text).length;

/** Unreserved characters of RFC 2396, section 2.3, which the specification follows; and the slash. */
const PLAIN = /[A-Za-z0-9\-_.!~*'()/]/;

/** A path with every other byte as %HH. Linear. */
export function percentEncoded(path: string): string {
  let out = '';
  for (const byte of toBytes(path)) {
    const char = String.fromCharCode(byte);
    out += byte < 0x80 && PLAIN.test(char) ? char : `%${byte.toString(16).toUpperCase().padStart(2, '0')}`;
  }
  return out;
}

/** The bytes that a text stands for; a "%" that begins no %HH stands for itself. Linear; never fails. */
export function percentDecoded(text: string): string {
  const bytes: number[] = [];
  for (let i = 0; i < text.length;) {
    const hex = /^%([0-9a-fA-F]{2})/.exec(text.slice(i, i + 3));
    if (hex) {
      bytes.push(parseInt(hex[1]!, 16));
      i += 3;
      continue;
    }
    const char = String.fromCodePoint(text.codePointAt(i)!);
    bytes.push(...toBytes(char));
    i += char.length;
  }
  return fromBytes(Uint8Array.from(bytes));
}

const TIME = /^(\d{4})-(\d{2})-(\d{2})T(\d{2}):(\d{2}):(\d{2})$/;

function readTime(text: string | undefined): string | null {
  const match = TIME.exec(text ?? '');
  if (!match) return null;
  const [year, month, day, hour, minute, second] = match.slice(1).map(Number) as [number, ...number[]];
  const date = new Date(Date.UTC(year, month! - 1, day, hour, minute, second));
  // a 31st of April is no time
  return date.toISOString().startsWith(match[0]) ? match[0] : null;
}

/**
 * Reads an info file. The first of several `Path` or `DeletionDate` lines holds; other groups and keys are passed over
 * (section "Contents of a trash directory"). A relative path may not lead out of its volume by "..".
 *
 * @example readTrashInfo(encode('[Trash Info]\nPath=foo/bar%20baz\nDeletionDate=2004-08-31T22:32:08\n'))
 *   // { ok: true, info: { path: 'foo/bar baz', deletedAt: '2004-08-31T22:32:08', by: null } }
 */
export function readTrashInfo(bytes: Uint8Array): TrashInfoResult {
  const lines = fromBytes(bytes).split(/\r\n|\n/);
  if (lines[0]?.trim() !== HEADER) return { ok: false, error: { kind: 'no-header' } };
  let path: string | undefined;
  let time: string | undefined;
  let by: string | undefined;
  for (const line of lines.slice(1)) {
    if (line.startsWith('[')) break;
    const [, key, value] = /^\s*(Path|DeletionDate|X-DeletedBy)\s*=\s*(.*)$/.exec(line) ?? [];
    if (key === 'Path') path ??= value;
    else if (key === 'DeletionDate') time ??= value?.trim();
    else if (key === BY) by ??= value?.trim();
  }
  if (path === undefined) return { ok: false, error: { kind: 'no-path' } };
  const decoded = percentDecoded(path);
  const isBad = decoded === '' || decoded.includes('\0') || decoded.split('/').includes('..');
  if (isBad || decoded.endsWith('/') || nameOf(decoded) === '.') return { ok: false, error: { kind: 'bad-path' } };
  return { ok: true, info: { path: decoded, deletedAt: readTime(time), by: by ?? null } };
}

/** The text of an info file. `deletedAt` as in `TrashInfo`. */
export function writeTrashInfo({ path, deletedAt, by }: TrashInfo): string {
  const time = deletedAt === null ? '' : `DeletionDate=${deletedAt}\n`;
  return `${HEADER}\nPath=${percentEncoded(path)}\n${time}${by === null ? '' : `${BY}=${by}\n`}`;
}

/** A moment as the clock on the wall shows it; the zone is the machine's. */
export function localTime(at: Date): string {
  const two = (n: number) => String(n).padStart(2, '0');
  const day = `${String(at.getFullYear()).padStart(4, '0')}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
  return `${day}T${two(at.getHours())}:${two(at.getMinutes())}:${two(at.getSeconds())}`;
}

/** The moment of a local time of this machine, ISO 8601 in UTC. */
export const momentOf = (local: string): string => new Date(local).toISOString();

/**
 * Where a thing lay; undefined where that is not known. `top` is the top folder of the volume, null for the home bin,
 * whose paths are absolute. Whoever wrote a volume may have written anything: it tells of nothing that lies elsewhere.
 */
export function formerPath(path: string, top: string | null): string | undefined {
  if (top === null) return path.startsWith('/') ? normalizeAbsolute(path) : undefined;
  const full = normalizeAbsolute(path.startsWith('/') ? path : `${top}/${path}`);
  return full !== undefined && isWithin(top, full) ? full : undefined;
}

/**
 * The name under which a thing lies in a bin: its own, or with the first free number before its extension, as
 * "notes.2.txt" (the specification leaves the form open; a number there is common practice). Shortened by whole
 * characters, so that its info file's name fits into 255 bytes.
 */
export function trashName(name: string, isTaken: (name: string) => boolean): string {
  const dot = name.lastIndexOf('.');
  const [stem, extension] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, ''];
  for (let n = 1; ; n++) {
    const number = n === 1 ? '' : `.${n}`;
    const whole = `${stem}${number}${extension}`;
    const tried = bytesOf(whole) + INFO_SUFFIX.length <= NAME_BYTES ? whole : shortened(stem, number, extension);
    if (!isTaken(tried)) return tried;
  }
}

function shortened(stem: string, number: string, extension: string): string {
  const room = NAME_BYTES - INFO_SUFFIX.length - number.length;
  // a name that is all extension is shortened as a whole
  const tail = bytesOf(extension) > room / 2 ? '' : extension;
  let kept = '';
  let used = bytesOf(tail);
  for (const char of tail === '' ? stem + extension : stem) {
    used += bytesOf(char);
    if (used > room) break;
    kept += char;
  }
  return `${kept}${number}${tail}`;
}

/** A line of `directorysizes`: how much a folder in the bin holds, as of the time of its info file. */
export interface DirectorySize {
  /** Its name in the bin. */
  name: string;
  /** Of all in it, in bytes. */
  size: number;
  /** Its info file's time of change, in whole seconds. */
  infoTime: number;
}

/** Lines that cannot be read are left out: then the folder is measured again. Of two for one name the last holds. */
export function readDirectorySizes(bytes: Uint8Array): Map<string, DirectorySize> {
  const out = new Map<string, DirectorySize>();
  for (const line of fromBytes(bytes).split('\n')) {
    const [, size, infoTime, encoded] = /^(\d{1,15}) (\d{1,12}) (\S+)$/.exec(line) ?? [];
    if (encoded === undefined) continue;
    const name = percentDecoded(encoded);
    if (!name.includes('/')) out.set(name, { name, size: Number(size), infoTime: Number(infoTime) });
  }
  return out;
}

export function writeDirectorySizes(sizes: Iterable<DirectorySize>): Uint8Array {
  const lines = [...sizes].map(({ name, size, infoTime }) => `${size} ${infoTime} ${percentEncoded(name)}\n`);
  return encoder.encode(lines.join(''));
}
