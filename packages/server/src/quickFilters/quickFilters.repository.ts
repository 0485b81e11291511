/** SQL over quick filters. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { QuickFilterView } from '@rellin/contract';

@Injectable()
export class QuickFiltersRepository {
  constructor(private readonly db: DataSource) {}

  /** In the order they were saved. */
  async list(): Promise<QuickFilterView[]> {
    return (await this.db.query(
      `SELECT id::text, name, keys, filter FROM quick_filter ORDER BY added_at, id`,
    )) as QuickFilterView[];
  }
}
