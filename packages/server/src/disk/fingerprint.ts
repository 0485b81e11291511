/** Fingerprints of files: their size and both their ends. */
import { createHash } from 'node:crypto';
import { closeSync, readSync } from 'node:fs';
import { FULL_FINGERPRINT } from '@rellin/core/identity';
import { withParent, type Bounds } from './inside.js';

const EDGE = FULL_FINGERPRINT / 2;

/**
 * Digest of the size, the first and the last 64 KiB; `undefined` where the file cannot be read. Links are not followed.
 */
export function fingerprintSync(path: string, size: number, bounds: Bounds): string | undefined {
  let handle: number | undefined;
  try {
    handle = withParent(path, bounds, (folder, name) => folder.file(name)).fd;
    const hash = createHash('sha256').update(`${size}\n`);
    const buffer = Buffer.alloc(Math.min(EDGE, size));
    hash.update(buffer.subarray(0, readSync(handle, buffer, 0, buffer.length, 0)));
    if (size > EDGE) {
      const from = Math.max(EDGE, size - EDGE);
      hash.update(buffer.subarray(0, readSync(handle, buffer, 0, Math.min(EDGE, size - from), from)));
    }
    return hash.digest('hex');
  } catch {
    return undefined;
  } finally {
    if (handle !== undefined) closeSync(handle);
  }
}
