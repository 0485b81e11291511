/**
 * What becomes of shortcuts over random histories of their files: renamed, moved, saved in the ways programs save,
 * copied, removed, exchanged, carried to another file system, with their folders, while Rellin runs and while it does
 * not. A shortcut that opens another file than its own is wrong, always; one that has to ask is not.
 */
import { existsSync, mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, it } from '@jest/globals';
import { seeded } from '@rellin/core/random';
import { ACTS, FileHistory } from '../../../scripts/lib/fileHistory.mjs';
import { Rellin, until } from './testing/harness.js';

const HISTORIES = Number(process.env['RELLIN_TEST_HISTORIES'] ?? 9);
const FIRST = Number(process.env['RELLIN_TEST_FIRST'] ?? 1);

const SHM = '/dev/shm';
const elsewhere =
  existsSync(SHM) && statSync(SHM).dev !== statSync(tmpdir()).dev ? mkdtempSync(join(SHM, 'rellin-')) : '';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make();
  if (elsewhere) await rellin.post('/places', { root: elsewhere, name: 'elsewhere' });
});
afterAll(async () => {
  await rellin?.remove();
  if (elsewhere) rmSync(elsewhere, { recursive: true, force: true });
});

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const total = { alive: 0, found: 0 };
const missed: string[] = [];

describe('shortcuts over random histories', () => {
  it.each(Array.from({ length: HISTORIES }, (_, i) => FIRST + i))(
    'never open another’s file (history %i)',
    async (seed) => {
      const world = new FileHistory(join(rellin.place, `h${seed}`), seeded(seed), elsewhere);
      const paths = world.begin();
      await rellin.settled();
      const made = await until(
        () => Promise.all(paths.map((path) => rellin.add(path))).catch(() => undefined),
        (all) => all !== undefined,
      );
      made!.forEach((s, i) => world.truth.set(s.id, paths[i]!));
      // some have a second shortcut
      for (const path of paths.slice(0, 3)) world.truth.set((await rellin.add(path)).id, path);
      await rellin.settled();
      // live, stopped, mixed
      const how = seed % 3;
      try {
        if (how === 1) await rellin.stop();
        for (let n = 0; n < ACTS; n++) {
          if (how === 2 && n === 4) await rellin.stop();
          if (how === 2 && n === 8) await rellin.start();
          world.act();
          const wait = world.pause();
          world.trail.push(`${wait} ms`);
          if (how !== 1) await pause(wait);
        }
      } finally {
        if (how === 1) await rellin.start();
      }
      const look = async () => world.compare(await rellin.get('/shortcuts'));
      const end = await until(look, ({ wrong, missed }) => wrong.length + missed.length === 0, 6000).catch(look);
      const alive = world.alive();
      total.alive += alive;
      total.found += alive - end.missed.length;
      missed.push(...end.missed.map((m) => `${seed}: ${m}`));
      if (end.wrong.length > 0) throw new Error(`${end.wrong.join('\n')}\nafter\n${world.trail.join('\n')}`);
      await rellin.post('/shortcuts/remove', { ids: [...world.truth.keys()] });
      rmSync(world.root, { recursive: true });
    },
    60_000,
  );

  it('find nearly all that are still there', () => {
    const share = total.found / total.alive;
    if (share < 0.9) throw new Error(`only ${share.toFixed(3)} were found; missed:\n${missed.join('\n')}`);
  });
});
