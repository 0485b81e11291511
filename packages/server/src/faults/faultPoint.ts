/**
 * Points at which a test ends the process as `kill -9` does, so that what a crash leaves is seen at each of them. A
 * test names a file by RELLIN_FAULTS and writes into it how many points to pass; without that a point does nothing.
 */
import { readFileSync, rmSync, writeFileSync } from 'node:fs';

const FILE = process.env['RELLIN_FAULTS'];

/** `name` says where one is, for whoever reads the code; every point counts alike. */
export function faultPoint(_name: string): void {
  if (FILE === undefined) return;
  let left: number;
  try {
    left = Number(readFileSync(FILE, 'utf8'));
  } catch {
    return;
  }
  if (left > 0) return writeFileSync(FILE, String(left - 1));
  rmSync(FILE);
  process.kill(process.pid, 'SIGKILL');
}
