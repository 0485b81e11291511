/** Bytes of pictures that a person gave, by the digest of what was given. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';

@Injectable()
export class PicturesRepository {
  constructor(private readonly db: DataSource) {}

  async save(id: string, png: Buffer): Promise<void> {
    await this.db.query(
      `INSERT INTO picture (id, bytes) VALUES ($1, $2) ON CONFLICT (id) DO UPDATE SET added_at = now()`,
      [id, png],
    );
  }

  async bytes(id: string): Promise<Buffer | undefined> {
    const rows = (await this.db.query(`SELECT bytes FROM picture WHERE id = $1`, [id])) as { bytes: Buffer }[];
    return rows[0]?.bytes;
  }

  /** Those that nothing points to any more and that are so many days old. Returns how many went. */
  async sweep(days: number): Promise<number> {
    const [, gone] = (await this.db.query(
      `DELETE FROM picture p WHERE added_at <= now() - make_interval(days => $1)
         AND NOT EXISTS (SELECT 1 FROM shortcut WHERE picture = 'image:' || p.id)
         AND NOT EXISTS (SELECT 1 FROM collection WHERE picture = 'image:' || p.id)`,
      [days],
    )) as [unknown, number];
    return gone;
  }
}
