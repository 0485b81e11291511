/** Rellin's own data folder: closed to everybody else from the first byte of each file in it. */
import { randomBytes } from 'node:crypto';
import { chmodSync, linkSync, mkdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/**
 * Nobody else may do anything. Of the superuser's folder PostgreSQL's group may have been let pass through, and still
 * may.
 */
const FOR_OTHERS = process.getuid?.() === 0 ? 0o067 : 0o077;

/** The folder is there, and shut. */
export function ensureOwnFolder(path: string): void {
  // the folders above are not ours alone
  mkdirSync(dirname(path), { recursive: true });
  mkdirSync(path, { recursive: true, mode: 0o700 });
  const { mode } = statSync(path);
  if ((mode & FOR_OTHERS) !== 0) chmodSync(path, mode & 0o7777 & ~FOR_OTHERS);
}

/** Writes a file whole, readable by its owner only. */
export function writeOwnFile(path: string, text: string): void {
  const part = `${path}.${randomBytes(6).toString('hex')}`;
  try {
    writeFileSync(part, text, { mode: 0o600, flag: 'wx' });
    renameSync(part, path);
  } catch (error) {
    rmSync(part, { force: true });
    throw error;
  }
}

/** A secret that is made once and stays; of two that make it at once one wins, and both have that. */
export function ownSecret(path: string, make: () => string): string {
  const known = secretIn(path);
  if (known !== undefined) return known;
  const part = `${path}.${randomBytes(6).toString('hex')}`;
  writeFileSync(part, `${make()}\n`, { mode: 0o600, flag: 'wx' });
  try {
    linkSync(part, path);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    // an empty file is nobody's secret
    if (secretIn(path) === undefined) renameSync(part, path);
  } finally {
    rmSync(part, { force: true });
  }
  return secretIn(path)!;
}

function secretIn(path: string): string | undefined {
  try {
    const secret = readFileSync(path, 'utf8').trim();
    chmodSync(path, 0o600);
    return secret === '' ? undefined : secret;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return undefined;
    throw error;
  }
}
