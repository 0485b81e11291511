/** SQL over the keys that a person gave to things of the catalogue. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';

@Injectable()
export class KeysRepository {
  constructor(private readonly db: DataSource) {}

  /** Keys → the name of what has them; without what lies in the bin, and but for one thing. */
  async taken(but: string | null): Promise<Map<string, string>> {
    const rows = (await this.db.query(
      `SELECT keys, name FROM (
         SELECT id, keys, name FROM shortcut WHERE removed_at IS NULL
         UNION ALL SELECT id, keys, name FROM collection WHERE removed_at IS NULL
         UNION ALL SELECT id, keys, name FROM saved_search WHERE removed_at IS NULL
         UNION ALL SELECT id, keys, name FROM quick_filter
       ) k WHERE keys IS NOT NULL AND ($1::uuid IS NULL OR id <> $1)`,
      [but],
    )) as { keys: string; name: string }[];
    return new Map(rows.map((r) => [r.keys, r.name]));
  }
}
