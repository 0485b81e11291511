/** Going through held folders. Synchronous; `tick` says that it goes on, and throws where it is to stop. */
import { readdirSync, rmdirSync, unlinkSync } from 'node:fs';
import { fromBytes } from '@rellin/core/paths';
import type { HeldFolder } from './inside.js';

/** In order, so that two of the same content are gone through alike. */
export function namesIn(folder: HeldFolder): string[] {
  return readdirSync(folder.at(), { encoding: 'buffer' })
    .map((n) => fromBytes(n))
    .sort();
}

export function inFolder<T>(folder: HeldFolder, name: string, use: (inner: HeldFolder) => T): T {
  const inner = folder.folder(name);
  try {
    return use(inner);
  } finally {
    inner.close();
  }
}

/** Removes a file, link or folder with all in it, and follows nothing. Whether there was anything. */
export function removeTree(folder: HeldFolder, name: string, tick: () => void): boolean {
  const s = folder.seen(name);
  if (!s) return false;
  tick();
  if (!s.isDirectory()) {
    unlinkSync(folder.at(name));
    return true;
  }
  inFolder(folder, name, (inner) => {
    for (const child of namesIn(inner)) removeTree(inner, child, tick);
  });
  rmdirSync(folder.at(name));
  return true;
}
