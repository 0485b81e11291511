/**
 * The observatory's inbox: what came by mail, from cards and from the scanner and was never filed. Some of it is filed
 * already, one file is not fetched completely, and one is open while the demo runs.
 */
import { seeded } from '@rellin/core/random';
import { csv, odt, pdf, png, wav } from './makers.js';
import { MOTHS, PHOTO_SPOTS, VOLUNTEERS } from './scenario.js';
import type { DemoFile, DemoTree } from './tree.js';

const DAY = 86_400_000;
const FOLDER = 'Inbox';
/** What the demo's script holds open, below the place. */
export const OPEN_IN_INBOX = `${FOLDER}/ringing rota, draft.odt`;
const COPIES = 34;

/** Files below the place Marrowick. `tree` is what is filed: some of it lies here once more. */
export function makeInbox(seed: number, today: Date, tree: DemoTree): DemoFile[] {
  const random = seeded(seed + 1);
  const year = today.getUTCFullYear();
  const files = new Map<string, DemoFile>();
  const back = (days: number) => new Date(today.getTime() - days * DAY + random.int(6, 20) * 3_600_000);
  const put = (name: string, bytes: Buffer | string, days: number) =>
    files.set(name, {
      path: `${FOLDER}/${name}`,
      bytes: typeof bytes === 'string' ? Buffer.from(bytes, 'utf8') : bytes,
      modified: back(days),
    });
  const two = (n: number) => String(n).padStart(2, '0');
  const dayOf = (days: number) => new Date(today.getTime() - days * DAY).toISOString().slice(0, 10);

  for (let i = 0; i < 70; i++)
    put(`IMG_${3001 + i} ${random.pick(PHOTO_SPOTS)}.png`, png(random), 2 + Math.floor(i / 2));
  for (let i = 0; i < 26; i++) put(`roost-${dayOf(3 + 2 * i)}.wav`, wav(random, 0.5), 3 + 2 * i);
  for (let i = 0; i < 24; i++)
    put(
      `moth-trap-${dayOf(4 + 3 * i)}.csv`,
      csv(['species', 'count'], [[random.pick(MOTHS), random.int(1, 40)]]),
      4 + 3 * i,
    );
  for (let i = 0; i < 22; i++)
    put(
      `invoice ${two(51 + i).padStart(3, '0')}.pdf`,
      pdf(`Invoice ${51 + i}`, ['Diesel', 'Rope', 'Paint']),
      5 + 4 * i,
    );
  for (const [i, month] of ['jan', 'feb', 'mar', 'apr'].entries())
    put(`tides-${month}-${year + 1}.csv`, csv(['time', 'height'], [['06:10', 4.1 + i]]), 12 + i);
  for (let i = 0; i < 4; i++) put(`weather-${year + 1}-${two(i + 1)}.csv`, csv(['day', 'wind'], [[1, i]]), 9 + i);
  for (let i = 0; i < 36; i++)
    put(`Scan ${two(i + 1).padStart(4, '0')}.pdf`, pdf(`Scan ${i + 1}`, ['A page.']), 6 + 2 * i);
  for (let i = 0; i < 22; i++)
    put(`Screenshot ${dayOf(3 + 4 * i)} ${two(random.int(8, 19))}-${two(i)}.png`, png(random, 64, 40), 3 + 4 * i);
  for (const who of VOLUNTEERS)
    for (let i = 0; i < 4; i++)
      put(
        `letter from ${who}${i === 0 ? '' : `, ${i + 1}`}.odt`,
        odt('Letter', [`Dear all, this is ${who}.`, `No. ${i}`]),
        20 + i * 17,
      );
  for (let i = 0; i < 18; i++) put(`~backup ${two(i + 1)}.tmp`, `backup ${i}\n`, 30 + i * 3);
  for (let i = 0; i < 12; i++) put(`untitled ${i + 1}.txt`, `untitled ${i}\n`, 15 + i * 8);

  // a program keeps the name free while it writes beside it; what it writes is left out of the place
  put('North cliff panorama.png', '', 3);
  put('North cliff panorama.png.part', png(random), 3);
  put(OPEN_IN_INBOX.slice(FOLDER.length + 1), odt('Ringing rota', ['First draft.']), 4);

  const small = tree.marrowick.filter(
    (f) => typeof f.path === 'string' && f.bytes.length > 200 && f.bytes.length < 60_000,
  );
  for (let i = 0; i < COPIES; i++) {
    const { path, bytes } = random.pick(small);
    const name = String(path).split('/').pop()!;
    const dot = name.lastIndexOf('.');
    put(dot > 0 ? `${name.slice(0, dot)} (1)${name.slice(dot)}` : `${name} (1)`, bytes, 7 + i * 2);
  }
  return [...files.values()];
}
