import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The passphrase's hash in a table of its own: it is no setting, and only signing in reads it. */
export class Passphrase1700002000000 implements MigrationInterface {
  name = 'Passphrase1700002000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE passphrase (only_row boolean PRIMARY KEY DEFAULT true CHECK (only_row), hash text NOT NULL)`,
    );
    await runner.query(
      `INSERT INTO passphrase (hash)
       SELECT value #>> '{}' FROM setting WHERE id = 'passphrase' AND value #>> '{}' IS NOT NULL`,
    );
    await runner.query(`DELETE FROM setting WHERE id = 'passphrase'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`INSERT INTO setting (id, value) SELECT 'passphrase', to_jsonb(hash) FROM passphrase`);
    await runner.query(`DROP TABLE passphrase`);
  }
}
