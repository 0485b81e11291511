import type { MigrationInterface, QueryRunner } from 'typeorm';

/** By what a place is known again: its file system, and its path from the top of that. */
export class FileSystems1700000800000 implements MigrationInterface {
  name = 'FileSystems1700000800000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE place ADD COLUMN file_system text, ADD COLUMN file_system_path text`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE place DROP COLUMN file_system, DROP COLUMN file_system_path`);
  }
}
