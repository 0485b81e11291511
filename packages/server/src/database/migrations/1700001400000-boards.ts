import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Boards, their regions, what lies in these and the bundles that gather it. */
export class Boards1700001400000 implements MigrationInterface {
  name = 'Boards1700001400000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE board (
        id uuid PRIMARY KEY,
        name text NOT NULL CHECK (name <> ''),
        columns integer NOT NULL DEFAULT 3 CHECK (columns BETWEEN 1 AND 12),
        sort double precision NOT NULL,
        added_at timestamptz NOT NULL DEFAULT now(),
        removed_at timestamptz
      );
      CREATE TABLE region (
        id uuid PRIMARY KEY,
        board_id uuid NOT NULL REFERENCES board ON DELETE CASCADE,
        name text NOT NULL CHECK (name <> ''),
        sort_by text NOT NULL CHECK (sort_by IN ('free', 'own', 'name', 'kind', 'size', 'modified', 'opened')),
        sort double precision NOT NULL
      );
      CREATE INDEX region_board ON region (board_id);
      CREATE TABLE bundle (
        id uuid PRIMARY KEY,
        region_id uuid NOT NULL REFERENCES region ON DELETE CASCADE,
        name text NOT NULL CHECK (name <> ''),
        sort double precision NOT NULL,
        -- in cells from the region's corner, as for what lies by itself
        x double precision NOT NULL CHECK (x >= 0),
        y double precision NOT NULL CHECK (y >= 0)
      );
      CREATE INDEX bundle_region ON bundle (region_id);
      CREATE TABLE board_item (
        id uuid PRIMARY KEY,
        board_id uuid NOT NULL REFERENCES board ON DELETE CASCADE,
        region_id uuid NOT NULL REFERENCES region ON DELETE CASCADE,
        bundle_id uuid REFERENCES bundle ON DELETE SET NULL,
        shortcut_id uuid NOT NULL REFERENCES shortcut ON DELETE CASCADE,
        sort double precision NOT NULL,
        -- of what lies in a bundle, where it lay before
        x double precision NOT NULL CHECK (x >= 0),
        y double precision NOT NULL CHECK (y >= 0),
        UNIQUE (board_id, shortcut_id)
      );
      CREATE INDEX board_item_region ON board_item (region_id);
      CREATE INDEX board_item_shortcut ON board_item (shortcut_id);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE board_item; DROP TABLE bundle; DROP TABLE region; DROP TABLE board`);
  }
}
