/** SQL over collections and members. What lies in the bin is left out unless asked for. */
import { Injectable } from '@nestjs/common';
import { DataSource, In, IsNull, LessThanOrEqual, type EntityManager } from 'typeorm';
import type { Edge } from '@rellin/core/collections';
import type { CollectionId, CollectionView, MemberId, MemberView, SearchId, ShortcutId } from '@rellin/contract';
import { CollectionEntity, type LastMember } from '../database/entities/collection.entity.js';

type Query = Pick<DataSource, 'query'>;

export interface MemberRow {
  id: string;
  shortcut_id: ShortcutId | null;
  child_id: CollectionId | null;
  search_id: SearchId | null;
  sort: number;
  keep_first: boolean;
  added_at: Date;
}

const VIEW = `
  SELECT c.*, p.id IS NOT NULL AS pinned,
    s.place_id, s.original_id, s.state AS mirror_state,
    CASE WHEN c.type = 'mirror'
      THEN (SELECT count(*) FROM original o WHERE o.place_id = s.place_id AND o.parent_id = s.original_id)
      ELSE coalesce(n.count, 0) END AS count,
    coalesce(up.parents, '{}') AS parents
  FROM collection c
  LEFT JOIN shortcut s ON s.id = c.mirror_of
  LEFT JOIN pin p ON p.collection_id = c.id
  LEFT JOIN (
    SELECT m.collection_id, count(*) AS count FROM member m
    LEFT JOIN shortcut ms ON ms.id = m.shortcut_id LEFT JOIN collection mc ON mc.id = m.child_id
    LEFT JOIN saved_search mq ON mq.id = m.search_id
    WHERE ms.removed_at IS NULL AND mc.removed_at IS NULL AND mq.removed_at IS NULL GROUP BY m.collection_id
  ) n ON n.collection_id = c.id
  LEFT JOIN (
    SELECT m.child_id, array_agg(m.collection_id::text) AS parents FROM member m
    JOIN collection mc ON mc.id = m.collection_id AND mc.removed_at IS NULL
    WHERE m.child_id IS NOT NULL GROUP BY m.child_id
  ) up ON up.child_id = c.id`;

type Raw = Record<string, unknown>;
const iso = (value: unknown) => (value === null ? null : (value as Date).toISOString());

function view(r: Raw): CollectionView {
  return {
    id: r['id'] as string,
    name: r['name'] as string,
    description: r['description'] as string,
    type: r['type'] as CollectionView['type'],
    colour: r['colour'] as string,
    picture: r['picture'] as string,
    sortBy: r['sort_by'] as CollectionView['sortBy'],
    showAs: r['show_as'] as CollectionView['showAs'],
    mirror:
      r['mirror_of'] === null
        ? null
        : {
            shortcutId: r['mirror_of'] as string,
            placeId: r['place_id'] as number,
            originalId: r['original_id'] as number,
            state: r['mirror_state'] as string,
          },
    until: iso(r['until']),
    lastMembers: (r['last_members'] as unknown[]).length,
    keys: r['keys'] as string | null,
    count: r['count'] as number,
    parents: r['parents'] as string[],
    pinned: r['pinned'] as boolean,
    revision: Number(r['revision']),
    addedAt: iso(r['added_at'])!,
    removedAt: iso(r['removed_at']),
  };
}

@Injectable()
export class CollectionsRepository {
  constructor(private readonly db: DataSource) {}

  /** Gone for good after so many days in the bin. Returns how many. */
  async clearBin(manager: EntityManager, days: number): Promise<number> {
    const [, gone] = (await manager.query(
      `DELETE FROM collection WHERE removed_at <= now() - make_interval(days => $1)`,
      [days],
    )) as [unknown, number];
    return gone;
  }

  row(id: CollectionId): Promise<CollectionEntity | null> {
    return this.db.getRepository(CollectionEntity).findOneBy({ id });
  }

  /** Those of these that are not in the bin. */
  present(ids: readonly CollectionId[]): Promise<CollectionEntity[]> {
    return this.db.getRepository(CollectionEntity).findBy({ id: In([...ids]), removedAt: IsNull() });
  }

  /** Working sets whose end has come. */
  endedWorkingSets(now: Date): Promise<CollectionEntity[]> {
    return this.db.getRepository(CollectionEntity).findBy({ type: 'working-set', until: LessThanOrEqual(now) });
  }

  /** Locked to the end of the transaction: one change of a collection at a time. */
  async lock(id: CollectionId, db: Query): Promise<{ name: string; revision: number } | undefined> {
    const rows = (await db.query(`SELECT name, revision FROM collection WHERE id = $1 FOR UPDATE`, [id])) as {
      name: string;
      revision: number;
    }[];
    return rows[0];
  }

  async countRevision(ids: readonly CollectionId[], db: Query): Promise<void> {
    await db.query(`UPDATE collection SET revision = revision + 1 WHERE id = ANY($1)`, [ids]);
  }

  /** In the bin or not. */
  async names(ids: readonly CollectionId[], db: Query): Promise<Map<CollectionId, string>> {
    const rows = (await db.query(`SELECT id::text, name FROM collection WHERE id = ANY($1)`, [ids])) as {
      id: CollectionId;
      name: string;
    }[];
    return new Map(rows.map((c) => [c.id, c.name]));
  }

  /** How many of these there are, in the bin or not. */
  async countShortcuts(ids: readonly ShortcutId[], db: Query): Promise<number> {
    const [row] = (await db.query(`SELECT count(*)::int AS n FROM shortcut WHERE id = ANY($1)`, [ids])) as [
      { n: number },
    ];
    return row.n;
  }

  /** Ids of what was in a collection that is not in the bin by now. */
  async stillThere(members: readonly LastMember[]): Promise<Set<string>> {
    const rows = (await this.db.query(
      `SELECT id::text FROM shortcut WHERE id = ANY($1) AND removed_at IS NULL
       UNION ALL SELECT id::text FROM collection WHERE id = ANY($2) AND removed_at IS NULL
       UNION ALL SELECT id::text FROM saved_search WHERE id = ANY($3) AND removed_at IS NULL`,
      [
        members.flatMap((m) => m.shortcutId ?? []),
        members.flatMap((m) => m.childId ?? []),
        members.flatMap((m) => m.searchId ?? []),
      ],
    )) as { id: string }[];
    return new Set(rows.map((r) => r.id));
  }

  async list(removed: boolean): Promise<CollectionView[]> {
    const rows = (await this.db.query(
      `${VIEW} WHERE c.removed_at IS ${removed ? 'NOT NULL' : 'NULL'} ORDER BY lower(c.name), c.id`,
    )) as Raw[];
    return rows.map(view);
  }

  async one(id: string): Promise<CollectionView | undefined> {
    const rows = (await this.db.query(`${VIEW} WHERE c.id = $1`, [id])) as Raw[];
    return rows[0] && view(rows[0]);
  }

  /** Members in own order; those in the bin keep their row and are not among them. */
  async members(id: string): Promise<MemberView[]> {
    const rows = (await this.db.query(
      `SELECT m.* FROM member m
       LEFT JOIN shortcut s ON s.id = m.shortcut_id LEFT JOIN collection c ON c.id = m.child_id
       LEFT JOIN saved_search q ON q.id = m.search_id
       WHERE m.collection_id = $1 AND s.removed_at IS NULL AND c.removed_at IS NULL AND q.removed_at IS NULL ORDER BY m.sort, m.id`,
      [id],
    )) as MemberRow[];
    return rows.map((m) => ({
      id: m.id,
      type: m.shortcut_id ? 'shortcut' : m.child_id ? 'collection' : 'search',
      itemId: (m.shortcut_id ?? m.child_id ?? m.search_id)!,
      keepFirst: m.keep_first,
      addedAt: m.added_at.toISOString(),
    }));
  }

  /** Every member row, those in the bin included, in own order: what an act must calculate with. */
  async rows(id: string, db: Query = this.db): Promise<MemberRow[]> {
    return (await db.query(`SELECT * FROM member WHERE collection_id = $1 ORDER BY sort, id`, [id])) as MemberRow[];
  }

  /** Their places in collections, those in the bin included, in own order. */
  async rowsOfShortcuts(
    shortcutIds: readonly ShortcutId[],
    db: Query,
  ): Promise<{ id: MemberId; collection_id: CollectionId; shortcut_id: ShortcutId }[]> {
    return (await db.query(
      `SELECT id::text, collection_id::text, shortcut_id::text FROM member
       WHERE shortcut_id = ANY($1::uuid[]) ORDER BY sort`,
      [shortcutIds],
    )) as { id: MemberId; collection_id: CollectionId; shortcut_id: ShortcutId }[];
  }

  async memberBy(id: CollectionId, itemId: string): Promise<{ id: MemberId; name: string } | undefined> {
    const rows = (await this.db.query(
      `SELECT m.id::text, coalesce(s.name, c.name, q.name) AS name FROM member m
       LEFT JOIN shortcut s ON s.id = m.shortcut_id LEFT JOIN collection c ON c.id = m.child_id
       LEFT JOIN saved_search q ON q.id = m.search_id
       WHERE m.collection_id = $1 AND coalesce(m.shortcut_id, m.child_id, m.search_id)::text = $2`,
      [id, itemId],
    )) as { id: MemberId; name: string }[];
    return rows[0];
  }

  /** Which collection lies in which, the bin included: what is put back must not close a cycle either. */
  async edges(db: Query = this.db): Promise<Edge[]> {
    return (await db.query(
      `SELECT collection_id::text AS parent, child_id::text AS child FROM member WHERE child_id IS NOT NULL`,
    )) as Edge[];
  }

  /** Shortcut id → collections it is a member of. */
  async ofShortcuts(ids: string[] | undefined): Promise<Map<string, string[]>> {
    const rows = (await this.db.query(
      `SELECT m.shortcut_id, array_agg(m.collection_id::text ORDER BY lower(c.name)) AS collections
       FROM member m JOIN collection c ON c.id = m.collection_id AND c.removed_at IS NULL
       WHERE m.shortcut_id IS NOT NULL ${ids ? 'AND m.shortcut_id = ANY($1)' : ''} GROUP BY m.shortcut_id`,
      ids ? [ids] : [],
    )) as { shortcut_id: ShortcutId; collections: string[] }[];
    return new Map(rows.map((r) => [r.shortcut_id, r.collections]));
  }
}
