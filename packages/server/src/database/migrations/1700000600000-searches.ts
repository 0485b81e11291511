import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Saved searches, what came to them and went, their sizes by day; pins, members and tags of them; contents of files.
 */
export class Searches1700000600000 implements MigrationInterface {
  async up(db: QueryRunner): Promise<void> {
    await db.query(`
      CREATE TABLE saved_search (
        id uuid PRIMARY KEY,
        name text NOT NULL CHECK (name <> ''),
        description text NOT NULL DEFAULT '',
        query text NOT NULL,
        places integer[],
        show_as text NOT NULL DEFAULT 'table',
        sort_by text NOT NULL DEFAULT 'name',
        descending boolean NOT NULL DEFAULT false,
        most integer NOT NULL DEFAULT 500,
        colour text NOT NULL DEFAULT '',
        keys text,
        muted boolean NOT NULL DEFAULT false,
        added_at timestamptz NOT NULL,
        removed_at timestamptz
      );

      -- observed, not part of what an undo takes back
      CREATE TABLE search_status (
        search_id uuid PRIMARY KEY REFERENCES saved_search ON DELETE CASCADE,
        asked_at timestamptz NOT NULL DEFAULT now(),
        looked_at timestamptz NOT NULL DEFAULT now(),
        count bigint NOT NULL DEFAULT 0
      );
      CREATE TABLE search_change (
        id bigserial PRIMARY KEY,
        search_id uuid NOT NULL REFERENCES saved_search ON DELETE CASCADE,
        at timestamptz NOT NULL,
        came boolean NOT NULL,
        place_id integer NOT NULL,
        original_id bigint NOT NULL,
        name text NOT NULL,
        trail text[] NOT NULL
      );
      CREATE INDEX search_change_of ON search_change (search_id, at);
      CREATE TABLE search_size (
        search_id uuid NOT NULL REFERENCES saved_search ON DELETE CASCADE,
        day date NOT NULL,
        count bigint NOT NULL,
        PRIMARY KEY (search_id, day)
      );

      ALTER TABLE member ADD COLUMN search_id uuid REFERENCES saved_search ON DELETE CASCADE;
      ALTER TABLE member DROP CONSTRAINT member_check;
      ALTER TABLE member ADD CONSTRAINT member_of_one CHECK (num_nonnulls(shortcut_id, child_id, search_id) = 1);
      ALTER TABLE member ADD UNIQUE (collection_id, search_id);
      CREATE INDEX member_search ON member (search_id) WHERE search_id IS NOT NULL;

      ALTER TABLE pin ADD COLUMN search_id uuid UNIQUE REFERENCES saved_search ON DELETE CASCADE;
      ALTER TABLE pin DROP CONSTRAINT pin_of_one;
      ALTER TABLE pin ADD CONSTRAINT pin_of_one
        CHECK (num_nonnulls(shortcut_id, collection_id, tag_id, search_id) = 1);

      ALTER TABLE tagging ADD COLUMN search_id uuid REFERENCES saved_search ON DELETE CASCADE;
      ALTER TABLE tagging DROP CONSTRAINT tagging_check;
      ALTER TABLE tagging ADD CONSTRAINT tagging_of_one CHECK (num_nonnulls(shortcut_id, original_id, search_id) = 1);
      ALTER TABLE tagging ADD UNIQUE (tag_id, search_id);

      -- what files hold, as far as it could be read; size and mtime say of which state of the file
      CREATE TABLE content (
        place_id integer NOT NULL,
        original_id bigint NOT NULL,
        size bigint NOT NULL,
        mtime double precision NOT NULL,
        body text NOT NULL,
        words tsvector NOT NULL,
        PRIMARY KEY (place_id, original_id)
      );
      CREATE INDEX content_words ON content USING gin (words);
    `);
  }

  async down(): Promise<void> {
    throw new Error('Saved searches are not undone');
  }
}
