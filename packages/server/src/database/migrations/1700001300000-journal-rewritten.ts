import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What a line rewrote of thousands of rows, a row each, written as it happens: to put them together in the line's own
 * took a third of a follow. No foreign key, which would be looked up for each; lines that rewrite are never deleted.
 */
export class JournalRewritten1700001300000 implements MigrationInterface {
  name = 'JournalRewritten1700001300000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE journal_rewritten (journal_id bigint NOT NULL, change json NOT NULL);
      CREATE INDEX journal_rewritten_line ON journal_rewritten (journal_id);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      UPDATE journal j SET changes = j.changes || r.changes
      FROM (SELECT journal_id, jsonb_agg(change) AS changes FROM journal_rewritten GROUP BY 1) r WHERE j.id = r.journal_id;
      DROP TABLE journal_rewritten;
    `);
  }
}
