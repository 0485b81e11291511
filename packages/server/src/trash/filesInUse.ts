/** What programs have open just now (proc(5)): of our own processes, and of others where the kernel lets us look. */
import { readdirSync, statSync, type Stats } from 'node:fs';

export const keyOfFile = ({ dev, ino }: Pick<Stats, 'dev' | 'ino'>) => `${dev} ${ino}`;

/** Files and folders, by device and number. Cost: a look at each handle of each process. */
export function filesInUse(): Set<string> {
  const out = new Set<string>();
  const look = (path: string) => {
    try {
      out.add(keyOfFile(statSync(path)));
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
