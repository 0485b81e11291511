/**
 * Shortcuts over ten thousand random histories of their files, many side by side: a third while Rellin runs, a third
 * while it is stopped, a third over a stop and a start. RELLIN_BENCH_HISTORIES makes it fewer, RELLIN_BENCH_FIRST
 * begins at another seed, and RELLIN_BENCH_HOW names one way for all.
 */
import { existsSync, mkdirSync, mkdtempSync, realpathSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { seeded } from '../packages/core/dist/random/index.js';
import { ACTS, FileHistory } from '../scripts/lib/fileHistory.mjs';
import { say } from '../scripts/lib/log.mjs';
import { withCatalogue } from './index.walks.mjs';
import { insertShortcuts, lookedThrough, settle } from './repair.mjs';

const HISTORIES = Number(process.env['RELLIN_BENCH_HISTORIES'] ?? 10_000);
const FIRST = Number(process.env['RELLIN_BENCH_FIRST'] ?? 1);
const AT_ONCE = 250;
const WAYS = ['live', 'stopped', 'mixed'];
const HOW = process.env['RELLIN_BENCH_HOW']?.split(',') ?? WAYS;
const SHM = '/dev/shm';
const LATER_MS = 5000;

const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Each history by itself, from one act to another; none waits for the others. */
const actsOf = (worlds, from, to, waiting) =>
  Promise.all(
    worlds.map(async (world) => {
      for (let n = from; n < to; n++) {
        world.act();
        const wait = world.pause();
        world.trail.push(`${wait} ms`);
        if (waiting) await pause(wait);
      }
    }),
  );

const compared = (world, shortcuts) => world.compare(shortcuts.filter((s) => world.truth.has(s.id)));

/** That many histories on a fresh catalogue, all in one way; adds what became of them to `sum`. */
async function batch(first, count, how, sum) {
  const base = realpathSync(mkdtempSync(join(tmpdir(), 'rellin-histories-')));
  const shm =
    existsSync(SHM) && statSync(SHM).dev !== statSync(base).dev
      ? mkdtempSync(join(SHM, 'rellin-histories-'))
      : undefined;
  const root = join(base, 'home');
  mkdirSync(root);
  try {
    await withCatalogue(async (client, url) => {
      const worlds = Array.from(
        { length: count },
        (_, i) => new FileHistory(join(root, `h${first + i}`), seeded(first + i), shm),
      );
      const paths = worlds.map((world) => world.begin());
      const roots = [['home', root], ...(shm ? [['elsewhere', shm]] : [])];
      const { serve, placeId } = await lookedThrough(client, url, /** @type {[string, string][]} */ (roots));
      const below = (path) => path.slice(root.length + 1);
      await insertShortcuts(client, placeId, root, paths.flat().map(below));
      // some have a second shortcut
      await insertShortcuts(client, placeId, root, paths.flatMap((list) => list.slice(0, 3)).map(below));
      const made = await client.query(`SELECT id, identity->>'path' AS path FROM shortcut`);
      const worldOf = new Map(worlds.map((world) => [world.root, world]));
      for (const { id, path } of made.rows) {
        const at = join(root, path);
        worldOf.get(at.slice(0, at.indexOf('/', root.length + 1)))?.truth.set(id, at);
      }
      const look = async (server) => {
        await settle(client, server);
        let shortcuts = await server.call('GET', '/shortcuts');
        for (const world of worlds) {
          const { wrong, missed } = compared(world, shortcuts);
          sum.alive += world.alive();
          sum.missed += missed.length;
          sum.wrong += wrong.length;
          if (wrong.length > 0)
            sum.first.push(
              `history ${world.root.slice(root.length + 2)} (${how}): ${wrong[0]} after ${world.trail.join(', ')}`,
            );
        }
        if (!worlds.some((world) => compared(world, shortcuts).wrong.length > 0)) return;
        // what opened another's file is counted; whether it still does a while later tells what kind of fault it is
        await pause(LATER_MS);
        await settle(client, server);
        shortcuts = await server.call('GET', '/shortcuts');
        for (const world of worlds) sum.stillWrong += compared(world, shortcuts).wrong.length;
      };
      if (how === 'live')
        await serve(async (server) => {
          await actsOf(worlds, 0, ACTS, true);
          await look(server);
        });
      else {
        if (how === 'mixed') await serve(() => actsOf(worlds, 0, 4, true));
        await actsOf(worlds, how === 'mixed' ? 4 : 0, how === 'mixed' ? 8 : ACTS, false);
        await serve(async (server) => {
          if (how === 'mixed') await actsOf(worlds, 8, ACTS, true);
          await look(server);
        });
      }
    });
  } finally {
    rmSync(base, { recursive: true, force: true });
    if (shm) rmSync(shm, { recursive: true, force: true });
  }
}

/** Takes two hours. */
export async function repairHistories() {
  const sums = new Map(HOW.map((how) => [how, { alive: 0, missed: 0, wrong: 0, stillWrong: 0, first: [] }]));
  for (let done = 0, n = 0; done < HISTORIES; done += AT_ONCE, n++) {
    const how = HOW[n % HOW.length];
    await batch(FIRST + done, Math.min(AT_ONCE, HISTORIES - done), how, sums.get(how));
    say(`  ${Math.min(done + AT_ONCE, HISTORIES)} histories`);
  }
  return [...sums].map(([how, { alive, missed, wrong, stillWrong, first }]) => ({
    value: wrong,
    unit: 'count',
    note: `${how}: opened another's file; bar 0; right for ${(1 - missed / alive).toFixed(4)} of ${alive} that are there; ${stillWrong} of them still wrong ${LATER_MS / 1000} s later${first.map((f) => `; ${f}`).join('')}`,
  }));
}
