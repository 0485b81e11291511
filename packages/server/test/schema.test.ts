/** The database as migrations leave it, beside what the code takes it for. */
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Rellin } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make();
});
afterAll(() => rellin?.remove());

describe('the database', () => {
  it('is carried over to newer words: routes of openings, tables, and the journal’s changes', async () => {
    const { id } = await rellin.add(rellin.write('carried over.txt'));
    await rellin.open(id);
    await rellin.stop();
    // as it was before
    await rellin.sql(`UPDATE opening SET route = 'look'`);
    await rellin.sql(`ALTER TABLE system_default RENAME TO told_default`);
    await rellin.sql(`DELETE FROM migrations WHERE name = 'Words1700001800000'`);
    const change = (table: string) => [
      {
        table,
        id: 'one',
        before: null,
        after: { id: 'one', mime: 'text/plain', program_id: '"table": "told_default"' },
      },
    ];
    await rellin.sql(
      `INSERT INTO journal (id, act, summary, by, in_stack, changes)
       VALUES (1000000, 'default', 'once', 'person', true, $1)`,
      [JSON.stringify(change('told_default'))],
    );
    await rellin.start();
    expect(await rellin.sql(`SELECT DISTINCT route FROM opening`)).toEqual([{ route: 'preview' }]);
    expect(await rellin.sql(`SELECT changes FROM journal WHERE id = 1000000`)).toEqual([
      { changes: change('system_default') },
    ]);
  });
});
