/**
 * Watching 20,000 folders beside `find` without stat, and how long a change takes from the disk to a saved search's
 * answer.
 */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { seeded } from '../packages/core/dist/random/index.js';
import { compileExcludes } from '../packages/server/dist/indexing/excludes.js';
import { rootEntry } from '../packages/server/dist/indexing/scan.js';
import { PlaceWatcher, watchLimit } from '../packages/server/dist/indexing/watcher.js';
import { newPlace, scanned, withCatalogue } from './index.walks.mjs';
import { median, timed } from './measure.mjs';
import { withServer } from './server.mjs';

const FOLDERS = 20_000;

/** Folders below a new root, from a seed. */
function folders(count) {
  const root = mkdtempSync(join(tmpdir(), 'rellin-watch-'));
  const random = seeded(4);
  const made = [root];
  for (let i = 0; i < count; i++) {
    const folder = join(random.pick(made), `f${i}`);
    mkdirSync(folder);
    made.push(folder);
  }
  return root;
}

export async function watchReady() {
  const root = folders(FOLDERS);
  try {
    return await withCatalogue(async (client) => {
      const placeId = await newPlace(client);
      await scanned(client, { placeId, root, excludes: [] });
      const inode = rootEntry(root);
      if (!inode) throw new Error(`${root} is gone`);
      const find = () => spawnSync('find', [root, '-printf', '.'], { maxBuffer: 1 << 26 });
      find();
      const ours = [];
      const theirs = [];
      let limited = false;
      for (let i = 0; i < 5; i++) {
        theirs.push(await timed(find));
        const watcher = new PlaceWatcher(placeId, root, inode.inode, inode.dev, {
          exclusively: (work) => work(/** @type {never} */ (client)),
          onWritten: () => undefined,
          onRootGone: () => undefined,
          onOverflow: () => undefined,
          onSlowed: () => undefined,
          onTrouble: () => undefined,
        });
        ours.push(await timed(() => watcher.start(client, compileExcludes([]))));
        limited = watcher.limited;
        watcher.close();
      }
      return [
        {
          value: median(ours),
          unit: 'ms',
          reference: 'find without stat',
          referenceValue: median(theirs),
          ratio: median(ours) / median(theirs),
          note: `${FOLDERS} folders, one watch each${limited ? `; the system allows ${watchLimit()}, not all were set` : ''}; bar 2.5`,
        },
      ];
    });
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
}

/** From writing a file to the saved search that it belongs to, as a page would read it. */
export async function watchEvent() {
  const root = folders(2000);
  try {
    return await withServer({ places: [{ name: 'place', root, type: 'fixed' }] }, async ({ call, until }) => {
      await until(
        () => call('GET', '/places'),
        ([p]) => p.scan === 'done' && p.watching !== 'off',
      );
      const { id } = await call('POST', '/searches', { name: 'Arrived', query: 'arrived' });
      const times = [];
      for (let i = 0; i < 30; i++)
        times.push(
          await timed(async () => {
            writeFileSync(join(root, `arrived ${i}.txt`), '');
            await until(
              () => call('GET', `/searches/${id}`),
              (s) => s.count === i + 1,
            );
          }),
        );
      times.sort((a, b) => a - b);
      return [
        {
          value: times[Math.ceil(times.length * 0.95) - 1],
          unit: 'ms p95',
          note: `one file written until the saved search has it; median ${median(times).toFixed(0)} ms; a second is asked`,
        },
      ];
    });
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
}
