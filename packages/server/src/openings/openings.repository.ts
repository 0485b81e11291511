/** SQL over openings, and over the decayed counts of them that are kept beside shortcuts. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { DataSource, MoreThan, type EntityManager } from 'typeorm';
import { NO_WEIGHT, withOpening, type Weight } from '@rellin/core/usage';
import type { OpeningId, OriginalId, PlaceId, RecordedOpening, ShortcutId } from '@rellin/contract';
import { OpeningEntity } from '../database/entities/opening.entity.js';
import { UsageEntity } from '../database/entities/usage.entity.js';
import { plainRows } from '../database/plainRows.js';

type Queries = Pick<EntityManager, 'query'>;

/** Which openings: of one thing, of a stretch of time (both ends included), or all. */
export interface WhichOpenings {
  shortcutId?: ShortcutId;
  from?: Date;
  to?: Date;
}

/** An opening by another program; `at` in ms since 1970. */
export interface ElsewhereRow {
  at: number;
  placeId: PlaceId;
  originalId: OriginalId;
  name: string;
  argv: string[];
}

@Injectable()
export class OpeningsRepository {
  constructor(private readonly db: DataSource) {}

  /** Newest first. */
  recent(limit: number): Promise<OpeningEntity[]> {
    return this.db.getRepository(OpeningEntity).find({ order: { at: 'DESC' }, take: limit });
  }

  /** Every one, oldest first. */
  async all(): Promise<RecordedOpening[]> {
    const rows = (await this.db.query(
      `SELECT at, coalesce(s.name, o.name) AS name, o.route, o.how FROM opening o
       LEFT JOIN shortcut s ON s.id = o.shortcut_id ORDER BY at`,
    )) as { at: Date; name: string; route: string; how: RecordedOpening['how'] }[];
    return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
  }

  /** Those opened most, by name. */
  async byItem(most: number): Promise<{ shortcutId: ShortcutId | null; name: string; count: number; last: Date }[]> {
    return (await this.db.query(
      `SELECT o.shortcut_id::text AS "shortcutId", coalesce(s.name, max(o.name)) AS name, count(*)::int AS count,
         max(o.at) AS last
       FROM opening o LEFT JOIN shortcut s ON s.id = o.shortcut_id
       GROUP BY o.shortcut_id, s.name, CASE WHEN o.shortcut_id IS NULL THEN o.name END
       ORDER BY count DESC, name LIMIT $1`,
      [most],
    )) as { shortcutId: ShortcutId | null; name: string; count: number; last: Date }[];
  }

  /** What was opened last, each once, the latest first. */
  async latestOriginals(most: number): Promise<{ placeId: PlaceId; originalId: OriginalId }[]> {
    return (await this.db.query(
      `SELECT place_id AS "placeId", original_id AS "originalId" FROM opening
       WHERE place_id IS NOT NULL AND original_id IS NOT NULL
       GROUP BY 1, 2 ORDER BY max(at) DESC LIMIT $1`,
      [most],
    )) as { placeId: PlaceId; originalId: OriginalId }[];
  }

  /** How many on each of the last days. */
  async byDay(days: number): Promise<{ day: string; count: number }[]> {
    return (await this.db.query(
      `SELECT at::date::text AS day, count(*)::int AS count FROM opening
       WHERE at > current_date - $1::int GROUP BY 1 ORDER BY 1`,
      [days],
    )) as { day: string; count: number }[];
  }

  /** How many by each way, the way taken most first. */
  async byRoute(): Promise<{ route: string; count: number }[]> {
    return (await this.db.query(`SELECT route, count(*)::int AS count FROM opening GROUP BY 1 ORDER BY 2 DESC, 1`)) as {
      route: string;
      count: number;
    }[];
  }

  /** When each was, in ms since 1970. */
  async times(): Promise<number[]> {
    const rows = (await this.db.query(`SELECT extract(epoch FROM at)::float8 * 1000 AS at FROM opening`)) as {
      at: number;
    }[];
    return rows.map((r) => r.at);
  }

  /** When a shortcut was opened since an instant, in ms since 1970. */
  async timesOf(shortcutId: ShortcutId, since: Date): Promise<number[]> {
    const rows = await this.db
      .getRepository(OpeningEntity)
      .find({ select: { id: true, at: true }, where: { shortcutId, at: MoreThan(since) } });
    return rows.map((r) => r.at.getTime());
  }

  /** How much shortcuts are used: these, or all. */
  usage(shortcutIds?: readonly ShortcutId[]): Promise<UsageEntity[]> {
    const rows = this.db.getRepository(UsageEntity);
    return shortcutIds ? plainRows(rows, 'WHERE shortcut_id = ANY($1)', [shortcutIds]) : plainRows(rows, '');
  }

  /** Removes them for good, and counts anew what they were of; returns how many, and of which shortcuts. */
  async forget(
    manager: Queries,
    { shortcutId, from, to }: WhichOpenings,
    halfLifeDays: number,
  ): Promise<{ ids: OpeningId[]; shortcutIds: ShortcutId[] }> {
    const [gone] = (await manager.query(
      `DELETE FROM opening
       WHERE ($1::uuid IS NULL OR shortcut_id = $1) AND ($2::timestamptz IS NULL OR at >= $2)
         AND ($3::timestamptz IS NULL OR at <= $3)
       RETURNING id::text, shortcut_id::text AS "shortcutId"`,
      [shortcutId ?? null, from ?? null, to ?? null],
    )) as [{ id: OpeningId; shortcutId: ShortcutId | null }[], number];
    const shortcutIds = [...new Set(gone.flatMap((g) => g.shortcutId ?? []))];
    await this.countAnew(manager, shortcutIds, halfLifeDays);
    return { ids: gone.map((g) => g.id), shortcutIds };
  }

  /**
   * Adds what another program opened, unless it was counted already: within `ownMs` of an opening by Rellin, or within
   * `sittingMs` of one elsewhere. Undefined then; else the shortcut it is of, null where there is none.
   */
  async addElsewhere(
    manager: Queries,
    { at, placeId, originalId, name, argv }: ElsewhereRow,
    ownMs: number,
    sittingMs: number,
  ): Promise<ShortcutId | null | undefined> {
    const rows = (await manager.query(
      `INSERT INTO opening (id, at, shortcut_id, place_id, original_id, name, how, argv, route)
       SELECT $1::uuid, to_timestamp($2::float8 / 1000.0),
         (SELECT id FROM shortcut WHERE place_id = $3 AND original_id = $4 AND removed_at IS NULL
          ORDER BY added_at LIMIT 1),
         $3::int, $4::bigint, $5, 'system', $6::jsonb, 'elsewhere'
       WHERE NOT EXISTS (SELECT 1 FROM opening WHERE place_id = $3 AND original_id = $4
         AND abs(extract(epoch FROM at)::float8 * 1000 - $2)
             < CASE WHEN route = 'elsewhere' THEN $8::float8 ELSE $7::float8 END)
       RETURNING shortcut_id::text AS id`,
      [randomUUID(), at, placeId, originalId, name, JSON.stringify(argv), ownMs, sittingMs],
    )) as { id: ShortcutId | null }[];
    return rows[0]?.id;
  }

  /** Openings of an original without a shortcut, as a seed has them; in ms since 1970. */
  async addOfOriginal(
    of: { placeId: PlaceId; originalId: OriginalId; name: string },
    at: readonly number[],
  ): Promise<void> {
    await this.db.query(
      `INSERT INTO opening (id, at, place_id, original_id, name, how, argv, route)
       SELECT n.id, to_timestamp(n.at / 1000.0), $1, $2, $3, 'viewer', '[]', 'originals'
       FROM unnest($4::uuid[], $5::float8[]) AS n (id, at)`,
      [of.placeId, of.originalId, of.name, at.map(() => randomUUID()), at],
    );
  }

  /** Openings of a shortcut, as a seed has them: by its pin where it has one. */
  async addOfShortcut(id: ShortcutId, name: string, at: readonly number[], halfLifeDays: number): Promise<void> {
    await this.db.query(
      `INSERT INTO opening (id, at, shortcut_id, place_id, original_id, program_id, name, how, argv, route)
       SELECT n.id, to_timestamp(n.at / 1000.0), s.id, s.place_id, s.original_id, s.program_id, $2, 'viewer', '[]',
         CASE WHEN EXISTS (SELECT 1 FROM pin WHERE shortcut_id = s.id) THEN 'pin-key' ELSE 'find' END
       FROM shortcut s, unnest($3::uuid[], $4::float8[]) AS n (id, at) WHERE s.id = $1`,
      [id, name, at.map(() => randomUUID()), at],
    );
    await this.countAnew(this.db, [id], halfLifeDays);
  }

  /** One more opening of a shortcut. */
  async count(manager: Queries, shortcutId: ShortcutId, at: number, halfLifeDays: number): Promise<void> {
    const rows = (await manager.query(`SELECT w0, t0 FROM usage WHERE shortcut_id = $1 FOR UPDATE`, [
      shortcutId,
    ])) as Weight[];
    await this.saveCount(manager, shortcutId, withOpening(rows[0] ?? NO_WEIGHT, at, halfLifeDays), at);
  }

  /** From the openings there are; a shortcut without any has no count. */
  async countAnew(manager: Queries, ids: readonly ShortcutId[], halfLifeDays: number): Promise<void> {
    const rows = (await manager.query(
      `SELECT shortcut_id::text AS id, extract(epoch FROM at)::float8 * 1000 AS at FROM opening
       WHERE shortcut_id = ANY($1::uuid[]) ORDER BY at`,
      [ids],
    )) as { id: ShortcutId; at: number }[];
    const counts = new Map<ShortcutId, { weight: Weight; last: number }>();
    for (const { id, at } of rows)
      counts.set(id, { weight: withOpening(counts.get(id)?.weight ?? NO_WEIGHT, at, halfLifeDays), last: at });
    await manager.query(`DELETE FROM usage WHERE shortcut_id = ANY($1::uuid[])`, [ids]);
    for (const [id, { weight, last }] of counts) await this.saveCount(manager, id, weight, last);
  }

  private async saveCount(manager: Queries, shortcutId: ShortcutId, { w0, t0 }: Weight, last: number): Promise<void> {
    await manager.query(
      `INSERT INTO usage (shortcut_id, w0, t0, last_opened) VALUES ($1, $2, $3, to_timestamp($4 / 1000.0))
       ON CONFLICT (shortcut_id) DO UPDATE SET w0 = $2, t0 = $3,
         last_opened = GREATEST(usage.last_opened, EXCLUDED.last_opened)`,
      [shortcutId, w0, t0, last],
    );
  }
}
