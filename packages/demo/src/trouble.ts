/**
 * What went wrong at the observatory before the demo begins: a folder was moved and its files worked on since, one file
 * is gone, and of one two copies remain.
 */
import { createHash } from 'node:crypto';
import { Buffer } from 'node:buffer';
import { csv, odt, pdf } from './makers.js';
import type { DemoFile } from './tree.js';

/** A shortcut to what stood at a path and does not any more, and what was known of it. */
export interface LostShortcut {
  name: string;
  description?: string;
  tags?: string[];
  openings?: number[];
  recorded: { path: string; size: number; mtime: number; fingerprint: string };
}

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const TRANSECTS = ['North cliff', 'South cliff', 'Skerry', 'Lagoon', 'Heath', 'Shingle', 'Harbour', 'Marram'];

/** As the server reads it, of a file of up to 64 KiB. */
const fingerprint = (bytes: Buffer) => createHash('sha256').update(`${bytes.length}\n`).update(bytes).digest('hex');

function lost(
  name: string,
  path: string,
  bytes: Buffer,
  modified: Date,
  more: Partial<LostShortcut> = {},
): LostShortcut {
  return {
    name,
    recorded: { path, size: bytes.length, mtime: modified.getTime(), fingerprint: fingerprint(bytes) },
    ...more,
  };
}

function transect(name: string, year: number, visits: number): Buffer {
  const rows = Array.from({ length: visits }, (_, i) => [
    `${year}-0${4 + (i % 5)}-${String(3 + i * 2).padStart(2, '0')}`,
    name,
    ['Fulmar', 'Wheatear', 'Rock pipit', 'Linnet'][(i * 7 + name.length) % 4]!,
    1 + ((i * 5 + name.length) % 9),
  ]);
  return Buffer.from(csv(['date', 'transect', 'species', 'count'], rows));
}

/** Links that people made by hand, of which one leads nowhere any more: from where, to what. */
export const HAND_MADE_LINKS: readonly [path: string, target: string][] = [
  ['Office/newsletter', 'Newsletter'],
  ['Boat/licence', '../Office/Boat/licence.pdf'],
];

export function trouble(today: Date): { files: DemoFile[]; shortcuts: LostShortcut[] } {
  const year = today.getUTCFullYear() - 1;
  // at ten in the morning
  const ago = (days: number) => new Date(today.getTime() - days * DAY + 10 * HOUR);
  const files: DemoFile[] = [];
  const shortcuts: LostShortcut[] = [];
  for (const [i, name] of TRANSECTS.entries()) {
    const file = `transect ${i + 1} ${name.toLowerCase()}.csv`;
    shortcuts.push(
      lost(`Transect ${name}`, `Survey/Transects ${year}/${file}`, transect(name, year, 11), ago(300), {
        tags: ['field work'],
        openings: [ago(60 + i).getTime(), ago(30 + i).getTime()],
      }),
    );
    // the last one was not taken along
    if (i < TRANSECTS.length - 1)
      files.push({
        path: `Archive/Survey ${year}/Transects/${file}`,
        bytes: transect(name, year, 12),
        modified: ago(20 - i),
      });
  }
  files.push({
    path: 'Boat/Papers/licence.pdf',
    bytes: pdf('Boat licence', ['Held by the observatory. Renewed each spring.']),
    modified: ago(150),
  });
  const form = odt('Trap form', ['Night, trap, lamp, weather.', 'One line for each species, singles counted.']);
  files.push({ path: 'Moths/Templates/trap-form.odt', bytes: form, modified: ago(200) });
  files.push({ path: 'Office/Forms/trap-form (1).odt', bytes: form, modified: ago(40) });
  shortcuts.push(
    lost('Trap form', 'Moths/Old forms/trap-form.odt', form, ago(200), {
      tags: ['moths'],
      openings: [ago(9).getTime(), ago(3).getTime()],
    }),
  );
  shortcuts.push(
    lost(
      `Rota ${year}`,
      `Office/Rota ${year}/rota draft.ods`,
      Buffer.from(`rota of ${year}, set up by hand`),
      ago(260),
      {
        openings: [ago(80).getTime()],
      },
    ),
  );
  return { files, shortcuts };
}
