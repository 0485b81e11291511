import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Sessions that are listed, end and change their token. Whoever was signed in signs in anew: under a name of its own.
 */
export class Sessions1700001500000 implements MigrationInterface {
  name = 'Sessions1700001500000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DELETE FROM session;
      ALTER TABLE session
        ADD id uuid NOT NULL DEFAULT gen_random_uuid() UNIQUE,
        ADD came_by text NOT NULL CHECK (came_by IN ('address', 'passphrase')),
        ADD agent text NOT NULL,
        ADD token_since timestamptz NOT NULL DEFAULT now(),
        ADD former_hash text UNIQUE;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE session DROP id, DROP came_by, DROP agent, DROP token_since, DROP former_hash`);
  }
}
