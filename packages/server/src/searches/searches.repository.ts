/** SQL over saved searches: their texts, how many answer them, and what came and went. */
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import type {
  OriginalId,
  PlaceId,
  SearchChange,
  SearchId,
  SearchOrder,
  SearchShape,
  SearchSize,
  SearchView,
} from '@rellin/contract';
import { netChanges } from '../database/netChanges.js';

/** Of so many changes the latest are told. */
const MOST_CHANGES = 500;

/** A saved search as the memory index watches it. */
export interface WatchedRow {
  id: SearchId;
  query: string;
  places: PlaceId[] | null;
  askedAt: Date | null;
}

/** A folder in which answers of a saved search lie as links. */
export interface PublishedRow {
  place: string;
  /** Null where the folder is not known any more. */
  path: string | null;
  name: string;
}

/** One original that came to an answer, or went from it; `at` in ms since 1970. */
export interface ChangeLine {
  searchId: SearchId;
  at: number;
  came: boolean;
  placeId: PlaceId;
  id: OriginalId;
  name: string;
  trail: string[];
}

/** Which day, by the person's calendar. */
export interface Day {
  year: number;
  month: number;
  day: number;
}

interface ViewRow {
  id: SearchId;
  name: string;
  description: string;
  query: string;
  places: PlaceId[] | null;
  show_as: SearchShape;
  sort_by: SearchOrder;
  descending: boolean;
  most: number;
  colour: string;
  keys: string | null;
  muted: boolean;
  tags: string[];
  collections: string[];
  pinned: boolean;
  count: number;
  came: number;
  went: number;
  today: number;
  looked_at: Date | null;
  added_at: Date;
  removed_at: Date | null;
}

const view = (r: ViewRow): SearchView => ({
  id: r.id,
  name: r.name,
  description: r.description,
  query: r.query,
  places: r.places,
  // what was called tiles before there were three sizes
  showAs: (r.show_as as string) === 'tiles' ? 'medium-tiles' : r.show_as,
  sortBy: r.sort_by,
  descending: r.descending,
  most: r.most,
  colour: r.colour,
  keys: r.keys,
  muted: r.muted,
  tags: r.tags,
  collections: r.collections,
  pinned: r.pinned,
  count: r.count,
  came: r.came,
  went: r.went,
  today: r.today,
  lookedAt: (r.looked_at ?? r.added_at).toISOString(),
  addedAt: r.added_at.toISOString(),
  removedAt: r.removed_at?.toISOString() ?? null,
});

@Injectable()
export class SearchesRepository {
  constructor(private readonly db: DataSource) {}

  /** Gone for good after so many days in the bin. Returns how many. */
  async clearBin(manager: EntityManager, days: number): Promise<number> {
    const [, gone] = (await manager.query(
      `DELETE FROM saved_search WHERE removed_at <= now() - make_interval(days => $1)`,
      [days],
    )) as [unknown, number];
    return gone;
  }

  list(removed: boolean, today: Date): Promise<SearchView[]> {
    return this.views(`WHERE q.removed_at IS ${removed ? 'NOT NULL' : 'NULL'} ORDER BY lower(q.name), q.id`, today);
  }

  async one(id: SearchId, today: Date): Promise<SearchView | undefined> {
    return (await this.views(`WHERE q.id = $2`, today, id))[0];
  }

  private async views(where: string, today: Date, ...parameters: SearchId[]): Promise<SearchView[]> {
    const rows = (await this.db.query(
      `SELECT q.*, s.looked_at, p.id IS NOT NULL AS pinned, coalesce(s.count, 0) AS count,
         (${netChanges('q.id', 's.looked_at', true)}) AS came, (${netChanges('q.id', 's.looked_at', false)}) AS went,
         (${netChanges('q.id', '$1', true)}) AS today,
         ARRAY(SELECT g.tag_id::text FROM tagging g JOIN tag t ON t.id = g.tag_id WHERE g.search_id = q.id
           ORDER BY lower(t.name)) AS tags,
         ARRAY(SELECT m.collection_id::text FROM member m JOIN collection c ON c.id = m.collection_id
           WHERE m.search_id = q.id AND c.removed_at IS NULL) AS collections
       FROM saved_search q LEFT JOIN search_status s ON s.search_id = q.id LEFT JOIN pin p ON p.search_id = q.id
       ${where}`,
      [today, ...parameters],
    )) as ViewRow[];
    return rows.map(view);
  }

  /** What the memory index is to watch: all that are not in the bin, or one of them. */
  async watched(id?: SearchId): Promise<WatchedRow[]> {
    return (await this.db.query(
      `SELECT q.id::text, q.query, q.places, s.asked_at AS "askedAt" FROM saved_search q
       LEFT JOIN search_status s ON s.search_id = q.id
       WHERE q.removed_at IS NULL AND q.id = coalesce($1::uuid, q.id)`,
      [id ?? null],
    )) as WatchedRow[];
  }

  async published(): Promise<PublishedRow[]> {
    return (await this.db.query(
      `SELECT l.name AS place, original_path(p.place_id, p.folder_id) AS path, p.name FROM publication p
       JOIN place l ON l.id = p.place_id WHERE p.search_id IS NOT NULL ORDER BY p.id`,
    )) as PublishedRow[];
  }

  /** Another question: what came to the old one is no news of the new. */
  async beginAnew(id: SearchId): Promise<void> {
    await this.db.query(
      `INSERT INTO search_status (search_id) VALUES ($1)
       ON CONFLICT (search_id) DO UPDATE SET looked_at = now(), asked_at = now()`,
      [id],
    );
    await this.db.query(`DELETE FROM search_change WHERE search_id = $1`, [id]);
  }

  /** What came and went, and how many answer now, in one transaction; searches that are gone are passed over. */
  async write(lines: readonly ChangeLine[], counts: readonly (readonly [SearchId, number])[], on: Day): Promise<void> {
    const ids = counts.map(([id]) => id);
    const numbers = counts.map(([, count]) => count);
    await this.db.transaction(async (manager) => {
      if (lines.length > 0)
        await manager.query(
          `INSERT INTO search_change (search_id, at, came, place_id, original_id, name, trail)
           SELECT n.search_id, to_timestamp(n.at / 1000), n.came, n.place_id, n.original_id, n.name,
             ARRAY(SELECT jsonb_array_elements_text(n.trail))
           FROM unnest($1::uuid[], $2::float8[], $3::boolean[], $4::int[], $5::bigint[], $6::text[], $7::jsonb[])
             AS n (search_id, at, came, place_id, original_id, name, trail)
           JOIN saved_search q ON q.id = n.search_id`,
          [
            lines.map((l) => l.searchId),
            lines.map((l) => l.at),
            lines.map((l) => l.came),
            lines.map((l) => l.placeId),
            lines.map((l) => l.id),
            lines.map((l) => l.name),
            lines.map((l) => JSON.stringify(l.trail)),
          ],
        );
      await manager.query(
        `INSERT INTO search_status (search_id, count, asked_at)
         SELECT n.id, n.count, now() FROM unnest($1::uuid[], $2::bigint[]) AS n (id, count)
         JOIN saved_search q ON q.id = n.id
         ON CONFLICT (search_id) DO UPDATE SET count = excluded.count, asked_at = excluded.asked_at`,
        [ids, numbers],
      );
      await manager.query(
        `INSERT INTO search_size (search_id, day, count)
         SELECT n.id, make_date($3, $4, $5), n.count FROM unnest($1::uuid[], $2::bigint[]) AS n (id, count)
         JOIN saved_search q ON q.id = n.id
         ON CONFLICT (search_id, day) DO UPDATE SET count = excluded.count`,
        [ids, numbers, on.year, on.month, on.day],
      );
    });
  }

  /** That all were asked just now, so that a new start knows from when on days went by. */
  async markAsked(): Promise<void> {
    await this.db.query(`UPDATE search_status SET asked_at = now()`);
  }

  async markSeen(id: SearchId): Promise<void> {
    await this.db.query(
      `INSERT INTO search_status (search_id) VALUES ($1) ON CONFLICT (search_id) DO UPDATE SET looked_at = now()`,
      [id],
    );
  }

  /** Forgets changes that were seen, and sizes, once they are that many days old. */
  async prune(changesDays: number, sizesDays: number): Promise<void> {
    await this.db.query(
      `DELETE FROM search_change x USING search_status s
       WHERE s.search_id = x.search_id AND x.at < s.looked_at AND x.at < now() - make_interval(days => $1)`,
      [changesDays],
    );
    await this.db.query(`DELETE FROM search_size WHERE day < current_date - $1::int`, [sizesDays]);
  }

  /** What came since an instant and is still there, or went and is still gone; the latest first. */
  async changes(id: SearchId, since: Date, came: boolean): Promise<SearchChange[]> {
    const rows = (await this.db.query(
      `SELECT place_id, original_id, (array_agg(name ORDER BY id DESC))[1] AS name, max(at) AS at,
         (SELECT y.trail FROM search_change y WHERE y.id = max(x.id)) AS trail
       FROM search_change x WHERE search_id = $1 AND at > $2 GROUP BY place_id, original_id
       HAVING (array_agg(came ORDER BY id))[1] = $3 AND (array_agg(came ORDER BY id DESC))[1] = $3
       ORDER BY max(at) DESC, max(id) DESC LIMIT ${MOST_CHANGES}`,
      [id, since, came],
    )) as { place_id: PlaceId; original_id: OriginalId; name: string; at: Date; trail: string[] }[];
    return rows.map((r) => ({
      at: r.at.toISOString(),
      placeId: r.place_id,
      originalId: r.original_id,
      name: r.name,
      trail: r.trail,
    }));
  }

  /** How many answered, a line a day. */
  async sizes(id: SearchId): Promise<SearchSize[]> {
    return (await this.db.query(`SELECT day::text, count::float8 FROM search_size WHERE search_id = $1 ORDER BY day`, [
      id,
    ])) as SearchSize[];
  }

  /** As if it had been kept for some days: how many there were, by when in ms since 1970 they were changed last. */
  async seedSizes(id: SearchId, changed: readonly number[], days: number): Promise<void> {
    await this.db.query(
      `INSERT INTO search_size (search_id, day, count)
       SELECT $1, d::date,
         (SELECT count(*) FROM unnest($2::float8[]) AS m (at) WHERE to_timestamp(m.at / 1000) < d + interval '1 day')
       FROM generate_series(current_date - $3::int, current_date - 1, interval '1 day') AS d ON CONFLICT DO NOTHING`,
      [id, changed, days],
    );
  }

  /**
   * Some words around a text in the contents of originals, «marked» where they are written as it was asked; `folded` is
   * the text as the index of contents has it.
   */
  async snippets(
    text: string,
    folded: string,
    of: readonly { placeId: PlaceId; id: OriginalId }[],
  ): Promise<{ placeId: PlaceId; id: OriginalId; snippet: string }[]> {
    return (await this.db.query(
      `SELECT x.place_id AS "placeId", x.original_id AS id,
         ts_headline('simple', x.body, phraseto_tsquery('simple', $1),
           'StartSel=«, StopSel=», MaxFragments=1, MaxWords=14, MinWords=5') AS snippet
       FROM content x JOIN unnest($2::int[], $3::bigint[]) AS n (place_id, id)
         ON n.place_id = x.place_id AND n.id = x.original_id WHERE x.words @@ phraseto_tsquery('simple', $4)`,
      [text, of.map((a) => a.placeId), of.map((a) => a.id), folded],
    )) as { placeId: PlaceId; id: OriginalId; snippet: string }[];
  }

  /** What an original holds, as far as it was read. */
  async body(placeId: PlaceId, id: OriginalId): Promise<string | undefined> {
    const rows = (await this.db.query(`SELECT body FROM content WHERE place_id = $1 AND original_id = $2`, [
      placeId,
      id,
    ])) as { body: string }[];
    return rows[0]?.body;
  }
}
