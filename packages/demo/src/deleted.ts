/** What lies in the bins of the demo's disks: thrown away at the observatory, by Rellin and by another program. */
import { mkdirSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { INFO_SUFFIX, localTime, writeTrashInfo } from '@rellin/core/trash';
import type { DemoFolders } from './folders.js';

interface Thrown {
  /** Where it lay, from the top of its volume. */
  path: string;
  daysAgo: number;
  by: string | null;
  /** Of a file its bytes; of a folder what lies in it. */
  holds: number | Record<string, number>;
}

const AT_HOME: Thrown[] = [
  { path: 'Office/Minutes/agenda, first try.odt', daysAgo: 2, by: 'Rellin', holds: 18_400 },
  {
    path: 'Survey/Photographs/blurred',
    daysAgo: 5,
    by: 'Rellin',
    holds: { 'hide 1.jpg': 412_000, 'hide 2.jpg': 398_000 },
  },
  { path: 'Office/tide table, wrong month.csv', daysAgo: 9, by: null, holds: 7_300 },
  { path: 'Sound/test, no wind shield.wav', daysAgo: 21, by: null, holds: 950_000 },
];
const ON_DRIVE: Thrown[] = [
  {
    path: 'Cards/duplicates of May',
    daysAgo: 3,
    by: 'Rellin',
    holds: { 'DSC 0113.jpg': 350_000, 'DSC 0114.jpg': 344_000 },
  },
  { path: 'Cards/read me.txt', daysAgo: 40, by: null, holds: 900 },
];

/** Into the home folder's bin and that of the field drive. */
export function throwAway(at: DemoFolders, today: Date): void {
  fill(join(at.dataHome, 'Trash'), AT_HOME, (path) => join(at.marrowick, path), today);
  fill(join(at.fieldDrive, `.Trash-${process.getuid?.() ?? 0}`), ON_DRIVE, (path) => path, today);
}

function fill(bin: string, thrown: readonly Thrown[], told: (path: string) => string, today: Date): void {
  for (const sub of ['files', 'info']) mkdirSync(join(bin, sub), { recursive: true, mode: 0o700 });
  for (const { path, daysAgo, by, holds } of thrown) {
    const name = path.slice(path.lastIndexOf('/') + 1);
    const file = join(bin, 'files', name);
    if (typeof holds === 'number') writeFileSync(file, Buffer.alloc(holds, 'm'));
    else {
      mkdirSync(file);
      for (const [child, bytes] of Object.entries(holds)) writeFileSync(join(file, child), Buffer.alloc(bytes, 'm'));
    }
    const when = new Date(today.getTime() - daysAgo * 86_400_000 + 10 * 3_600_000);
    const info = join(bin, 'info', name + INFO_SUFFIX);
    writeFileSync(info, writeTrashInfo({ path: told(path), deletedAt: localTime(when), by }));
    utimesSync(info, when, when);
  }
}
