/** What programs have open just now (proc(5)): of our own processes, and of others where the kernel lets us look. */
import { readdirSync, readlinkSync, statSync, type Stats } from 'node:fs';
import { fromBytes } from '@rellin/core/paths';

export const keyOfFile = ({ dev, ino }: Pick<Stats, 'dev' | 'ino'>) => `${dev} ${ino}`;

export interface InUse {
  /** Files and folders, by device and number. */
  keys: Set<string>;
  /** Where they were when they were opened, or as the kernel follows them. */
  paths: Set<string>;
}

/** Files and folders, by device and number. Cost: a look at each handle of each process. */
export const filesInUse = (): Set<string> => inUse().keys;

export function inUse(): InUse {
  const out: InUse = { keys: new Set(), paths: new Set() };
  const look = (path: string) => {
    try {
      const seen = statSync(path);
      if (!seen.isFile() && !seen.isDirectory()) return;
      out.keys.add(keyOfFile(seen));
      out.paths.add(fromBytes(readlinkSync(path, { encoding: 'buffer' })));
    } catch {
      // closed meanwhile, or not ours to look at
    }
  };
  for (const process of readdirSync('/proc')) {
    if (!/^\d+$/.test(process)) continue;
    look(`/proc/${process}/cwd`);
    look(`/proc/${process}/exe`);
    for (const handle of handlesOf(process)) look(`/proc/${process}/fd/${handle}`);
  }
  return out;
}

function handlesOf(process: string): string[] {
  try {
    return readdirSync(`/proc/${process}/fd`);
  } catch {
    return [];
  }
}
