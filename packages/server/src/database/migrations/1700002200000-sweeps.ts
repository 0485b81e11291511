import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Kept sweeps, and a log of what was swept. */
export class Sweeps1700002200000 implements MigrationInterface {
  name = 'Sweeps1700002200000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE sweep (
        id uuid PRIMARY KEY,
        name text NOT NULL CHECK (name <> ''),
        folders jsonb NOT NULL,
        rules jsonb NOT NULL,
        recent_minutes integer NOT NULL,
        link_days integer NOT NULL,
        threshold jsonb NOT NULL,
        by_itself boolean NOT NULL,
        added_at timestamptz NOT NULL
      );
      -- observed, not part of what an undo takes back; of the filing of the same id, which may be gone by now
      CREATE TABLE sweep_run (
        id uuid PRIMARY KEY,
        sweep_id uuid,
        at timestamptz NOT NULL DEFAULT now(),
        name text NOT NULL,
        by text NOT NULL CHECK (by IN ('person', 'automatic')),
        went jsonb NOT NULL,
        left_there integer NOT NULL,
        journal_id bigint,
        undone_at timestamptz,
        -- at its old spot, and where each leads
        links jsonb NOT NULL DEFAULT '[]',
        links_until timestamptz
      );
      CREATE INDEX sweep_run_at ON sweep_run (at);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE sweep_run; DROP TABLE sweep`);
  }
}
