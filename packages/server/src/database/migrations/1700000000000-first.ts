import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The first schema. Originals are a tree of names partitioned by place: a folder that moves is one changed row. */
export class First1700000000000 implements MigrationInterface {
  async up(db: QueryRunner): Promise<void> {
    await db.query(`
      CREATE TABLE place (
        id serial PRIMARY KEY,
        name text NOT NULL,
        root text NOT NULL,
        type text NOT NULL,
        excludes text[] NOT NULL DEFAULT '{}',
        root_inode double precision,
        root_birth double precision,
        stand_in_store text,
        removed_at timestamptz
      );
      CREATE UNIQUE INDEX place_root ON place (root) WHERE removed_at IS NULL;

      CREATE TABLE place_status (
        place_id integer PRIMARY KEY REFERENCES place ON DELETE CASCADE,
        next_id bigint NOT NULL DEFAULT 2,
        entries bigint NOT NULL DEFAULT 0,
        scan text NOT NULL DEFAULT 'never',
        scanned_at timestamptz,
        verified_at timestamptz,
        last_seen_at timestamptz
      );

      CREATE TABLE original (
        place_id integer NOT NULL,
        id bigint NOT NULL,
        parent_id bigint NOT NULL,
        name text COLLATE "C" NOT NULL,
        type text NOT NULL,
        kind text NOT NULL,
        mime text NOT NULL,
        size bigint NOT NULL,
        mtime double precision NOT NULL,
        birth double precision NOT NULL,
        dev double precision NOT NULL,
        inode double precision NOT NULL,
        first_seen timestamptz NOT NULL,
        came_from text
      ) PARTITION BY LIST (place_id);

      CREATE TABLE shortcut (
        id uuid PRIMARY KEY,
        name text NOT NULL CHECK (name <> ''),
        description text NOT NULL DEFAULT '',
        also_called text[] NOT NULL DEFAULT '{}',
        target text NOT NULL,
        kind text NOT NULL,
        place_id integer REFERENCES place,
        original_id bigint,
        program_id text,
        url text,
        identity jsonb,
        state text NOT NULL,
        state_reason text NOT NULL DEFAULT '',
        state_since timestamptz NOT NULL,
        followed_from text,
        candidates jsonb NOT NULL DEFAULT '[]',
        rejected jsonb NOT NULL DEFAULT '[]',
        added_at timestamptz NOT NULL,
        removed_at timestamptz
      );
      CREATE INDEX shortcut_original ON shortcut (place_id, original_id);

      CREATE TABLE usage (
        shortcut_id uuid PRIMARY KEY REFERENCES shortcut ON DELETE CASCADE,
        w0 double precision NOT NULL,
        t0 double precision NOT NULL,
        last_opened timestamptz
      );

      CREATE TABLE pin (
        id uuid PRIMARY KEY,
        shortcut_id uuid NOT NULL UNIQUE REFERENCES shortcut ON DELETE CASCADE,
        sort double precision NOT NULL
      );

      CREATE TABLE opening (
        id uuid PRIMARY KEY,
        at timestamptz NOT NULL,
        shortcut_id uuid REFERENCES shortcut ON DELETE CASCADE,
        place_id integer,
        original_id bigint,
        program_id text,
        name text NOT NULL,
        how text NOT NULL,
        argv jsonb NOT NULL,
        route text NOT NULL
      );
      CREATE INDEX opening_shortcut ON opening (shortcut_id, at);
      CREATE INDEX opening_at ON opening (at);

      CREATE TABLE journal (
        id bigserial PRIMARY KEY,
        at timestamptz NOT NULL DEFAULT now(),
        act text NOT NULL,
        summary text NOT NULL,
        by text NOT NULL DEFAULT 'person',
        in_stack boolean NOT NULL DEFAULT true,
        changes jsonb NOT NULL,
        undo_changes jsonb,
        undone_at timestamptz
      );

      CREATE TABLE setting (id text PRIMARY KEY, value jsonb NOT NULL);

      CREATE TABLE session (
        token_hash text PRIMARY KEY,
        created_at timestamptz NOT NULL DEFAULT now(),
        last_seen_at timestamptz NOT NULL DEFAULT now()
      );

      -- The path of an original below its place: names from the top down, joined by "/".
      CREATE FUNCTION original_path(of_place integer, of_id bigint) RETURNS text LANGUAGE sql STABLE AS $$
        WITH RECURSIVE up (parent_id, path, depth) AS (
          SELECT parent_id, name::text, 0 FROM original WHERE place_id = of_place AND id = of_id
          UNION ALL
          SELECT o.parent_id, CASE WHEN o.name = '' THEN up.path ELSE o.name || '/' || up.path END, up.depth + 1
          FROM up JOIN original o ON o.place_id = of_place AND o.id = up.parent_id
          WHERE up.parent_id <> 0 AND up.depth < 4096
        )
        SELECT path FROM up WHERE parent_id = 0
      $$;
    `);
  }

  async down(): Promise<void> {
    throw new Error('The first schema has nothing before it');
  }
}
