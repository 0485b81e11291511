/** What the disk said, in words. */
import { shown } from '@rellin/core/paths';
import { Refusal } from '../problems/refusal.js';
import type { InsideFault } from './inside.js';

function insideRefusal(fault: InsideFault, where: string): Refusal {
  switch (fault) {
    case 'outside':
      return new Refusal('outside-places', `${where} leads outside the places that Rellin may look into.`, {
        remedy: 'Add its folder as a place in Settings, if you want Rellin to reach it.',
      });
    case 'own':
      return new Refusal(
        'forbidden',
        `${where} lies in Rellin’s own data folder, which is never read or changed this way.`,
      );
    case 'kernel':
      return new Refusal('forbidden', `${where} belongs to the system and holds no files.`);
    case 'changed':
      return new Refusal('changed-since', `A folder on the way to ${where} was changed just now; nothing was done.`, {
        remedy: 'Try again. If a link has taken its place, look at who else may write there.',
      });
    case 'not-a-file':
      return new Refusal('cannot-open', `${where} is a pipe, a socket or a device; there is nothing in it to read.`);
  }
}

/** Of a failure to read. */
export function refusalOf(error: unknown, path: string): Refusal {
  if (error instanceof Refusal) return error;
  const { code, fault, message } = error as NodeJS.ErrnoException & { fault?: InsideFault };
  const where = shown(path);
  switch (code) {
    case 'EINSIDE':
      return insideRefusal(fault!, where);
    case 'ENOENT':
    case 'ENOTDIR':
      return new Refusal('not-found', `${where} is not there any more.`, {
        remedy: 'It may have been moved or removed just now. Your shortcuts to it stay.',
      });
    case 'EACCES':
    case 'EPERM':
      return new Refusal('no-access', `The system does not let Rellin read ${where}.`);
    case 'ELOOP':
      return new Refusal('link-loop', `${where} is a loop of links: it leads back to itself.`);
    case 'ENAMETOOLONG':
      return new Refusal('not-valid', 'That path is longer than the system allows.');
    default:
      return new Refusal('cannot-open', `${where} cannot be read: ${message}.`);
  }
}

/** Of a failure to write; whatever else is passed on as it is. */
export function writeRefusalOf(error: unknown, path: string): Error {
  if (error instanceof Refusal) return error;
  const { code, fault } = error as NodeJS.ErrnoException & { fault?: InsideFault };
  const where = shown(path);
  switch (code) {
    case 'EINSIDE':
      return insideRefusal(fault!, where);
    case 'ENOSPC':
    case 'EDQUOT':
      return new Refusal('no-room', `There is no room left at ${where}; everything was put back where it was.`, {
        remedy: 'Free some space there, then file it again.',
      });
    case 'EROFS':
      return new Refusal('no-access', `${where} can only be read; nothing was changed.`);
    case 'EACCES':
    case 'EPERM':
      return new Refusal('no-access', `The system does not let Rellin write at ${where}; nothing was changed.`);
    case 'ENAMETOOLONG':
      return new Refusal(
        'not-valid',
        `The file system at ${where} does not take a name that long; nothing was changed.`,
      );
    case 'ENOENT':
    case 'ENOTDIR':
      return new Refusal('not-found', `Something at ${where} is not there any more; everything was put back.`);
    case 'EEXIST':
      return new Refusal('changed-since', `A name at ${where} was taken just now; everything was put back.`);
    default:
      return error as Error;
  }
}
