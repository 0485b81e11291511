/**
 * How often each thing is opened, for the plan: shortcuts, and originals without one that were opened through their
 * folders.
 */
import type { OriginalId, PlaceId } from '@rellin/contract';
import type { DataSource } from 'typeorm';
import { dailyCounts, RATE_DAYS, ratesNow } from '@rellin/core/usage';

export interface OpenedWithoutShortcut {
  placeId: PlaceId;
  originalId: OriginalId;
  /** Openings in the last two weeks. */
  times: number;
  /** Openings a week, as they are now. */
  rate: number;
}

export interface UsageRates {
  /** Of each shortcut its openings a week, as they are now and as a mean over four weeks. */
  shortcuts: Map<string, { rate: number; mean: number }>;
  /** The most opened first. */
  withoutShortcut: OpenedWithoutShortcut[];
}

interface OpeningTimesRow {
  shortcut: string | null;
  place_id: PlaceId | null;
  original_id: OriginalId | null;
  at: number[];
}

const FORTNIGHT_DAYS = 14;

/**
 * What was opened without a shortcut counts for the one there is now: a shortcut that is added begins with what its
 * original was opened, so that adding it changes no rate. Where there are several, for the oldest. All rates are told
 * together, since days on which many things change are told from all.
 */
export async function readUsageRates(db: DataSource, now: number): Promise<UsageRates> {
  const rows = (await db.query(
    `SELECT coalesce(o.shortcut_id, s.id)::text AS shortcut,
       CASE WHEN o.shortcut_id IS NULL AND s.id IS NULL THEN o.place_id END AS place_id,
       CASE WHEN o.shortcut_id IS NULL AND s.id IS NULL THEN o.original_id END AS original_id,
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
  )) as OpeningTimesRow[];
  const counts = rows.map((r) => dailyCounts(r.at, now));
  const rates = ratesNow(counts);
  const shortcuts = new Map<string, { rate: number; mean: number }>();
  const withoutShortcut: OpenedWithoutShortcut[] = [];
  const sum = (of: readonly number[]) => of.reduce((all, n) => all + n, 0);
  for (const [i, { shortcut, place_id, original_id }] of rows.entries()) {
    const rate = rates[i]!;
    if (shortcut !== null) shortcuts.set(shortcut, { rate, mean: sum(counts[i]!.slice(-28)) / 4 });
    else
      withoutShortcut.push({
        placeId: place_id!,
        originalId: original_id!,
        times: sum(counts[i]!.slice(-FORTNIGHT_DAYS)),
        rate,
      });
  }
  withoutShortcut.sort((a, b) => b.times - a.times || b.rate - a.rate);
  return { shortcuts, withoutShortcut };
}
