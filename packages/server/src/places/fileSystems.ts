/** What the system says of its mounts, and of connecting what is not mounted. Linux's own files; no network. */
import { execFile } from 'node:child_process';
import { readdirSync, readFileSync, readlinkSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { mountOf, parseMounts, type Mount } from '@rellin/core/mounts';

const BY_NUMBER = '/dev/disk/by-uuid';
const CONNECT_MS = 15_000;

interface FileSystems {
  mounts: Mount[];
  /** The number of the file system on a device, where it has one. */
  numberOf(source: string): string | undefined;
}

/** As the system has them now. */
export function readFileSystems(): FileSystems {
  const numbers = new Map<string, string>();
  let mounts: Mount[] = [];
  try {
    mounts = parseMounts(readFileSync('/proc/self/mountinfo', 'utf8'));
    for (const number of readdirSync(BY_NUMBER))
      numbers.set(resolve(BY_NUMBER, readlinkSync(join(BY_NUMBER, number))), number);
  } catch {
    // not Linux, or a machine that keeps no numbers: then the contents of a place have to tell
  }
  return { mounts, numberOf: (source) => numbers.get(source) };
}

const run = (program: string, args: string[]) =>
  new Promise<boolean>((done) => {
    execFile(program, args, { timeout: CONNECT_MS }, (error) => done(!error));
  });

/** A line of fstab(5) that a person other than root may mount, above a path. */
function ownMount(fstab: string, path: string): string | undefined {
  const lines = fstab
    .split('\n')
    .map((line) => line.trim().split(/\s+/))
    .filter(
      ([source, at, , options]) =>
        source && !source.startsWith('#') && at && /\b(user|users|owner)\b/.test(options ?? ''),
    );
  return mountOf(
    lines.map(([source, at, type]) => ({ source: source!, at: at!, type: type ?? '', root: '/', device: '' })),
    path,
  )?.at;
}

/** By the system's own means: a mount known to it, or the desktop's mounter. Whether one of them did. */
export async function connectBySystem(root: string, fileSystem: string | null): Promise<boolean> {
  let fstab = '';
  try {
    fstab = readFileSync('/etc/fstab', 'utf8');
  } catch {
    // none, or not to be read: then there is none that we may use
  }
  const at = ownMount(fstab, root);
  if (at && (await run('mount', [at]))) return true;
  if (!fileSystem || fileSystem.startsWith('network ') || !/^[\w-]+$/.test(fileSystem)) return false;
  return run('udisksctl', ['mount', '--no-user-interaction', '--block-device', join(BY_NUMBER, fileSystem)]);
}
