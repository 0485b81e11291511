/** The switch of a stand-in for a drive or share: its folder appears or disappears, as a real one would. */
import { mkdirSync, renameSync } from 'node:fs';
import { dirname } from 'node:path';

/** Nothing happens where it has been switched already. */
export function swapStandIn(from: string, to: string): void {
  try {
    mkdirSync(dirname(to), { recursive: true });
    renameSync(from, to);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
}
