/** Paths as people type and paste them. */
import { parseFileUri, type FileUriError } from './fileUri.js';
import { normalizeAbsolute } from './relPath.js';

export type TypedPath =
  | { ok: true; path: string }
  /** A file address that cannot be read, or text that is no path. */
  | { ok: false; kind: FileUriError['kind'] | 'not-absolute' };

/**
 * The absolute path that was typed or pasted: a path, one below the home folder ("~/…"), a file address, each perhaps
 * in quotation marks. Line ends around it are left out; a blank at its end may be the name's. With `fromHome` a path
 * without a beginning lies in the home folder.
 *
 * @example typedPath('~/Boat papers', '/home/wren') // { ok: true, path: '/home/wren/Boat papers' }
 */
export function typedPath(typed: string, home: string, { fromHome = false } = {}): TypedPath {
  const bare = typed.replace(/^\s+|[\r\n\t]+$/g, '');
  const text = bare.trim().replace(/^"(.*)"$|^'(.*)'$/s, '$1$2');
  if (/^file:/i.test(text)) {
    const parsed = parseFileUri(text);
    if (!parsed.ok) return { ok: false, kind: parsed.error.kind };
    return { ok: true, path: normalizeAbsolute(parsed.path) ?? '/' };
  }
  // in quotation marks it is as it stands there
  const plain = text === bare.trim() ? bare : text;
  const whole =
    plain.trim() === '~'
      ? home
      : plain.startsWith('~/')
        ? home + plain.slice(1)
        : fromHome && /^[^/~]/.test(plain)
          ? `${home}/${plain}`
          : plain;
  const path = normalizeAbsolute(whole);
  return path === undefined ? { ok: false, kind: 'not-absolute' } : { ok: true, path };
}
