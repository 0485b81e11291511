/** SQL over the pin strip. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { ShortcutState } from '@rellin/core/identity';
import type { Kind } from '@rellin/core/kinds';
import type { PinId, PinTarget, ShortcutId, TagId } from '@rellin/contract';
import { netChanges } from '../database/netChanges.js';

type Query = Pick<DataSource, 'query'>;

export interface PinRow {
  id: string;
  target: PinTarget;
  target_id: string;
  sort: number;
  aside: boolean;
  kept: boolean;
  name: string;
  kind: Kind | null;
  state: ShortcutState;
  colour: string;
  count: number | null;
  fresh: number;
}

const CAME = netChanges('q.id', 'qs.looked_at', true);

const ROWS = `
  SELECT p.id, p.sort, p.aside, p.kept,
    CASE WHEN s.id IS NOT NULL THEN 'shortcut' WHEN c.id IS NOT NULL THEN 'collection' WHEN q.id IS NOT NULL THEN 'search' ELSE 'tag' END AS target,
    coalesce(p.shortcut_id, p.collection_id, p.tag_id, p.search_id)::text AS target_id,
    coalesce(s.name, c.name, t.name, q.name) AS name, s.kind, coalesce(s.state, ms.state, 'ready') AS state,
    coalesce(c.colour, t.colour, q.colour, '') AS colour,
    CASE WHEN c.type = 'mirror'
      THEN (SELECT count(*) FROM original o WHERE o.place_id = ms.place_id AND o.parent_id = ms.original_id)
      WHEN c.id IS NOT NULL THEN (SELECT count(*) FROM member m LEFT JOIN shortcut x ON x.id = m.shortcut_id
        LEFT JOIN collection y ON y.id = m.child_id
        LEFT JOIN saved_search z ON z.id = m.search_id
        WHERE m.collection_id = c.id AND x.removed_at IS NULL AND y.removed_at IS NULL AND z.removed_at IS NULL)
      WHEN q.id IS NOT NULL THEN coalesce(qs.count, 0)
      WHEN t.id IS NOT NULL THEN (SELECT count(*) FROM tagging g LEFT JOIN shortcut x ON x.id = g.shortcut_id
        LEFT JOIN saved_search z ON z.id = g.search_id
        WHERE g.tag_id = t.id AND x.removed_at IS NULL AND z.removed_at IS NULL) END AS count,
    CASE WHEN q.muted THEN 0 WHEN q.id IS NOT NULL THEN (${CAME}) ELSE 0 END AS fresh
  FROM pin p LEFT JOIN shortcut s ON s.id = p.shortcut_id LEFT JOIN collection c ON c.id = p.collection_id
  LEFT JOIN shortcut ms ON ms.id = c.mirror_of LEFT JOIN tag t ON t.id = p.tag_id
  LEFT JOIN saved_search q ON q.id = p.search_id LEFT JOIN search_status qs ON qs.search_id = q.id
  WHERE s.removed_at IS NULL AND c.removed_at IS NULL AND q.removed_at IS NULL ORDER BY p.sort, p.id`;

@Injectable()
export class PinsRepository {
  constructor(private readonly db: DataSource) {}

  /** In their order; without those of what lies in the bin. */
  async strip(db: Query = this.db): Promise<PinRow[]> {
    return (await db.query(ROWS)) as PinRow[];
  }

  /** The pins of these, in their order, in the bin or not. */
  async ofShortcuts(shortcutIds: readonly ShortcutId[], db: Query): Promise<{ id: PinId; of: ShortcutId }[]> {
    return (await db.query(
      `SELECT id::text, shortcut_id::text AS of FROM pin WHERE shortcut_id = ANY($1::uuid[]) ORDER BY sort`,
      [shortcutIds],
    )) as { id: PinId; of: ShortcutId }[];
  }

  async ofTag(tagId: TagId, db: Query): Promise<PinId[]> {
    const rows = (await db.query(`SELECT id::text FROM pin WHERE tag_id = $1`, [tagId])) as { id: PinId }[];
    return rows.map((r) => r.id);
  }

  /** As if all had been where they are for so many weeks. */
  async placedSince(weeks: number): Promise<void> {
    await this.db.query(`UPDATE pin SET placed_at = now() - make_interval(weeks => $1)`, [weeks]);
  }
}
