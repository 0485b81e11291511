/** File systems on which the kernel shows its own state: shut, as Rellin's own folders are. */
import { readFileSync } from 'node:fs';
import { deviceNumber, isOfKernel, parseMounts } from '@rellin/core/mounts';

/** Mounts come and go rarely, and each access asks. */
const READ_AGAIN_MS = 5000;

let known: readonly number[] = [];
let readAt = -Infinity;

/** Their device numbers, as `stat` tells them. None where the system has no such table. */
export function kernelDevices(): readonly number[] {
  if (performance.now() - readAt < READ_AGAIN_MS) return known;
  readAt = performance.now();
  try {
    known = parseMounts(readFileSync('/proc/self/mountinfo', 'utf8'))
      .filter(isOfKernel)
      .map((mount) => deviceNumber(mount.device));
  } catch {
    known = [];
  }
  return known;
}
