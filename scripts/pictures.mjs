/** npm run pictures -- [NAME…]: a picture of each main view from the demo, into docs/screenshots. */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { runMain, Stop } from './lib/log.mjs';
import { privateCluster } from './lib/postgres.mjs';
import { ensureTestDatabase } from './lib/testDatabase.mjs';
import {
  CHROMIUM,
  DATA,
  ensureBuild,
  ensureChromium,
  ensurePackages,
  ensurePostgres,
  postgresBin,
  ROOT,
} from './lib/prepare.mjs';
import { runAlong } from './lib/run.mjs';

runMain(async () => {
  ensurePackages();
  ensurePostgres();
  ensureChromium();
  ensureBuild();
  const folder = join(DATA, 'test');
  mkdirSync(folder, { recursive: true });
  const cluster = await privateCluster({ bin: postgresBin(), folder, fsync: false });
  try {
    const names = process.argv.slice(2);
    const code = await runAlong(
      process.execPath,
      [
        join(ROOT, 'node_modules/@playwright/test/cli.js'),
        'test',
        '--config',
        join(ROOT, 'e2e/pictures.config.ts'),
        ...(names.length > 0 ? ['--grep', names.join('|')] : []),
      ],
      {
        cwd: ROOT,
        env: {
          ...process.env,
          RELLIN_TEST_CLUSTER: cluster.url('postgres', 'rellin_admin'),
          RELLIN_TEST_DATABASE: await ensureTestDatabase(cluster),
          RELLIN_TEST_CHROMIUM: CHROMIUM,
        },
      },
    );
    if (code !== 0) throw new Stop('Not every picture could be taken.');
  } finally {
    cluster.stop();
  }
});
