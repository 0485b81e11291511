import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Renames what has another word now, in rows, in tables and in the changes that the journal keeps of them. */
export class Words1700001800000 implements MigrationInterface {
  name = 'Words1700001800000';

  async up(runner: QueryRunner): Promise<void> {
    await rename(runner, 'look', 'preview', 'told_default', 'system_default');
  }

  async down(runner: QueryRunner): Promise<void> {
    await rename(runner, 'preview', 'look', 'system_default', 'told_default');
  }
}

async function rename(runner: QueryRunner, wasRoute: string, route: string, wasTable: string, table: string) {
  await runner.query(`UPDATE opening SET route = $2 WHERE route = $1`, [wasRoute, route]);
  await runner.query(`ALTER TABLE ${wasTable} RENAME TO ${table}`);
  // within a text of JSON a quotation mark stands behind a backslash: what is found is a key and its value
  const renamed = (column: string) => `replace(${column}::text, $1, $2)::jsonb`;
  await runner.query(
    `UPDATE journal SET changes = ${renamed('changes')}, undo_changes = ${renamed('undo_changes')}
     WHERE changes::text LIKE '%' || $1 || '%'`,
    [`"table": "${wasTable}"`, `"table": "${table}"`],
  );
}
