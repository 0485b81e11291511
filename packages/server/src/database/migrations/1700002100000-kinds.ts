import type { MigrationInterface, QueryRunner } from 'typeorm';

/** By which tables the kinds of a place's originals were told: where they are others now, kinds are told anew. */
export class Kinds1700002100000 implements MigrationInterface {
  name = 'Kinds1700002100000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE place_status ADD COLUMN kinds text`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE place_status DROP COLUMN kinds`);
  }
}
