/** SQL over what the plan is made from (openings, pins, collections), and over what was answered to it. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { RATE_DAYS } from '@rellin/core/usage';
import type { CollectionId, OriginalId, PinId, PlaceId, ShortcutId } from '@rellin/contract';

/** What was done to pins in the last four weeks, and holds. */
const PIN_CHANGES = `journal j, jsonb_array_elements(j.changes) c
  WHERE j.at > now() - interval '4 weeks' AND j.undone_at IS NULL AND c->>'table' = 'pin'`;
const MOST_FORECASTS = 12;

/** When a shortcut was opened, or an original without one; in ms since 1970. */
export interface OpeningTimes {
  shortcutId: ShortcutId | null;
  placeId: PlaceId | null;
  originalId: OriginalId | null;
  at: number[];
}

/** One opening: when, in ms since 1970, of what, and which way was taken. */
export interface OpeningRow {
  at: number;
  id: ShortcutId | null;
  route: string;
}

export interface CollectionMembers {
  id: CollectionId;
  name: string;
  members: ShortcutId[];
}

/** What an applied plan was to save in its first week, in seconds, and what it did; null while that is not over. */
export interface Forecast {
  at: Date;
  seconds: number;
  was: number | null;
}

@Injectable()
export class PlanRepository {
  constructor(private readonly db: DataSource) {}

  /**
   * When each thing was opened, lately enough to tell its rate. What was opened without a shortcut counts for the one
   * there is now, so that adding one changes no rate; where there are several, for the oldest.
   */
  async openingTimes(): Promise<OpeningTimes[]> {
    return (await this.db.query(
      `SELECT coalesce(o.shortcut_id, s.id)::text AS "shortcutId",
         CASE WHEN o.shortcut_id IS NULL AND s.id IS NULL THEN o.place_id END AS "placeId",
         CASE WHEN o.shortcut_id IS NULL AND s.id IS NULL THEN o.original_id END AS "originalId",
         array_agg(extract(epoch FROM o.at)::float8 * 1000) AS at
       FROM opening o
       LEFT JOIN LATERAL (
         SELECT id FROM shortcut WHERE o.shortcut_id IS NULL AND place_id = o.place_id AND original_id = o.original_id
           AND removed_at IS NULL ORDER BY added_at, id LIMIT 1) s ON true
       WHERE (o.shortcut_id IS NOT NULL OR o.original_id IS NOT NULL) AND o.at > now() - make_interval(days => $1)
       GROUP BY 1, 2, 3
       -- rates are told the same whatever became a shortcut meanwhile
       ORDER BY min(o.at), min(o.id::text)`,
      [RATE_DAYS],
    )) as OpeningTimes[];
  }

  async openings(weeks: number): Promise<OpeningRow[]> {
    return (await this.db.query(
      `SELECT extract(epoch FROM at)::float8 * 1000 AS at, shortcut_id::text AS id, route FROM opening
       WHERE at > now() - make_interval(weeks => $1)`,
      [weeks],
    )) as OpeningRow[];
  }

  async countOpenings(weeks: number): Promise<number> {
    const [row] = (await this.db.query(
      `SELECT count(*)::int AS n FROM opening WHERE at > now() - make_interval(weeks => $1)`,
      [weeks],
    )) as [{ n: number }];
    return row.n;
  }

  /** How long each pin has been where it is, in ms. */
  async agesOfPins(): Promise<Map<PinId, number>> {
    const rows = (await this.db.query(
      `SELECT id::text, extract(epoch FROM now() - placed_at)::float8 * 1000 AS ms FROM pin`,
    )) as { id: PinId; ms: number }[];
    return new Map(rows.map((r) => [r.id, r.ms]));
  }

  /** What was taken off the strip by hand a while ago. */
  async unpinnedLately(): Promise<Set<ShortcutId>> {
    const rows = (await this.db.query(
      `SELECT DISTINCT c->'before'->>'shortcut_id' AS id FROM ${PIN_CHANGES}
         AND j.act = 'unpin' AND c->'after' = 'null'::jsonb`,
    )) as { id: ShortcutId | null }[];
    return new Set(rows.flatMap((r) => r.id ?? []));
  }

  /** How often the plan put each shortcut on the strip or took it off, a while ago. */
  async turnsLately(): Promise<Map<ShortcutId, number>> {
    const rows = (await this.db.query(
      `SELECT coalesce(c->'before'->>'shortcut_id', c->'after'->>'shortcut_id') AS id, count(*)::int AS n
       FROM ${PIN_CHANGES} AND j.act = 'apply-plan' AND (c->'after' = 'null'::jsonb OR c->'before' = 'null'::jsonb)
       GROUP BY 1`,
    )) as { id: ShortcutId | null; n: number }[];
    return new Map(rows.flatMap((r) => (r.id === null ? [] : [[r.id, r.n]])));
  }

  /** Collections that take members, with the shortcuts in them, in own order. */
  async collections(): Promise<CollectionMembers[]> {
    return (await this.db.query(
      `SELECT c.id::text, c.name, array_agg(m.shortcut_id::text ORDER BY m.sort) AS members
       FROM collection c JOIN member m ON m.collection_id = c.id JOIN shortcut s ON s.id = m.shortcut_id
       WHERE c.removed_at IS NULL AND c.type = 'plain' AND s.removed_at IS NULL GROUP BY c.id`,
    )) as CollectionMembers[];
  }

  /** Suggestions that are not to come up now. */
  async silenced(): Promise<Set<string>> {
    const rows = (await this.db.query(`SELECT id FROM plan_answer WHERE until IS NULL OR until > now()`)) as {
      id: string;
    }[];
    return new Set(rows.map((r) => r.id));
  }

  /** Not to come up before then; null is never again. */
  async silence(id: string, until: Date | null): Promise<void> {
    await this.db.query(
      `INSERT INTO plan_answer (id, until) VALUES ($1, $2) ON CONFLICT (id) DO UPDATE SET until = excluded.until`,
      [id, until],
    );
  }

  async askAgain(): Promise<void> {
    await this.db.query(`DELETE FROM plan_answer`);
  }

  /** The latest first. */
  async forecasts(): Promise<Forecast[]> {
    return (await this.db.query(
      `SELECT f.at, f.seconds, CASE WHEN f.at + interval '1 week' < now() THEN
         (SELECT coalesce(sum((x->>'saved')::float8), 0) FROM jsonb_array_elements(f.shortcuts) x
          JOIN opening o ON o.shortcut_id = (x->>'id')::uuid AND o.at > f.at AND o.at <= f.at + interval '1 week')
         END AS was
       FROM plan_forecast f ORDER BY f.at DESC LIMIT ${MOST_FORECASTS}`,
    )) as Forecast[];
  }
}
