/**
 * file URIs, RFC 8089. Accepts `file:///p`, `file:/p` (appendix B minimal form) and `file://localhost/p`; refuses other
 * hosts, a percent-encoded NUL or slash, and broken escapes. A query or fragment is not part of a path and is refused
 * unless encoded. Emits the traditional `file:///` form with UTF-8 percent-encoding.
 */
import { fromBytes, toBytes } from './pathText.js';

export type FileUriError =
  | { kind: 'not-a-file-uri' }
  | { kind: 'other-host'; host: string }
  | { kind: 'bad-escape'; at: number }
  | { kind: 'forbidden-byte'; at: number };

export type FileUriResult = { ok: true; path: string } | { ok: false; error: FileUriError };

/** Reads a file URI into absolute path text. */
export function parseFileUri(uri: string): FileUriResult {
  const scheme = /^file:/i.exec(uri);
  if (!scheme || /[?#]/.test(uri)) return { ok: false, error: { kind: 'not-a-file-uri' } };
  let rest = uri.slice(5);
  if (rest.startsWith('//')) {
    const slash = rest.indexOf('/', 2);
    const host = slash < 0 ? rest.slice(2) : rest.slice(2, slash);
    if (host !== '' && host.toLowerCase() !== 'localhost') return { ok: false, error: { kind: 'other-host', host } };
    rest = slash < 0 ? '/' : rest.slice(slash);
  }
  if (!rest.startsWith('/')) return { ok: false, error: { kind: 'not-a-file-uri' } };
  const offset = uri.length - rest.length;
  const bytes: number[] = [];
  const encoder = new TextEncoder();
  for (let i = 0; i < rest.length;) {
    if (rest[i] !== '%') {
      const char = String.fromCodePoint(rest.codePointAt(i)!);
      bytes.push(...encoder.encode(char));
      i += char.length;
      continue;
    }
    const hex = rest.slice(i + 1, i + 3);
    if (!/^[0-9a-f]{2}$/i.test(hex)) return { ok: false, error: { kind: 'bad-escape', at: offset + i } };
    const byte = parseInt(hex, 16);
    if (byte === 0 || byte === 0x2f) return { ok: false, error: { kind: 'forbidden-byte', at: offset + i } };
    bytes.push(byte);
    i += 3;
  }
  return { ok: true, path: fromBytes(Uint8Array.from(bytes)) };
}

/** Writes absolute path text as a file URI; every byte outside the unreserved set and "/" is escaped. */
export function toFileUri(path: string): string {
  let out = 'file://';
  for (const byte of toBytes(path)) {
    const char = String.fromCharCode(byte);
    out += /[A-Za-z0-9\-._~/]/.test(char) ? char : '%' + byte.toString(16).toUpperCase().padStart(2, '0');
  }
  return out;
}
