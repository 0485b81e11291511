import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was filed where: written before the disk is touched, so that a crash in between is finished or taken back. */
export class Filing1700000200000 implements MigrationInterface {
  async up(db: QueryRunner): Promise<void> {
    await db.query(`
      CREATE TABLE filing (
        id uuid PRIMARY KEY,
        state text NOT NULL CHECK (state IN ('intent', 'done')),
        made_folder text,
        items jsonb NOT NULL,
        at timestamptz NOT NULL DEFAULT now()
      );
      -- those whose disk may not be as their row says; of its own, so that it can be written while the row is locked
      CREATE TABLE filing_busy (filing_id uuid PRIMARY KEY);
    `);
  }

  async down(): Promise<void> {
    throw new Error('Filing is not undone');
  }
}
