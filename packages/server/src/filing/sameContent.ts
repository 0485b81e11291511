/** Whether files hold the same bytes: told apart by their beginnings, which are read once, and else side by side. */
import { createHash } from 'node:crypto';
import { closeSync, readSync } from 'node:fs';
import { withParent } from '../disk/inside.js';
import type { MoveContext } from './diskMoves.js';

const PIECE = 1 << 18;
/** Most files that are not the same differ within so many bytes. */
export const BEGINNING = 1 << 12;

/** A digest of the beginning of each file; null where it cannot be read. */
export function beginnings(paths: readonly string[], context: MoveContext): (string | null)[] {
  const piece = Buffer.allocUnsafe(BEGINNING);
  return paths.map((path) => {
    context.tick();
    try {
      return withOpened(path, context, (fd) => {
        const read = readSync(fd, piece, 0, BEGINNING, 0);
        return createHash('sha1').update(piece.subarray(0, read)).digest('base64');
      });
    } catch (error) {
      return unread(error, null);
    }
  });
}

/** The first of the others that is the same, by its position; -1 where none is. What cannot be read is not the same. */
export function sameContent(path: string, others: readonly string[], context: MoveContext): number {
  try {
    return withOpened(path, context, (own) =>
      others.findIndex((other) => {
        try {
          return withOpened(other, context, (its) => isSame(own, its, context));
        } catch (error) {
          return unread(error, false);
        }
      }),
    );
  } catch (error) {
    return unread(error, -1);
  }
}

/** A stop goes on; of whatever else stood against reading a file nothing more is to be said. */
function unread<T>(error: unknown, answer: T): T {
  if ((error as NodeJS.ErrnoException).code === 'ESTOPPED') throw error;
  return answer;
}

function withOpened<T>(path: string, { bounds }: MoveContext, use: (fd: number) => T): T {
  return withParent(path, bounds, (folder, name) => {
    const { fd } = folder.file(name);
    try {
      return use(fd);
    } finally {
      closeSync(fd);
    }
  });
}

function isSame(a: number, b: number, { tick }: MoveContext): boolean {
  const [one, other] = [Buffer.allocUnsafe(PIECE), Buffer.allocUnsafe(PIECE)];
  for (let at = 0; ;) {
    tick();
    const read = readSync(a, one, 0, PIECE, at);
    if (readSync(b, other, 0, PIECE, at) !== read || !one.subarray(0, read).equals(other.subarray(0, read)))
      return false;
    if (read < PIECE) return true;
    at += read;
  }
}
