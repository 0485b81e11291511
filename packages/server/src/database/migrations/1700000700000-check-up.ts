import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What the person leaves alone, what was silenced of the review, and when all was looked at last. */
export class CheckUp1700000700000 implements MigrationInterface {
  name = 'CheckUp1700000700000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE shortcut ADD COLUMN left_alone boolean NOT NULL DEFAULT false;
      CREATE TABLE review_silence (id text PRIMARY KEY, at timestamptz NOT NULL DEFAULT now());
      CREATE TABLE check_up (id integer PRIMARY KEY DEFAULT 1 CHECK (id = 1), checked_at timestamptz);
      INSERT INTO check_up DEFAULT VALUES;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TABLE check_up;
      DROP TABLE review_silence;
      ALTER TABLE shortcut DROP COLUMN left_alone;
    `);
  }
}
