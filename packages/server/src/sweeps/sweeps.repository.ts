/** SQL over kept sweeps, their log, and what is known of things in a folder that is swept. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { Backlog } from '@rellin/core/sweep';
import type { Kind } from '@rellin/core/kinds';
import { fold } from '@rellin/core/match';
import type { OriginalId, OriginalRef, PlaceId, SweepId, SweepRunId, SweepRunView, SweptTo } from '@rellin/contract';
import type { Rows } from '../database/rows.js';
import { nextLineId, type ActTx } from '../journal/actTx.js';

/** What the catalogue knows of an original. */
export interface ThingFacts {
  opened: number | null;
  hasShortcut: boolean;
  isPinned: boolean;
  /** Folded names. */
  tags: string[];
}

/** A link that a sweep left at a thing's old spot. */
export interface LeftLink {
  at: string;
  to: string;
}

export interface NewRun {
  id: SweepRunId;
  sweepId: SweepId | null;
  name: string;
  by: 'person' | 'automatic';
  went: SweptTo[];
  left: number;
  links: LeftLink[];
  linkDays: number;
}

/** Things that a sweep would never take are not counted as gathered. */
const MAY_GO = `type IN ('file', 'folder') AND name NOT LIKE '.%'`;
const MOST_RUNS = 100;

@Injectable()
export class SweepsRepository {
  constructor(private readonly db: DataSource) {}

  async all(): Promise<Rows['sweep'][]> {
    return this.sweeps('true', []);
  }

  async one(id: SweepId): Promise<Rows['sweep'] | undefined> {
    return (await this.sweeps('id = $1', [id]))[0];
  }

  private async sweeps(where: string, parameters: unknown[]): Promise<Rows['sweep'][]> {
    const rows = (await this.db.query(
      `SELECT to_jsonb(s) AS row FROM sweep s WHERE ${where} ORDER BY lower(name), id`,
      parameters,
    )) as { row: Rows['sweep'] }[];
    return rows.map((r) => r.row);
  }

  /** What lies in a folder, its own entries only. */
  async backlog({ placeId, originalId }: OriginalRef): Promise<Backlog> {
    const [row] = (await this.db.query(
      `SELECT count(*)::int AS things, coalesce(sum(size) FILTER (WHERE type = 'file'), 0)::float8 AS size,
         min(mtime) AS oldest
       FROM original WHERE place_id = $1 AND parent_id = $2 AND ${MAY_GO}`,
      [placeId, originalId],
    )) as [Backlog];
    return row;
  }

  /** How many of them came since then, by kind, the most first. */
  async fresh({ placeId, originalId }: OriginalRef, since: Date): Promise<{ kind: Kind; count: number }[]> {
    return (await this.db.query(
      `SELECT kind, count(*)::int AS count FROM original
       WHERE place_id = $1 AND parent_id = $2 AND first_seen > $3 AND ${MAY_GO} GROUP BY kind ORDER BY 2 DESC, 1`,
      [placeId, originalId, since],
    )) as { kind: Kind; count: number }[];
  }

  /** When each kept sweep ran last. */
  async lastRuns(): Promise<Map<SweepId, Date>> {
    const rows = (await this.db.query(
      `SELECT sweep_id::text AS id, max(at) AS at FROM sweep_run WHERE sweep_id IS NOT NULL AND undone_at IS NULL
       GROUP BY 1`,
    )) as { id: SweepId; at: Date }[];
    return new Map(rows.map((r) => [r.id, r.at]));
  }

  async log(): Promise<SweepRunView[]> {
    const rows = (await this.db.query(
      `SELECT r.id::text, r.sweep_id::text AS "sweepId", r.at, r.name, r.by, r.went, r.left_there AS left,
         CASE WHEN jsonb_array_length(r.links) > 0 THEN r.links_until END AS "linksUntil", r.undone_at AS "undoneAt",
         CASE WHEN f.id IS NOT NULL THEN r.journal_id END AS "journalId"
       FROM sweep_run r LEFT JOIN filing f ON f.id = r.id ORDER BY r.at DESC LIMIT $1`,
      [MOST_RUNS],
    )) as (Omit<SweepRunView, 'at' | 'linksUntil' | 'undoneAt'> & {
      at: Date;
      linksUntil: Date | null;
      undoneAt: Date | null;
    })[];
    return rows.map((r) => ({
      ...r,
      at: r.at.toISOString(),
      linksUntil: r.linksUntil?.toISOString() ?? null,
      undoneAt: r.undoneAt?.toISOString() ?? null,
    }));
  }

  /** In the act of its filing, so that neither is there without the other. */
  async addRun(tx: ActTx, { id, sweepId, name, by, went, left, links, linkDays }: NewRun): Promise<void> {
    tx.lineId ??= await nextLineId(tx.manager);
    await tx.manager.query(
      `INSERT INTO sweep_run (id, sweep_id, name, by, went, left_there, links, links_until, journal_id)
       VALUES ($1, $2, $3, $4, $5, $6, $7, CASE WHEN $8::int > 0 THEN now() + make_interval(days => $8) END, $9)`,
      [id, sweepId, name, by, JSON.stringify(went), left, JSON.stringify(links), linkDays, tx.lineId],
    );
  }

  /** Of the filings of these ids, in the act that undoes them or does them again. */
  async markUndone({ manager }: ActTx, ids: readonly string[], isUndone: boolean): Promise<void> {
    await manager.query(`UPDATE sweep_run SET undone_at = CASE WHEN $2 THEN now() END WHERE id = ANY($1)`, [
      ids,
      isUndone,
    ]);
  }

  /** Links that were left long enough. */
  async overdueLinks(): Promise<{ id: SweepRunId; links: LeftLink[] }[]> {
    return (await this.db.query(
      `SELECT id::text, links FROM sweep_run WHERE links_until <= now() AND links <> '[]'`,
    )) as { id: SweepRunId; links: LeftLink[] }[];
  }

  async saveLinks(id: SweepRunId, links: readonly LeftLink[]): Promise<void> {
    await this.db.query(`UPDATE sweep_run SET links = $2 WHERE id = $1`, [id, JSON.stringify(links)]);
  }

  /** Paths below the root of what Rellin keeps in a folder: aliases, and folders of links. */
  async keptIn(placeId: PlaceId, folderId: OriginalId): Promise<string[]> {
    const rows = (await this.db.query(
      `SELECT now_path AS path FROM written_link WHERE place_id = $1 AND now_path IS NOT NULL
       UNION SELECT name FROM publication WHERE place_id = $1 AND folder_id = $2 AND NOT as_menu`,
      [placeId, folderId],
    )) as { path: string }[];
    return rows.map((r) => r.path);
  }

  /** Where sweeps left links that still stand for something. */
  async leftLinks(): Promise<Set<string>> {
    const rows = (await this.db.query(
      `SELECT l->>'at' AS at FROM sweep_run, jsonb_array_elements(links) l WHERE undone_at IS NULL`,
    )) as { at: string }[];
    return new Set(rows.map((r) => r.at));
  }

  async facts(placeId: PlaceId, ids: readonly OriginalId[]): Promise<Map<OriginalId, ThingFacts>> {
    const out = new Map<OriginalId, ThingFacts>();
    const of = (id: OriginalId) => {
      const known = out.get(id) ?? { opened: null, hasShortcut: false, isPinned: false, tags: [] };
      out.set(id, known);
      return known;
    };
    const parameters = [placeId, ids];
    const opened = (await this.db.query(
      `SELECT original_id AS id, extract(epoch FROM max(at)) * 1000 AS at FROM opening
       WHERE place_id = $1 AND original_id = ANY($2) GROUP BY 1`,
      parameters,
    )) as { id: OriginalId; at: number }[];
    for (const { id, at } of opened) of(id).opened = Number(at);
    const shortcuts = (await this.db.query(
      `SELECT original_id AS id, bool_or(EXISTS (SELECT 1 FROM pin WHERE pin.shortcut_id = s.id)) AS pinned
       FROM shortcut s WHERE place_id = $1 AND original_id = ANY($2) AND removed_at IS NULL GROUP BY 1`,
      parameters,
    )) as { id: OriginalId; pinned: boolean }[];
    for (const { id, pinned } of shortcuts) Object.assign(of(id), { hasShortcut: true, isPinned: pinned });
    const tags = (await this.db.query(
      `SELECT g.original_id AS id, t.name FROM tagging g JOIN tag t ON t.id = g.tag_id
       WHERE g.place_id = $1 AND g.original_id = ANY($2)`,
      parameters,
    )) as { id: OriginalId; name: string }[];
    for (const { id, name } of tags) of(id).tags.push(fold(name));
    return out;
  }

  /** Those whose content holds a text. */
  async holding(placeId: PlaceId, ids: readonly OriginalId[], text: string): Promise<Set<OriginalId>> {
    const rows = (await this.db.query(
      `SELECT original_id AS id FROM content
       WHERE place_id = $1 AND original_id = ANY($2) AND words @@ phraseto_tsquery('simple', $3)`,
      [placeId, ids, fold(text)],
    )) as { id: OriginalId }[];
    return new Set(rows.map((r) => r.id));
  }

  /** Which of these names are taken in folders of a place. */
  async taken(
    placeId: PlaceId,
    folders: readonly OriginalId[],
    names: readonly string[],
  ): Promise<Map<OriginalId, string[]>> {
    const rows = (await this.db.query(
      `SELECT parent_id AS folder, name FROM original
       WHERE place_id = $1 AND parent_id = ANY($2) AND name = ANY($3) ORDER BY name`,
      [placeId, folders, names],
    )) as { folder: OriginalId; name: string }[];
    const out = new Map<OriginalId, string[]>();
    for (const { folder, name } of rows) out.set(folder, [...(out.get(folder) ?? []), name]);
    return out;
  }
}
