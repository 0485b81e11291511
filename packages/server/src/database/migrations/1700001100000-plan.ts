import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Since when a pin lies where it does; what the person said to suggestions, and what each applied one was to bring. */
export class Plan1700001100000 implements MigrationInterface {
  name = 'Plan1700001100000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE pin ADD COLUMN placed_at timestamptz NOT NULL DEFAULT now();
      UPDATE pin SET placed_at = now() - interval '1 year';
      CREATE TABLE plan_answer (id text PRIMARY KEY, until timestamptz);
      CREATE TABLE plan_forecast (
        id uuid PRIMARY KEY,
        at timestamptz NOT NULL,
        -- per shortcut: seconds before, and after by the forecast
        shortcuts jsonb NOT NULL,
        seconds double precision NOT NULL
      );
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE plan_forecast; DROP TABLE plan_answer; ALTER TABLE pin DROP COLUMN placed_at`);
  }
}
