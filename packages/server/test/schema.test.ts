/** The database as migrations leave it, beside what the code takes it for. */
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { rowTypes } from '../../../scripts/lib/rowTypes.mjs';
import { dataSourceFor } from '../dist/database/database.module.js';
import { PROJECT, Rellin } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make();
});
afterAll(() => rellin?.remove());

describe('the database', () => {
  it('has the rows that acts are typed by; where not, run “npm run rows”', async () => {
    const client = new pg.Client({ connectionString: rellin.databaseUrl });
    await client.connect();
    try {
      const file = join(PROJECT, 'packages/server/src/database/rows.ts');
      expect(await rowTypes(client)).toBe(readFileSync(file, 'utf8'));
    } finally {
      await client.end();
    }
  });

  it('has the columns of each entity, and no others', async () => {
    const source = await dataSourceFor(rellin.databaseUrl).initialize();
    try {
      expect(source.entityMetadatas.length).toBeGreaterThan(10);
      for (const { tableName, columns } of source.entityMetadatas) {
        const there = await rellin.sql(
          `SELECT column_name AS name, is_nullable = 'YES' AS nullable FROM information_schema.columns
           WHERE table_schema = 'public' AND table_name = $1 ORDER BY 1`,
          [tableName],
        );
        const said = columns.map((c) => ({ name: c.databaseName, nullable: c.isNullable }));
        const sorted = said.sort((a, b) => (a.name < b.name ? -1 : 1));
        expect({ tableName, columns: sorted }).toEqual({ tableName, columns: there });
      }
    } finally {
      await source.destroy();
    }
  });

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

  it('is carried over to numbered originals, where a shortcut may mean several', async () => {
    const { id } = await rellin.add(rellin.write('one of two.txt'));
    await rellin.stop();
    // as it was before; a text that only looks alike is somebody's file name
    const listed = (originalId: unknown) => [{ placeId: 1, originalId, path: '"originalId": "7"' }];
    const change = (originalId: unknown) => [
      { table: 'shortcut', id, before: null, after: { candidates: listed(originalId) } },
    ];
    await rellin.sql(`UPDATE shortcut SET candidates = $1`, [JSON.stringify(listed('12'))]);
    await rellin.sql(
      `INSERT INTO journal (id, act, summary, by, in_stack, changes, undo_changes)
       VALUES (1000001, 'follow', 'once', 'automatic', false, $1, $1)`,
      [JSON.stringify(change('12'))],
    );
    await rellin.sql(`DELETE FROM migrations WHERE name = 'NumberedOriginals1700001900000'`);
    const source = await dataSourceFor(rellin.databaseUrl).initialize();
    await source.runMigrations();
    await source.destroy();
    expect(await rellin.sql(`SELECT candidates FROM shortcut WHERE id = $1`, [id])).toEqual([
      { candidates: listed(12) },
    ]);
    expect(await rellin.sql(`SELECT changes, undo_changes FROM journal WHERE id = 1000001`)).toEqual([
      { changes: change(12), undo_changes: change(12) },
    ]);
    await rellin.start();
  });
});
