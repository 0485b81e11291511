/** Fingerprints of files: their size and both their ends. */
import { createHash } from 'node:crypto';
import { closeSync, readSync } from 'node:fs';
import { FULL_FINGERPRINT } from '@rellin/core/identity';
import { diskPath } from './paths.js';
import { openSync } from './port.js';

const EDGE = FULL_FINGERPRINT / 2;

/** Digest of the size, the first and the last 64 KiB; `undefined` where the file cannot be read. */
export function fingerprintSync(path: string, size: number): string | undefined {
  let handle: number | undefined;
  try {
    handle = openSync(diskPath(path), 'r');
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
