/** SQL over tags and over what bears them. */
import { Injectable } from '@nestjs/common';
import { DataSource, In } from 'typeorm';
import type { OriginalId, OriginalRef, PlaceId, SearchId, ShortcutId, TagId, TagView } from '@rellin/contract';
import { TagEntity } from '../database/entities/tag.entity.js';

type Query = Pick<DataSource, 'query'>;

/** A tag on one thing: a shortcut, a saved search, or an original; the others are null. */
export interface TaggingRow {
  id: string;
  shortcut_id: ShortcutId | null;
  search_id: SearchId | null;
  place_id: PlaceId | null;
  original_id: OriginalId | null;
}

const TAGGING = 'g.id::text, g.shortcut_id::text, g.search_id::text, g.place_id, g.original_id';

@Injectable()
export class TagsRepository {
  constructor(private readonly db: DataSource) {}

  /** All, or one; what bears it and lies in the bin is not counted. */
  async views(id?: TagId): Promise<TagView[]> {
    return (await this.db.query(
      `SELECT t.id::text, t.name, t.colour, p.id IS NOT NULL AS pinned,
         count(g.id) FILTER (WHERE g.original_id IS NOT NULL OR s.removed_at IS NULL AND s.id IS NOT NULL
           OR q.removed_at IS NULL AND q.id IS NOT NULL) AS count
       FROM tag t LEFT JOIN tagging g ON g.tag_id = t.id LEFT JOIN shortcut s ON s.id = g.shortcut_id
       LEFT JOIN saved_search q ON q.id = g.search_id LEFT JOIN pin p ON p.tag_id = t.id
       WHERE $1::uuid IS NULL OR t.id = $1 GROUP BY t.id, p.id ORDER BY lower(t.name)`,
      [id ?? null],
    )) as TagView[];
  }

  one(id: TagId): Promise<TagEntity | null> {
    return this.db.getRepository(TagEntity).findOneBy({ id });
  }

  some(ids: readonly TagId[]): Promise<TagEntity[]> {
    return this.db.getRepository(TagEntity).findBy({ id: In([...ids]) });
  }

  async colours(): Promise<string[]> {
    return (await this.db.getRepository(TagEntity).find()).map((t) => t.colour);
  }

  /** Whatever the case of its letters. */
  async named(name: string): Promise<TagId | undefined> {
    const rows = (await this.db.query(`SELECT id::text FROM tag WHERE lower(name) = lower($1)`, [name])) as {
      id: TagId;
    }[];
    return rows[0]?.id;
  }

  /** Originals of a place that bear any tag, with their paths below its root. */
  async taggedIn(placeId: PlaceId): Promise<{ originalId: OriginalId; path: string }[]> {
    return (await this.db.query(
      `SELECT id AS "originalId", original_path($1, id) AS path
       FROM (SELECT DISTINCT original_id AS id FROM tagging WHERE place_id = $1 AND original_id IS NOT NULL) t
       WHERE original_path($1, id) IS NOT NULL`,
      [placeId],
    )) as { originalId: OriginalId; path: string }[];
  }

  /** What one row of the index bore is borne by another: the same original, known anew. */
  async moveTags(from: OriginalRef, to: OriginalRef): Promise<void> {
    const parameters = [from.placeId, from.originalId, to.placeId, to.originalId];
    await this.db.query(
      `UPDATE tagging g SET place_id = $3, original_id = $4 WHERE place_id = $1 AND original_id = $2
       AND NOT EXISTS (SELECT 1 FROM tagging t WHERE t.tag_id = g.tag_id AND t.place_id = $3 AND t.original_id = $4)`,
      parameters,
    );
    await this.db.query(`DELETE FROM tagging WHERE place_id = $1 AND original_id = $2`, parameters.slice(0, 2));
  }

  /** All it is on, in the bin or not. */
  async taggings(tagId: TagId): Promise<TaggingRow[]> {
    return (await this.db.query(`SELECT ${TAGGING} FROM tagging g WHERE g.tag_id = $1`, [tagId])) as TaggingRow[];
  }

  /** All it is on that is not in the bin. */
  async bearers(tagId: TagId): Promise<TaggingRow[]> {
    return (await this.db.query(
      `SELECT ${TAGGING} FROM tagging g LEFT JOIN shortcut s ON s.id = g.shortcut_id
       LEFT JOIN saved_search q ON q.id = g.search_id
       WHERE g.tag_id = $1 AND s.removed_at IS NULL AND q.removed_at IS NULL ORDER BY lower(s.name), g.id`,
      [tagId],
    )) as TaggingRow[];
  }

  async taggingsOf(
    shortcutIds: readonly ShortcutId[],
    db: Query,
  ): Promise<{ tag_id: TagId; shortcut_id: ShortcutId }[]> {
    return (await db.query(`SELECT tag_id::text, shortcut_id::text FROM tagging WHERE shortcut_id = ANY($1::uuid[])`, [
      shortcutIds,
    ])) as { tag_id: TagId; shortcut_id: ShortcutId }[];
  }

  /** The tags on shortcuts in the order of their names: of all of these, or of all there are. */
  async ofShortcuts(ids: readonly ShortcutId[] | undefined): Promise<Map<ShortcutId, TagId[]>> {
    const rows = (await this.db.query(
      `SELECT g.shortcut_id::text, array_agg(t.id::text ORDER BY lower(t.name)) AS tags
       FROM tagging g JOIN tag t ON t.id = g.tag_id
       WHERE g.shortcut_id IS NOT NULL AND ($1::uuid[] IS NULL OR g.shortcut_id = ANY($1)) GROUP BY g.shortcut_id`,
      [ids ?? null],
    )) as { shortcut_id: ShortcutId; tags: TagId[] }[];
    return new Map(rows.map((r) => [r.shortcut_id, r.tags]));
  }

  /** The tagging of something by the key it has in links: a shortcut's id, or “place-original”. */
  async taggingBy(tagId: TagId, key: string): Promise<{ id: string; name: string | null } | undefined> {
    const rows = (await this.db.query(
      `SELECT g.id::text, s.name FROM tagging g LEFT JOIN shortcut s ON s.id = g.shortcut_id
       WHERE g.tag_id = $1 AND (g.shortcut_id::text = $2 OR g.place_id || '-' || g.original_id = $2)`,
      [tagId, key],
    )) as { id: string; name: string | null }[];
    return rows[0];
  }
}
