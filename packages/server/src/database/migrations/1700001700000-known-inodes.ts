import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Whether a file is another shortcut's is asked by its inode. */
export class KnownInodes1700001700000 implements MigrationInterface {
  name = 'KnownInodes1700001700000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE INDEX shortcut_inode ON shortcut (place_id, ((identity->>'inode')::float8))`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX shortcut_inode`);
  }
}
