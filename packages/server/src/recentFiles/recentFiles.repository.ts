/** Up to when the desktop's list of recent files was counted. */
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';

@Injectable()
export class RecentFilesRepository {
  constructor(private readonly db: DataSource) {}

  /** In ms since 1970; undefined before the first time. */
  async countedUntil(): Promise<number | undefined> {
    const rows = (await this.db.query(
      `SELECT extract(epoch FROM counted_until)::float8 * 1000 AS at FROM recent_files`,
    )) as { at: number }[];
    return rows[0]?.at;
  }

  async saveCountedUntil(manager: EntityManager, at: number): Promise<void> {
    await manager.query(
      `INSERT INTO recent_files (counted_until) VALUES (to_timestamp($1 / 1000.0))
       ON CONFLICT (only_row) DO UPDATE SET counted_until = excluded.counted_until`,
      [at],
    );
  }
}
