/** npm run demo: the Marrowick Head observatory, made up, on real files below .data/demo. */
import { existsSync, mkdirSync, openSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { runMain, say, Stop } from './lib/log.mjs';
import { DATA, ensureBuild, ensurePackages, ensurePostgres, postgresBin, ROOT } from './lib/prepare.mjs';
import { privateCluster } from './lib/postgres.mjs';
import { demoEnvironment } from './lib/demoEnvironment.mjs';
import { runningAddress, serve } from './lib/serve.mjs';

const SEED = 7;

const HELP = `npm run demo -- [--fresh] [--leave-nothing] [--remove]

  --fresh           starts over
  --leave-nothing   removes all of it when it stops
  --remove          removes what an earlier run left, and does not start`;

const demoFolder = process.env.RELLIN_DEMO_DATA ?? join(DATA, 'demo');
/** Rellin's own data lie beside the observatory's files: what is Rellin's own is outside every place. */
const dataFolder = join(demoFolder, 'rellin');

/** An earlier version kept them around the files. */
function bringOwnData() {
  if (existsSync(dataFolder) || !existsSync(join(demoFolder, 'command-token'))) return;
  mkdirSync(dataFolder, { mode: 0o700 });
  for (const name of readdirSync(demoFolder))
    if (!['rellin', 'files', 'written'].includes(name)) renameSync(join(demoFolder, name), join(dataFolder, name));
}

/** All of it: its files, its catalogue, its database. */
async function remove() {
  if (await runningAddress(dataFolder)) throw new Stop('The demo is running. Stop it first.');
  if (!existsSync(demoFolder)) return;
  const cluster = existsSync(dataFolder) ? await privateCluster({ bin: postgresBin(), folder: dataFolder }) : undefined;
  cluster?.stop();
  cluster?.remove();
  rmSync(demoFolder, { recursive: true, force: true });
}

runMain(async () => {
  const args = process.argv.slice(2);
  const unknown = args.filter((a) => !['--fresh', '--leave-nothing', '--remove'].includes(a));
  if (unknown.length > 0) throw new Stop(`Unknown: ${unknown.join(' ')}\n\n${HELP}`);
  // run as the example of a Rellin: it ends with it
  if (process.env.RELLIN_EXAMPLE_OF)
    process.stdin
      .on('end', () => process.kill(process.pid, 'SIGTERM'))
      .resume()
      .unref();
  ensurePackages();
  ensurePostgres();
  ensureBuild();
  bringOwnData();
  if (args.includes('--remove')) return remove();
  if (args.includes('--fresh')) {
    say('Starting over …');
    await remove();
  }
  const { demoFolders, OPEN_IN_INBOX, writeDemo } = await import(join(ROOT, 'packages/demo/dist/index.js'));
  mkdirSync(demoFolder, { recursive: true });
  const files = join(demoFolder, 'files');
  const at = demoFolders(files);
  const written = join(demoFolder, 'written');
  const first = !existsSync(written);
  if (first) {
    say('Writing the observatory’s files …');
    // the date given is for tests and pictures; otherwise the demo ends today
    const today = new Date(`${process.env.RELLIN_DEMO_DATE ?? new Date().toISOString().slice(0, 10)}T00:00:00Z`);
    const n = writeDemo(files, SEED, today);
    writeFileSync(written, `${n} files, seed ${SEED}, ${today.toISOString().slice(0, 10)}\n`);
  }
  // somebody writes on it while the demo runs: a sweep leaves it alone
  const inHand = join(at.marrowick, OPEN_IN_INBOX);
  if (existsSync(inHand)) openSync(inHand, 'r');
  say(`The demo holds ${readFileSync(written, 'utf8').trim()}.`);
  await serve({
    dataFolder,
    env: demoEnvironment(at),
    async onListening({ address, token }) {
      if (!first) return;
      // the share begins away, so that there is something to see come back
      const call = (path, method = 'GET') =>
        fetch(`${address}/api${path}`, { method, headers: { authorization: `Bearer ${token}` } }).then((r) => r.json());
      const share = (await call('/places')).find((p) => p.name === 'Station share');
      if (share) await call(`/places/${share.id}/disconnect`, 'POST');
    },
  });
  if (args.includes('--leave-nothing')) await remove();
});
