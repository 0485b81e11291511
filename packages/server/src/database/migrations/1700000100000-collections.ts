import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Collections and their members, tags, what goes with a shortcut; pins of more than shortcuts. */
export class Collections1700000100000 implements MigrationInterface {
  async up(db: QueryRunner): Promise<void> {
    await db.query(`
      CREATE TABLE collection (
        id uuid PRIMARY KEY,
        name text NOT NULL CHECK (name <> ''),
        description text NOT NULL DEFAULT '',
        type text NOT NULL CHECK (type IN ('plain', 'mirror', 'working-set')),
        colour text NOT NULL DEFAULT '',
        icon text NOT NULL DEFAULT '',
        sort_by text NOT NULL DEFAULT 'own',
        show_as text NOT NULL DEFAULT 'auto',
        mirror_of uuid REFERENCES shortcut ON DELETE CASCADE,
        until timestamptz,
        last_members jsonb NOT NULL DEFAULT '[]',
        keys text,
        revision bigint NOT NULL DEFAULT 1,
        added_at timestamptz NOT NULL,
        removed_at timestamptz,
        CHECK ((type = 'mirror') = (mirror_of IS NOT NULL))
      );

      CREATE TABLE member (
        id uuid PRIMARY KEY,
        collection_id uuid NOT NULL REFERENCES collection ON DELETE CASCADE,
        shortcut_id uuid REFERENCES shortcut ON DELETE CASCADE,
        child_id uuid REFERENCES collection ON DELETE CASCADE,
        sort double precision NOT NULL,
        keep_first boolean NOT NULL DEFAULT false,
        added_at timestamptz NOT NULL DEFAULT now(),
        CHECK (num_nonnulls(shortcut_id, child_id) = 1),
        UNIQUE (collection_id, shortcut_id),
        UNIQUE (collection_id, child_id)
      );
      CREATE INDEX member_shortcut ON member (shortcut_id) WHERE shortcut_id IS NOT NULL;
      CREATE INDEX member_child ON member (child_id) WHERE child_id IS NOT NULL;

      CREATE TABLE tag (
        id uuid PRIMARY KEY,
        name text NOT NULL CHECK (name <> ''),
        colour text NOT NULL
      );
      CREATE UNIQUE INDEX tag_name ON tag (lower(name));

      CREATE TABLE tagging (
        id uuid PRIMARY KEY,
        tag_id uuid NOT NULL REFERENCES tag ON DELETE CASCADE,
        shortcut_id uuid REFERENCES shortcut ON DELETE CASCADE,
        place_id integer,
        original_id bigint,
        CHECK ((shortcut_id IS NOT NULL) <> (original_id IS NOT NULL)),
        UNIQUE (tag_id, shortcut_id),
        UNIQUE (tag_id, place_id, original_id)
      );
      CREATE INDEX tagging_shortcut ON tagging (shortcut_id) WHERE shortcut_id IS NOT NULL;
      CREATE INDEX tagging_original ON tagging (place_id, original_id) WHERE original_id IS NOT NULL;

      CREATE TABLE companion (
        id uuid PRIMARY KEY,
        shortcut_id uuid NOT NULL REFERENCES shortcut ON DELETE CASCADE,
        with_id uuid NOT NULL REFERENCES shortcut ON DELETE CASCADE,
        sort double precision NOT NULL,
        CHECK (shortcut_id <> with_id),
        UNIQUE (shortcut_id, with_id)
      );

      ALTER TABLE shortcut ADD COLUMN keys text;

      ALTER TABLE pin ALTER COLUMN shortcut_id DROP NOT NULL;
      ALTER TABLE pin ADD COLUMN collection_id uuid UNIQUE REFERENCES collection ON DELETE CASCADE;
      ALTER TABLE pin ADD COLUMN tag_id uuid UNIQUE REFERENCES tag ON DELETE CASCADE;
      ALTER TABLE pin ADD COLUMN aside boolean NOT NULL DEFAULT false;
      ALTER TABLE pin ADD CONSTRAINT pin_of_one CHECK (num_nonnulls(shortcut_id, collection_id, tag_id) = 1);
    `);
  }

  async down(): Promise<void> {
    throw new Error('Collections are not undone');
  }
}
