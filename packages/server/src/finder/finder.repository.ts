/** SQL over all that the find line finds by name. */
import { Injectable } from '@nestjs/common';
import { DataSource, In, IsNull } from 'typeorm';
import type { SearchId } from '@rellin/contract';
import { CollectionEntity } from '../database/entities/collection.entity.js';
import { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { UsageEntity } from '../database/entities/usage.entity.js';

export interface FindableRows {
  shortcuts: ShortcutEntity[];
  usage: UsageEntity[];
  collections: CollectionEntity[];
  searches: { id: SearchId; name: string; description: string }[];
}

@Injectable()
export class FinderRepository {
  constructor(private readonly db: DataSource) {}

  /** All of it, or what has one of these ids; without what lies in the bin. */
  async findable(ids?: readonly string[]): Promise<FindableRows> {
    const among = { removedAt: IsNull(), ...(ids && { id: In([...ids]) }) };
    return {
      shortcuts: await this.db.getRepository(ShortcutEntity).findBy(among),
      usage: await this.db.getRepository(UsageEntity).findBy(ids ? { shortcutId: In([...ids]) } : {}),
      collections: await this.db.getRepository(CollectionEntity).findBy(among),
      searches: (await this.db.query(
        `SELECT id::text, name, description FROM saved_search
         WHERE removed_at IS NULL AND ($1::uuid[] IS NULL OR id = ANY($1))`,
        [ids ?? null],
      )) as FindableRows['searches'],
    };
  }
}
