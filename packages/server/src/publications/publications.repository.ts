/** The rows of what is published: read for the links they ask for, written within acts. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { OriginalId, PlaceId, PublicationId, PublicationSource, TagId } from '@rellin/contract';
import type { NewRows, Rows } from '../database/rows.js';
import type { ActTx } from '../journal/actTx.js';

export type PublicationRow = Omit<Rows['publication'], 'added_at'>;

export const sourceOf = (p: PublicationRow): { source: PublicationSource; sourceId: string } =>
  p.collection_id
    ? { source: 'collection', sourceId: p.collection_id }
    : p.tag_id
      ? { source: 'tag', sourceId: p.tag_id }
      : { source: 'search', sourceId: p.search_id! };

const TABLE = { collection: 'collection', tag: 'tag', search: 'saved_search' } as const;

@Injectable()
export class PublicationsRepository {
  constructor(private readonly db: DataSource) {}

  /** All, or one. Those whose source waits in the bin are left out: their links go, and come back with it. */
  async list(id?: PublicationId): Promise<PublicationRow[]> {
    return (await this.db.query(
      `SELECT p.id::text, p.collection_id::text, p.tag_id::text, p.search_id::text, p.place_id, p.folder_id, p.name,
         p.ordered, p.as_menu
       FROM publication p LEFT JOIN collection c ON c.id = p.collection_id
       LEFT JOIN saved_search q ON q.id = p.search_id
       WHERE c.removed_at IS NULL AND q.removed_at IS NULL AND ($1::uuid IS NULL OR p.id = $1)
       ORDER BY p.added_at, p.id`,
      [id ?? null],
    )) as PublicationRow[];
  }

  /** What may be published, by its name; a mirror may not. */
  async source(source: PublicationSource, id: string): Promise<{ name: string; isMirror: boolean } | undefined> {
    const rows = (await this.db.query(
      `SELECT name, ${source === 'collection' ? `type = 'mirror'` : 'false'} AS "isMirror" FROM ${TABLE[source]}
       WHERE id = $1`,
      [id],
    )) as { name: string; isMirror: boolean }[];
    return rows[0];
  }

  async add(tx: ActTx, row: NewRows['publication']): Promise<void> {
    await tx.insert('publication', row);
  }

  /** Its folder lies in another one now. */
  moveTo(tx: ActTx, id: PublicationId, placeId: PlaceId, folderId: OriginalId): Promise<void> {
    return tx.update('publication', id, { place_id: placeId, folder_id: folderId });
  }

  remove(tx: ActTx, id: PublicationId): Promise<void> {
    return tx.remove('publication', id);
  }

  /** Within an act that removes a tag. */
  async removeOfTag(tx: ActTx, tagId: TagId): Promise<void> {
    const rows = (await tx.manager.query(`SELECT id::text FROM publication WHERE tag_id = $1`, [tagId])) as {
      id: PublicationId;
    }[];
    for (const { id } of rows) await this.remove(tx, id);
  }
}
