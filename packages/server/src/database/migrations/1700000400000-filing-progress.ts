import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * How many of a filing's things came to their end: a number beside them, so that a thousand are not written a thousand
 * times.
 */
export class FilingProgress1700000400000 implements MigrationInterface {
  async up(db: QueryRunner): Promise<void> {
    await db.query(`ALTER TABLE filing ADD COLUMN filed integer NOT NULL DEFAULT 0`);
  }

  async down(): Promise<void> {
    throw new Error('Filing is not undone');
  }
}
