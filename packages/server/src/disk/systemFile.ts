/**
 * Files outside the places that the system or other programs keep (entries, icons, lists). Only regular ones are read,
 * and never in a way that waits: somebody may have put a pipe in a file's place.
 */
import { closeSync, constants, fstatSync, openSync, readSync, type PathLike } from 'node:fs';

const READING = constants.O_RDONLY | constants.O_NONBLOCK | constants.O_NOCTTY;

/** The whole of a regular file of at most `limit` bytes; throws an error with a code where it is none, or larger. */
export function readSystemFile(path: PathLike, limit = 4_000_000): Buffer {
  const file = openSync(path, READING);
  try {
    const { size } = regular(file);
    if (size > limit) throw Object.assign(new Error(`larger than ${limit} bytes`), { code: 'EFBIG' });
    // what the system makes up as it is read has no size
    const bytes = Buffer.alloc(size === 0 ? 65_536 : size);
    let length = 0;
    for (let n = -1; n !== 0 && length < bytes.length; length += n)
      n = readSync(file, bytes, length, bytes.length - length, length);
    return bytes.subarray(0, length);
  } finally {
    closeSync(file);
  }
}

function regular(file: number) {
  const stats = fstatSync(file);
  if (!stats.isFile()) throw Object.assign(new Error('not a regular file'), { code: 'ENOTREG' });
  return stats;
}

/** Its text; undefined where it is not there or cannot be read. */
export function systemText(path: PathLike, limit?: number): string | undefined {
  try {
    return readSystemFile(path, limit).toString('utf8');
  } catch {
    return undefined;
  }
}
