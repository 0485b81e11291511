import type { MigrationInterface, QueryRunner } from 'typeorm';
import { fold } from '@rellin/core/match';

/**
 * The folded name of originals whose name is not plain ASCII; for all others lower(name) says the same. Saved searches
 * ask for it, in SQL and in memory alike.
 */
export class Folded1700000500000 implements MigrationInterface {
  async up(db: QueryRunner): Promise<void> {
    await db.query(`ALTER TABLE original ADD COLUMN folded text COLLATE "C"`);
    const rows = (await db.query(`SELECT place_id, id::text, name FROM original WHERE name ~ '[^\\x01-\\x7f]'`)) as {
      place_id: number;
      id: string;
      name: string;
    }[];
    for (let i = 0; i < rows.length; i += 5000) {
      const part = rows.slice(i, i + 5000);
      await db.query(
        `UPDATE original o SET folded = n.folded FROM unnest($1::int[], $2::bigint[], $3::text[]) AS n (place_id, id, folded)
         WHERE o.place_id = n.place_id AND o.id = n.id`,
        [part.map((r) => r.place_id), part.map((r) => r.id), part.map((r) => fold(r.name))],
      );
    }
  }

  async down(): Promise<void> {
    throw new Error('Folded names are not undone');
  }
}
