/**
 * A database with the whole schema and no rows, made once for a test run: each test's own is a copy of it, which spares
 * its server all migrations. That they run on an empty database is tested on its own (starting.test.ts).
 */
import { join } from 'node:path';
import { ROOT } from './prepare.mjs';

const NAME = 'rellin_migrated';

/** @returns {Promise<string>} Its name. */
export async function ensureTestDatabase(cluster) {
  // it may be of an earlier build
  cluster.dropDatabase(NAME);
  cluster.ensureDatabase(NAME);
  const { dataSourceFor } = await import(join(ROOT, 'packages/server/dist/database/database.module.js'));
  const source = await dataSourceFor(cluster.url(NAME)).initialize();
  try {
    await source.runMigrations({ transaction: 'each' });
  } finally {
    await source.destroy();
  }
  return NAME;
}
