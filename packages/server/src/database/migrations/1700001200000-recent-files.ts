import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Up to when the recent-files list was counted; pins that stay where they are. */
export class RecentFiles1700001200000 implements MigrationInterface {
  name = 'RecentFiles1700001200000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE recent_files (only_row boolean PRIMARY KEY DEFAULT true CHECK (only_row), counted_until timestamptz NOT NULL);
      ALTER TABLE pin ADD COLUMN kept boolean NOT NULL DEFAULT false;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE pin DROP COLUMN kept; DROP TABLE recent_files`);
  }
}
