/** SQL over what is known of the contents of originals; the thread that reads them has its own connection. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { OriginalId, PlaceId } from '@rellin/contract';

@Injectable()
export class ContentsRepository {
  constructor(private readonly db: DataSource) {}

  async forgetPlace(placeId: PlaceId): Promise<void> {
    await this.db.query(`DELETE FROM content WHERE place_id = $1`, [placeId]);
  }

  /** What cannot be read counts as empty, until it changes. */
  async saveEmpty(placeId: PlaceId, id: OriginalId): Promise<void> {
    await this.db.query(
      `INSERT INTO content (place_id, original_id, size, mtime, body, words)
       SELECT place_id, id, size, mtime, '', '' FROM original WHERE place_id = $1 AND id = $2
       ON CONFLICT (place_id, original_id) DO UPDATE
         SET size = excluded.size, mtime = excluded.mtime, body = '', words = ''`,
      [placeId, id],
    );
  }
}
