/**
 * Where files were fetched from, as programs that save them say (the shared attribute `user.xdg.origin.url` of
 * freedesktop.org's common extended attributes). Node reads no extended attributes; `getfattr` of Debian's package attr
 * does, and where it is not installed nothing is known.
 */
import { spawnSync } from 'node:child_process';
import { piecesOf } from '@rellin/core/lists';
import { withFolder } from '../disk/inside.js';
import { diskPath } from '../disk/paths.js';
import type { MoveContext } from './diskMoves.js';

const ATTRIBUTE = 'user.xdg.origin.url';
const AT_ONCE = 500;
const LONGEST_MS = 20_000;

export function originsIn(path: string, names: readonly string[], { bounds, tick }: MoveContext): [string, string][] {
  return withFolder(path, bounds, (folder) =>
    piecesOf(names, AT_ONCE).flatMap((some) => {
      tick();
      // names that are no UTF-8 are rare enough to do without
      const plain = some.filter((name) => typeof diskPath(name) === 'string');
      const { stdout, status } = spawnSync(
        'getfattr',
        [
          '--no-dereference',
          '--absolute-names',
          `--name=${ATTRIBUTE}`,
          '--',
          ...plain.map((n) => `/proc/self/fd/3/${n}`),
        ],
        {
          stdio: ['ignore', 'pipe', 'ignore', folder.fd],
          timeout: LONGEST_MS,
          encoding: 'utf8',
          env: { PATH: process.env['PATH'], LC_ALL: 'C' },
          maxBuffer: 1 << 26,
        },
      );
      // 1 where any of them has none, which is the rule
      return status === 0 || status === 1 ? parseOrigins(stdout) : [];
    }),
  );
}

/** As `getfattr` writes them: a line with the file, one for each attribute, an empty one. */
export function parseOrigins(text: string): [string, string][] {
  return text.split('\n\n').flatMap((part): [string, string][] => {
    const file = /^# file: \/proc\/self\/fd\/3\/(.*)$/m.exec(part);
    const value = /^user\.xdg\.origin\.url="(.*)"$/m.exec(part);
    return file && value ? [[unescaped(file[1]!), unescaped(value[1]!)]] : [];
  });
}

/** Octal escapes of bytes, `\\` and `\"`. */
function unescaped(text: string): string {
  const bytes: Buffer[] = [];
  for (const part of text.match(/\\[0-7]{3}|\\.|[^\\]+/gs) ?? [])
    bytes.push(
      /^\\[0-7]{3}$/.test(part)
        ? Buffer.from([parseInt(part.slice(1), 8)])
        : Buffer.from(part.startsWith('\\') ? part.slice(1) : part),
    );
  return Buffer.concat(bytes).toString('utf8');
}
