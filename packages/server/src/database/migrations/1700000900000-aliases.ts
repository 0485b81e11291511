import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Aliases and publications, and what of them stands on the disk. */
export class Aliases1700000900000 implements MigrationInterface {
  name = 'Aliases1700000900000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE alias (
        id uuid PRIMARY KEY,
        shortcut_id uuid NOT NULL REFERENCES shortcut ON DELETE CASCADE,
        place_id integer NOT NULL,
        folder_id bigint NOT NULL,
        name text NOT NULL CHECK (name <> ''),
        taken text,
        added_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE INDEX alias_shortcut ON alias (shortcut_id);

      CREATE TABLE publication (
        id uuid PRIMARY KEY,
        collection_id uuid REFERENCES collection ON DELETE CASCADE,
        tag_id uuid REFERENCES tag ON DELETE CASCADE,
        search_id uuid REFERENCES saved_search ON DELETE CASCADE,
        place_id integer,
        folder_id bigint,
        name text NOT NULL CHECK (name <> ''),
        ordered boolean NOT NULL DEFAULT false,
        as_menu boolean NOT NULL DEFAULT false,
        added_at timestamptz NOT NULL DEFAULT now(),
        CHECK (num_nonnulls(collection_id, tag_id, search_id) = 1),
        CHECK (as_menu = (place_id IS NULL) AND as_menu = (folder_id IS NULL))
      );

      -- not journaled: what was written, and what was about to be; paths are below the place
      CREATE TABLE written_link (
        key text PRIMARY KEY,
        place_id integer NOT NULL,
        form text NOT NULL CHECK (form IN ('link', 'entry', 'folder')),
        name text NOT NULL,
        now_path text,
        now_content text,
        next_path text,
        next_content text,
        inode double precision,
        is_foreign boolean NOT NULL DEFAULT false,
        before_taken text,
        trouble text
      );
      CREATE INDEX written_link_place ON written_link (place_id);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE written_link; DROP TABLE publication; DROP TABLE alias`);
  }
}
