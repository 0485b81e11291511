/** Fingerprints and digests of files, read with bounded memory. */
import { createHash } from 'node:crypto';
import { open } from 'node:fs/promises';
import { FULL_FINGERPRINT } from '@rellin/core/identity';
import { diskPath } from '../disk/paths.js';

const EDGE = FULL_FINGERPRINT / 2;

/** Digest of the size, the first and the last 64 KiB; `undefined` where the file cannot be read. */
export async function fingerprintOf(path: string, size: number): Promise<string | undefined> {
  let handle;
  try {
    handle = await open(diskPath(path), 'r');
    const hash = createHash('sha256').update(`${size}\n`);
    const buffer = Buffer.alloc(Math.min(EDGE, size));
    const head = await handle.read(buffer, 0, buffer.length, 0);
    hash.update(buffer.subarray(0, head.bytesRead));
    if (size > EDGE) {
      const from = Math.max(EDGE, size - EDGE);
      const tail = await handle.read(buffer, 0, Math.min(EDGE, size - from), from);
      hash.update(buffer.subarray(0, tail.bytesRead));
    }
    return hash.digest('hex');
  } catch {
    return undefined;
  } finally {
    await handle?.close();
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
