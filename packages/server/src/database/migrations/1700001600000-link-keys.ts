import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The records of one alias or publication are found by how their keys begin, among hundreds of thousands. */
export class LinkKeys1700001600000 implements MigrationInterface {
  name = 'LinkKeys1700001600000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE INDEX written_link_key ON written_link (key text_pattern_ops);
      CREATE INDEX written_link_place_key ON written_link (place_id, key text_pattern_ops);
      -- of paths as long as they may be
      CREATE INDEX written_link_path ON written_link USING hash (now_path);
      DROP INDEX written_link_place;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE INDEX written_link_place ON written_link (place_id);
      DROP INDEX written_link_path;
      DROP INDEX written_link_place_key;
      DROP INDEX written_link_key;
    `);
  }
}
