/**
 * From what came over the wire to a real file inside a place. Links are followed by the system and the result must again
 * lie within a place: a link that leads out is refused, whatever it points to.
 */
import { constants, type ReadStream, createReadStream } from 'node:fs';
import { open, realpath, type FileHandle } from 'node:fs/promises';
import { fromBytes, isWithin, shown } from '@rellin/core/paths';
import { diskPath } from '../disk/paths.js';
import { Refusal } from '../problems/refusal.js';

export function refusalOf(error: unknown, path: string): Refusal {
  switch ((error as NodeJS.ErrnoException).code) {
    case 'ENOENT':
    case 'ENOTDIR':
      return new Refusal('not-found', `${shown(path)} is not there any more.`, {
        remedy: 'It may have been moved or removed just now. Your shortcuts to it stay.',
      });
    case 'EACCES':
    case 'EPERM':
      return new Refusal('no-access', `The system does not let Rellin read ${shown(path)}.`);
    case 'ELOOP':
      return new Refusal('link-loop', `${shown(path)} is a loop of links: it leads back to itself.`);
    case 'ENAMETOOLONG':
      return new Refusal('not-valid', 'That path is longer than the system allows.');
    default:
      return new Refusal('cannot-open', `${shown(path)} cannot be read: ${(error as Error).message}.`);
  }
}

/** The real path of an absolute path, inside one of the roots; refuses otherwise. */
export async function realInside(path: string, roots: readonly string[]): Promise<string> {
  let real: string;
  try {
    real = fromBytes(await realpath(diskPath(path), { encoding: 'buffer' }));
  } catch (error) {
    throw refusalOf(error, path);
  }
  for (const root of roots) {
    const realRoot = await realpath(diskPath(root), { encoding: 'buffer' }).then(fromBytes, () => undefined);
    if (realRoot !== undefined && isWithin(realRoot, real)) return real;
  }
  throw new Refusal('outside-places', `${shown(path)} leads outside the places that Rellin may look into.`, {
    remedy: 'Add its folder as a place in Settings, if you want Rellin to reach it.',
  });
}

/** Opens the real file for reading; a link put in its place after the check is not followed. */
export async function openInside(path: string, roots: readonly string[]): Promise<FileHandle> {
  const real = await realInside(path, roots);
  try {
    return await open(diskPath(real), constants.O_RDONLY | constants.O_NOFOLLOW | constants.O_NONBLOCK);
  } catch (error) {
    throw refusalOf(error, path);
  }
}

export function streamOf(handle: FileHandle, start: number, end: number): ReadStream {
  return createReadStream('', { fd: handle, start, end, autoClose: true });
}
