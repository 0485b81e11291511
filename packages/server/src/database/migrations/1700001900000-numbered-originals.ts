import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Originals are numbers: those that a shortcut may mean were kept as texts, also in the changes of the journal. */
export class NumberedOriginals1700001900000 implements MigrationInterface {
  name = 'NumberedOriginals1700001900000';

  async up(runner: QueryRunner): Promise<void> {
    await rewrite(runner, '"originalId": "([0-9]+)"', '"originalId": \\1');
  }

  async down(runner: QueryRunner): Promise<void> {
    await rewrite(runner, '"originalId": ([0-9]+)', '"originalId": "\\1"');
  }
}

/** Within a text of JSON a quotation mark stands behind a backslash: what is found is a key and its value. */
async function rewrite(runner: QueryRunner, was: string, is: string): Promise<void> {
  const columns = { shortcut: ['candidates'], journal: ['changes', 'undo_changes'], journal_rewritten: ['change'] };
  for (const [table, names] of Object.entries(columns))
    for (const name of names)
      await runner.query(
        `UPDATE ${table} SET ${name} = regexp_replace(${name}::text, $1, $2, 'g')::jsonb WHERE ${name}::text ~ $1`,
        [was, is],
      );
}
