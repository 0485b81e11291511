import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Pictures of shortcuts and collections, programs to open with, quick filters. */
export class Pictures1700000300000 implements MigrationInterface {
  async up(db: QueryRunner): Promise<void> {
    await db.query(`
      ALTER TABLE shortcut ADD COLUMN picture text NOT NULL DEFAULT '', ADD COLUMN open_with text;
      ALTER TABLE collection RENAME COLUMN icon TO picture;
      -- bytes by their own digest; not journaled: an undo only points to them again
      CREATE TABLE picture (
        id text PRIMARY KEY,
        bytes bytea NOT NULL,
        added_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE TABLE quick_filter (
        id uuid PRIMARY KEY,
        name text NOT NULL,
        keys text,
        filter jsonb NOT NULL,
        added_at timestamptz NOT NULL DEFAULT now()
      );
      -- what the user's mimeapps.list was told; its file follows these rows
      CREATE TABLE told_default (
        id uuid PRIMARY KEY,
        mime text NOT NULL,
        program_id text NOT NULL,
        before text,
        at timestamptz NOT NULL DEFAULT now()
      );
    `);
  }

  async down(): Promise<void> {
    throw new Error('Pictures are not undone');
  }
}
