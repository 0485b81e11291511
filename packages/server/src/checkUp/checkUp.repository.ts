/** SQL over what the check-up looks at, and over what was answered to it. */
import { Injectable } from '@nestjs/common';
import { DataSource, In, IsNull } from 'typeorm';
import type { Kind } from '@rellin/core/kinds';
import type { CollectionId, ShortcutId } from '@rellin/contract';
import { ShortcutEntity } from '../database/entities/shortcut.entity.js';

/** A collection that takes members, with the ids of all that is in it. */
export interface CollectionWithMembers {
  id: CollectionId;
  name: string;
  members: string[];
}

@Injectable()
export class CheckUpRepository {
  constructor(private readonly db: DataSource) {}

  /** When all was looked at last. */
  async checkedAt(): Promise<Date | null> {
    const [row] = (await this.db.query(`SELECT checked_at FROM check_up`)) as { checked_at: Date | null }[];
    return row?.checked_at ?? null;
  }

  async saveChecked(): Promise<void> {
    await this.db.query(`UPDATE check_up SET checked_at = now()`);
  }

  /** All there are, place by place. */
  async shortcutIds(): Promise<ShortcutId[]> {
    const rows = await this.db
      .getRepository(ShortcutEntity)
      .find({ select: { id: true }, where: { removedAt: IsNull() }, order: { placeId: 'ASC' } });
    return rows.map((r) => r.id);
  }

  /** Those that lead nowhere, or to one of several. */
  wanting(): Promise<ShortcutEntity[]> {
    return this.db.getRepository(ShortcutEntity).find({
      where: { state: In(['lost', 'unsure']), removedAt: IsNull() },
      order: { placeId: 'ASC', name: 'ASC' },
    });
  }

  /** When each was opened last, in ms since 1970. */
  async opened(): Promise<Map<ShortcutId, number>> {
    const rows = (await this.db.query(
      `SELECT shortcut_id::text AS id, last_opened FROM usage WHERE last_opened IS NOT NULL`,
    )) as { id: ShortcutId; last_opened: Date }[];
    return new Map(rows.map((r) => [r.id, r.last_opened.getTime()]));
  }

  /** The folder that each one's original lies in. */
  async parents(): Promise<Map<ShortcutId, string>> {
    const rows = (await this.db.query(
      `SELECT s.id::text, o.parent_id::text AS parent FROM shortcut s
       JOIN original o ON o.place_id = s.place_id AND o.id = s.original_id WHERE s.removed_at IS NULL`,
    )) as { id: ShortcutId; parent: string }[];
    return new Map(rows.map((r) => [r.id, r.parent]));
  }

  async collections(): Promise<CollectionWithMembers[]> {
    return (await this.db.query(
      `SELECT c.id::text, c.name, array_agg(COALESCE(m.shortcut_id, m.child_id, m.search_id)::text) AS members
       FROM collection c JOIN member m ON m.collection_id = c.id
       WHERE c.removed_at IS NULL AND c.type = 'plain' GROUP BY c.id`,
    )) as CollectionWithMembers[];
  }

  async silenced(): Promise<Set<string>> {
    const rows = (await this.db.query(`SELECT id FROM review_silence`)) as { id: string }[];
    return new Set(rows.map((r) => r.id));
  }

  async silence(id: string): Promise<void> {
    await this.db.query(`INSERT INTO review_silence (id) VALUES ($1) ON CONFLICT DO NOTHING`, [id]);
  }

  /** How many originals there are of each type and kind. */
  async countByKind(): Promise<{ type: string; kind: Kind; n: number }[]> {
    return (await this.db.query(`SELECT type, kind, count(*)::float8 AS n FROM original GROUP BY type, kind`)) as {
      type: string;
      kind: Kind;
      n: number;
    }[];
  }

  /** How many originals lie in folders of these names, all folders of a name together. */
  async countInFolders(names: readonly string[]): Promise<Map<string, number>> {
    const rows = (await this.db.query(
      `SELECT p.name, count(*)::float8 AS n FROM original p
       JOIN original o ON o.place_id = p.place_id AND o.parent_id = p.id
       WHERE p.type = 'folder' AND p.name = ANY($1) GROUP BY p.name`,
      [names],
    )) as { name: string; n: number }[];
    return new Map(rows.map((r) => [r.name, r.n]));
  }
}
