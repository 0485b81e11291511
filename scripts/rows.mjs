/** npm run rows: writes the types of the database's rows from a freshly migrated one, after a new migration. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { runMain, say } from './lib/log.mjs';
import { privateCluster } from './lib/postgres.mjs';
import { DATA, ensureBuild, ensurePackages, ensurePostgres, postgresBin, ROOT } from './lib/prepare.mjs';
import { rowTypes } from './lib/rowTypes.mjs';

runMain(async () => {
  ensurePackages();
  ensurePostgres();
  ensureBuild();
  const { dataSourceFor } = await import(join(ROOT, 'packages/server/dist/database/database.module.js'));
  const folder = join(DATA, 'rows');
  mkdirSync(folder, { recursive: true });
  const cluster = await privateCluster({ bin: postgresBin(), folder, fsync: false });
  try {
    cluster.dropDatabase('rows');
    cluster.ensureDatabase('rows');
    const source = await dataSourceFor(cluster.url('rows')).initialize();
    await source.runMigrations({ transaction: 'each' });
    await source.destroy();
    const client = new pg.Client({ connectionString: cluster.url('rows') });
    await client.connect();
    writeFileSync(join(ROOT, 'packages/server/src/database/rows.ts'), await rowTypes(client));
    await client.end();
    say('packages/server/src/database/rows.ts');
  } finally {
    cluster.stop();
  }
});
