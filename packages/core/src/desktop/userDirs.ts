/**
 * The user's standard folders from `user-dirs.dirs` (xdg-user-dirs): lines `XDG_NAME_DIR="$HOME/path"` or an absolute
 * path; anything else is passed over. A folder set to `$HOME` itself is switched off.
 */
export interface UserDir {
  /** The name between XDG_ and _DIR, e.g. DOCUMENTS. */
  name: string;
  path: string;
}

export function parseUserDirs(text: string, home: string): UserDir[] {
  const out: UserDir[] = [];
  for (const line of text.split('\n')) {
    const match = /^\s*XDG_([A-Z0-9]+)_DIR\s*=\s*"((?:[^"\\]|\\.)*)"\s*$/.exec(line);
    if (!match) continue;
    const value = match[2]!.replace(/\\(.)/g, '$1');
    const path = value === '$HOME' ? home : value.startsWith('$HOME/') ? home + value.slice(5) : value;
    const trimmed = path.length > 1 ? path.replace(/\/+$/, '') : path;
    if (trimmed.startsWith('/') && trimmed !== home) out.push({ name: match[1]!, path: trimmed });
  }
  return out;
}
