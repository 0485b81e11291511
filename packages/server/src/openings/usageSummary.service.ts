/** The usage that is recorded: shown, exported, and forgotten for good. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { SYSTEM_ZONE } from '@rellin/core/query';
import { partOfWeek, PARTS } from '@rellin/core/usage';
import type { RecordedOpening, ShortcutId, UsageSummary } from '@rellin/contract';
import { SettingsService } from '../settings/settings.service.js';
import { countAnew } from './usage.js';
import { UsagePublisherService } from './usagePublisher.service.js';

/** Days told one by one, and things told by name. */
const DAYS = 84;
const MOST_ITEMS = 100;

/** What to forget: one thing, a stretch of time (both ends included), or with neither everything. */
export interface Forget {
  shortcutId?: ShortcutId;
  from?: Date;
  to?: Date;
}

@Injectable()
export class UsageSummaryService {
  constructor(
    private readonly db: DataSource,
    private readonly settings: SettingsService,
    private readonly told: UsagePublisherService,
  ) {}

  async view(): Promise<UsageSummary> {
    const [{ recording, recentFiles }, items, days, routes, rows] = await Promise.all([
      this.settings.all(),
      this.db.query(
        `SELECT o.shortcut_id::text AS "shortcutId", coalesce(s.name, max(o.name)) AS name, count(*)::int AS count, max(o.at) AS last
         FROM opening o LEFT JOIN shortcut s ON s.id = o.shortcut_id
         GROUP BY o.shortcut_id, s.name, CASE WHEN o.shortcut_id IS NULL THEN o.name END
         ORDER BY count DESC, name LIMIT ${MOST_ITEMS}`,
      ) as Promise<{ shortcutId: ShortcutId | null; name: string; count: number; last: Date }[]>,
      this.db.query(
        `SELECT at::date::text AS day, count(*)::int AS count FROM opening
         WHERE at > current_date - ${DAYS} GROUP BY 1 ORDER BY 1`,
      ) as Promise<{ day: string; count: number }[]>,
      this.db.query(`SELECT route, count(*)::int AS count FROM opening GROUP BY 1 ORDER BY 2 DESC, 1`) as Promise<
        { route: string; count: number }[]
      >,
      this.db.query(`SELECT extract(epoch FROM at)::float8 * 1000 AS at FROM opening`) as Promise<{ at: number }[]>,
    ]);
    const parts = new Array<number>(PARTS).fill(0);
    for (const { at } of rows) parts[partOfWeek(at, SYSTEM_ZONE)]!++;
    return {
      recording,
      recentFiles,
      total: rows.length,
      items: items.map(({ last, ...item }) => ({ ...item, lastAt: last.toISOString() })),
      days,
      parts,
      routes,
    };
  }

  /** Every opening, oldest first. */
  async all(): Promise<RecordedOpening[]> {
    const rows = (await this.db.query(
      `SELECT at, coalesce(s.name, o.name) AS name, o.route, o.how FROM opening o
       LEFT JOIN shortcut s ON s.id = o.shortcut_id ORDER BY at`,
    )) as { at: Date; name: string; route: string; how: RecordedOpening['how'] }[];
    return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
  }

  /** For good: out of the journal as well. Returns how many there were. */
  async forget({ shortcutId, from, to }: Forget): Promise<number> {
    const { halfLifeDays } = await this.settings.all();
    const { count, touched } = await this.db.transaction(async (manager) => {
      const gone = (await manager.query(
        `SELECT id::text, shortcut_id::text AS "shortcutId" FROM opening
         WHERE ($1::uuid IS NULL OR shortcut_id = $1) AND ($2::timestamptz IS NULL OR at >= $2)
           AND ($3::timestamptz IS NULL OR at <= $3)`,
        [shortcutId ?? null, from ?? null, to ?? null],
      )) as { id: string; shortcutId: ShortcutId | null }[];
      const ids = gone.map((g) => g.id);
      await manager.query(`DELETE FROM opening WHERE id = ANY($1::uuid[])`, [ids]);
      await manager.query(`DELETE FROM journal WHERE act = 'open' AND changes->0->>'id' = ANY($1)`, [ids]);
      const shortcutIds = [...new Set(gone.flatMap((g) => g.shortcutId ?? []))];
      await countAnew(manager, shortcutIds, halfLifeDays);
      return { count: gone.length, touched: shortcutIds };
    });
    await this.told.tell(touched);
    return count;
  }
}
