/** A PostgreSQL cluster of a test's own, made by what the start command makes it with. */
import { chmodSync } from 'node:fs';

export interface Cluster {
  url(database?: string, role?: string): string;
  isRunning(): boolean;
  start(): void;
  stop(): void;
  remove(): void;
  ensureDatabase(name?: string): void;
}

export async function testCluster(folder: string, more: object = {}): Promise<Cluster> {
  const { privateCluster } = (await import('../../../../scripts/lib/postgres.mjs' as string)) as {
    privateCluster(options: object): Promise<Cluster>;
  };
  chmodSync(folder, 0o755);
  return privateCluster({ bin: process.env['RELLIN_TEST_PG_BIN'], folder, fsync: false, ...more });
}
