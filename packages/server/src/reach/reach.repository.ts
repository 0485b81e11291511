/** SQL over what shortcuts are reached through, and over what was opened. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { Opened } from '@rellin/core/usage';
import type { CollectionId, OriginalId, PlaceId, SearchId, ShortcutId, TagId } from '@rellin/contract';

export interface MemberOf {
  collectionId: CollectionId;
  /** One of these; the others are null. */
  shortcutId: ShortcutId | null;
  childId: CollectionId | null;
  searchId: SearchId | null;
}

/** Menus, with what is in them; without what lies in the bin. */
export interface MenuRows {
  collectionIds: CollectionId[];
  members: MemberOf[];
  /** Of tags that are pinned. */
  taggings: { tagId: TagId; shortcutId: ShortcutId }[];
  searches: { id: SearchId; count: number }[];
  /** What is published as a menu of the desktop. */
  published: { collectionId: CollectionId | null; tagId: TagId | null }[];
}

/** An alias: where it lies, and among how many it is chosen there. */
export interface AliasPlace {
  shortcutId: ShortcutId;
  placeId: PlaceId;
  folderId: OriginalId;
  among: number;
}

@Injectable()
export class ReachRepository {
  constructor(private readonly db: DataSource) {}

  async menus(): Promise<MenuRows> {
    const [collections, members, taggings, searches, published] = (await Promise.all([
      this.db.query(`SELECT id::text FROM collection WHERE removed_at IS NULL`),
      this.db.query(
        `SELECT m.collection_id::text AS "collectionId", m.shortcut_id::text AS "shortcutId",
           m.child_id::text AS "childId", m.search_id::text AS "searchId" FROM member m
         JOIN collection p ON p.id = m.collection_id AND p.removed_at IS NULL
         LEFT JOIN shortcut s ON s.id = m.shortcut_id LEFT JOIN collection k ON k.id = m.child_id
         LEFT JOIN saved_search q ON q.id = m.search_id
         WHERE s.removed_at IS NULL AND k.removed_at IS NULL AND q.removed_at IS NULL`,
      ),
      this.db.query(
        `SELECT g.tag_id::text AS "tagId", g.shortcut_id::text AS "shortcutId" FROM tagging g
         JOIN shortcut s ON s.id = g.shortcut_id
         WHERE s.removed_at IS NULL AND g.tag_id IN (SELECT tag_id FROM pin)`,
      ),
      this.db.query(
        `SELECT q.id::text, coalesce(s.count, 0)::float8 AS count FROM saved_search q
         LEFT JOIN search_status s ON s.search_id = q.id WHERE q.removed_at IS NULL`,
      ),
      this.db.query(
        `SELECT collection_id::text AS "collectionId", tag_id::text AS "tagId" FROM publication WHERE as_menu`,
      ),
    ])) as [{ id: CollectionId }[], MemberOf[], MenuRows['taggings'], MenuRows['searches'], MenuRows['published']];
    return { collectionIds: collections.map((c) => c.id), members, taggings, searches, published };
  }

  async aliases(): Promise<AliasPlace[]> {
    return (await this.db.query(
      `SELECT a.shortcut_id::text AS "shortcutId", a.place_id AS "placeId", a.folder_id AS "folderId",
         (SELECT count(*) FROM original o WHERE o.place_id = a.place_id AND o.parent_id = a.folder_id)::int AS among
       FROM alias a`,
    )) as AliasPlace[];
  }

  /** The latest openings of shortcuts, oldest first. */
  async openings(most: number): Promise<Opened[]> {
    return (await this.db.query(
      `SELECT item, at FROM (
         SELECT shortcut_id::text AS item, extract(epoch FROM at)::float8 * 1000 AS at FROM opening
         WHERE shortcut_id IS NOT NULL ORDER BY opening.at DESC LIMIT $1) o ORDER BY at`,
      [most],
    )) as Opened[];
  }

  /** Names of those that can be opened. */
  async names(ids: readonly ShortcutId[]): Promise<Map<ShortcutId, string>> {
    const rows = (await this.db.query(
      `SELECT id::text, name FROM shortcut WHERE id = ANY($1::uuid[]) AND removed_at IS NULL AND state <> 'lost'`,
      [ids],
    )) as { id: ShortcutId; name: string }[];
    return new Map(rows.map((r) => [r.id, r.name]));
  }
}
