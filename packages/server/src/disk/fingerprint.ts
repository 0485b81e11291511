/** Fingerprints and digests of files, read with bounded memory. */
import { createHash } from 'node:crypto';
import { closeSync, openSync, readSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { FULL_FINGERPRINT } from '@rellin/core/identity';
import { diskPath } from './paths.js';

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

/** SHA-256 of the whole file; `undefined` where it cannot be read to the end. */
export async function digestOf(path: string): Promise<string | undefined> {
  let handle;
  try {
    handle = await open(diskPath(path), 'r');
    const hash = createHash('sha256');
    for await (const chunk of handle.createReadStream({ highWaterMark: 1 << 18 })) hash.update(chunk as Buffer);
    return hash.digest('hex');
  } catch {
    return undefined;
  } finally {
    await handle?.close().catch(() => undefined);
  }
}
