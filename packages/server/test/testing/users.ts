/** Tests as somebody else: the superuser can be any user of the machine, an ordinary user only themselves. */
import { chownSync, lchownSync, lstatSync, readdirSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';

export const isSuperuser = process.getuid?.() === 0;

/** Accounts that every Debian has and nobody works as. */
export const ORDINARY = { name: 'nobody', uid: 65534, gid: 65534 };
export const OTHER = { name: 'games', uid: 5, gid: 60 };

/** What runs a command as such a user; nothing where we may not. */
export const as = ({ uid, gid }: { uid: number; gid: number }): string[] =>
  isSuperuser ? ['setpriv', `--reuid=${uid}`, `--regid=${gid}`, '--clear-groups', '--inh-caps=-all'] : [];

/** Whether such a user can run what is built here: a checkout below a closed folder they cannot reach. */
const canReach = (user: { uid: number; gid: number }): boolean => {
  const [command, ...args] = [...as(user), process.execPath, join(import.meta.dirname, '../../../../bin/rellin.mjs')];
  return spawnSync(command!, [...args, '--help'], { cwd: '/', timeout: 20_000 }).status === 0;
};

/** Tests may run things as an ordinary user. */
export const canBeOrdinary = isSuperuser && canReach(ORDINARY);

/** The servers of the security tests are run by such a user. */
export const asOrdinary = process.env['RELLIN_TEST_ORDINARY'] === '1' && canBeOrdinary;

export function giveTo(path: string, { uid, gid }: { uid: number; gid: number }): void {
  if (isSuperuser) chownSync(path, uid, gid);
}

/** A folder and all in it. */
export function giveAll(path: string, { uid, gid }: { uid: number; gid: number }): void {
  try {
    lchownSync(path, uid, gid);
    if (!lstatSync(path).isDirectory()) return;
    for (const name of readdirSync(path)) giveAll(join(path, name), { uid, gid });
  } catch (error) {
    // a test that swaps folders meanwhile
    if (!['ENOENT', 'ENOTDIR'].includes((error as NodeJS.ErrnoException).code ?? '')) throw error;
  }
}
