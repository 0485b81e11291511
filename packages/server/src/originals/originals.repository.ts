/** SQL over the index of originals. The place comes first in every key, so that each query meets one partition. */
import type { OriginalId, PlaceId } from '@rellin/contract';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { EntryType, Kind } from '@rellin/core/kinds';
import { segmentsOf } from '@rellin/core/paths';
import { readHistory } from '../indexing/originalRow.js';

export interface OriginalRecord {
  placeId: PlaceId;
  id: OriginalId;
  parentId: number;
  name: string;
  type: EntryType;
  kind: Kind;
  mime: string;
  size: number;
  mtime: number;
  birth: number;
  inode: number;
  firstSeen: number;
  /** Where it was before, the latest first. */
  cameFrom: string[];
}

const COLUMNS = `o.place_id, o.id, o.parent_id, o.name, o.type, o.kind, o.mime, o.size, o.mtime, o.birth, o.inode,
  extract(epoch FROM o.first_seen) * 1000 AS first_seen, o.came_from`;

type Raw = Record<string, string | number | null>;

function record(r: Raw): OriginalRecord {
  return {
    placeId: Number(r['place_id']),
    id: Number(r['id']),
    parentId: Number(r['parent_id']),
    name: String(r['name']),
    type: r['type'] as EntryType,
    kind: r['kind'] as Kind,
    mime: String(r['mime']),
    size: Number(r['size']),
    mtime: Number(r['mtime']),
    birth: Number(r['birth']),
    inode: Number(r['inode']),
    firstSeen: Number(r['first_seen']),
    cameFrom: readHistory(r['came_from'] as string | null),
  };
}

interface Ancestor {
  id: OriginalId;
  name: string;
  /** Entries on this one's level, itself included. */
  among: number;
}

@Injectable()
export class OriginalsRepository {
  constructor(private readonly db: DataSource) {}

  async find(placeId: PlaceId, id: OriginalId): Promise<OriginalRecord | undefined> {
    const rows = (await this.db.query(`SELECT ${COLUMNS} FROM original o WHERE place_id = $1 AND id = $2`, [
      placeId,
      id,
    ])) as Raw[];
    return rows[0] && record(rows[0]);
  }

  async some(placeId: PlaceId, ids: number[]): Promise<OriginalRecord[]> {
    const rows = (await this.db.query(`SELECT ${COLUMNS} FROM original o WHERE place_id = $1 AND id = ANY($2)`, [
      placeId,
      ids,
    ])) as Raw[];
    return rows.map(record);
  }

  /** The names from the place's root down to the folders that originals lie in; the root's is empty. */
  async trails(placeId: PlaceId, ids: number[]): Promise<Map<number, string[]>> {
    const rows = (await this.db.query(
      `WITH RECURSIVE up (leaf, parent_id, name, depth) AS (
         SELECT id, parent_id, name, 0 FROM original WHERE place_id = $1 AND id = ANY($2)
         UNION ALL
         SELECT up.leaf, o.parent_id, o.name, depth + 1
         FROM up JOIN original o ON o.place_id = $1 AND o.id = up.parent_id WHERE depth < 4096
       )
       SELECT leaf, array_agg(name::text ORDER BY depth DESC) FILTER (WHERE depth > 0) AS names FROM up GROUP BY leaf`,
      [placeId, ids],
    )) as { leaf: number; names: string[] | null }[];
    return new Map(rows.map((r) => [r.leaf, r.names ?? []]));
  }

  /** Rows by id with their paths below the place. Many lie in few folders, so that folders' paths are read once. */
  async located(placeId: PlaceId, ids: number[]): Promise<Map<number, { row: OriginalRecord; path: string }>> {
    if (ids.length === 0) return new Map();
    const rows = await this.some(placeId, ids);
    const folders = (await this.db.query(`SELECT id, original_path($1, id) AS path FROM unnest($2::bigint[]) id`, [
      placeId,
      [...new Set(rows.map((row) => row.parentId))].filter((id) => id > 0),
    ])) as { id: OriginalId; path: string | null }[];
    const folderOf = new Map(folders.map((f) => [f.id, f.path]));
    return new Map(
      rows.flatMap((row) => {
        const folder = row.parentId > 0 ? folderOf.get(row.parentId) : '';
        if (folder === undefined || folder === null) return [];
        return [[row.id, { row, path: folder === '' ? row.name : `${folder}/${row.name}` }] as const];
      }),
    );
  }

  async childrenOf(placeId: PlaceId, id: OriginalId): Promise<OriginalRecord[]> {
    const rows = (await this.db.query(`SELECT ${COLUMNS} FROM original o WHERE place_id = $1 AND parent_id = $2`, [
      placeId,
      id,
    ])) as Raw[];
    return rows.map(record);
  }

  async pathOf(placeId: PlaceId, id: OriginalId): Promise<string | undefined> {
    const rows = (await this.db.query(`SELECT original_path($1, $2) AS path`, [placeId, id])) as {
      path: string | null;
    }[];
    return rows[0]?.path ?? undefined;
  }

  /** The original at a relative path. */
  async at(placeId: PlaceId, path: string): Promise<OriginalRecord | undefined> {
    const rows = (await this.db.query(
      `WITH RECURSIVE down (id, depth) AS (
         SELECT 1::bigint, 0
         UNION ALL
         SELECT o.id, depth + 1 FROM down
         JOIN original o ON o.place_id = $1 AND o.parent_id = down.id AND o.name = ($2::text[])[depth + 1]
         WHERE depth < cardinality($2::text[])
       )
       SELECT ${COLUMNS} FROM down JOIN original o ON o.place_id = $1 AND o.id = down.id
       WHERE depth = cardinality($2::text[])`,
      [placeId, segmentsOf(path)],
    )) as Raw[];
    return rows[0] && record(rows[0]);
  }

  async withInodes(placeId: PlaceId, inodes: number[]): Promise<OriginalRecord[]> {
    if (inodes.length === 0) return [];
    const rows = (await this.db.query(
      `SELECT ${COLUMNS} FROM original o WHERE place_id = $1 AND inode = ANY($2::float8[])`,
      [placeId, inodes],
    )) as Raw[];
    return rows.map(record);
  }

  /** Files of these sizes in any of the places, newest in the index first. One look through them for all sizes. */
  async withSizes(placeIds: number[], sizes: number[]): Promise<OriginalRecord[]> {
    if (sizes.length === 0) return [];
    const rows = (await this.db.query(
      `SELECT ${COLUMNS} FROM original o WHERE place_id = ANY($1) AND size = ANY($2::bigint[]) AND type = 'file'
       ORDER BY first_seen DESC LIMIT 50000`,
      [placeIds, sizes],
    )) as Raw[];
    return rows.map(record);
  }

  /** What bears one of these names, and files of one of these sizes. One look through the place. */
  async namedOrSized(placeId: PlaceId, names: string[], sizes: number[]): Promise<OriginalRecord[]> {
    const rows = (await this.db.query(
      `SELECT ${COLUMNS} FROM original o WHERE place_id = $1
         AND (name = ANY($2) OR (type = 'file' AND size > 0 AND size = ANY($3))) LIMIT 50000`,
      [placeId, names, sizes],
    )) as Raw[];
    return rows.map(record);
  }

  /** From the place's root down to the original, with the number of entries on each level. */
  async ancestors(placeId: PlaceId, ids: number[]): Promise<Map<number, Ancestor[]>> {
    const rows = (await this.db.query(
      `WITH RECURSIVE up (leaf, id, parent_id, name, depth) AS (
         SELECT id, id, parent_id, name, 0 FROM original WHERE place_id = $1 AND id = ANY($2)
         UNION ALL
         SELECT up.leaf, o.id, o.parent_id, o.name, depth + 1
         FROM up JOIN original o ON o.place_id = $1 AND o.id = up.parent_id WHERE depth < 4096
       ), counts AS (
         SELECT parent_id, count(*) AS among FROM original
         WHERE place_id = $1 AND parent_id IN (SELECT DISTINCT parent_id FROM up) GROUP BY parent_id
       )
       SELECT leaf, id, name, among FROM up JOIN counts USING (parent_id) ORDER BY leaf, depth DESC`,
      [placeId, ids],
    )) as { leaf: number; id: OriginalId; name: string; among: number }[];
    const out = new Map<number, Ancestor[]>();
    for (const r of rows) {
      const leaf = r.leaf;
      const list = out.get(leaf) ?? [];
      list.push({ id: r.id, name: r.name, among: r.among });
      out.set(leaf, list);
    }
    return out;
  }

  async childCounts(placeId: PlaceId, ids: number[]): Promise<Map<number, number>> {
    if (ids.length === 0) return new Map();
    const rows = (await this.db.query(
      `SELECT parent_id, count(*) AS n FROM original WHERE place_id = $1 AND parent_id = ANY($2) GROUP BY parent_id`,
      [placeId, ids],
    )) as { parent_id: number; n: number }[];
    return new Map(rows.map((r) => [r.parent_id, r.n]));
  }

  /** Shortcuts (not in the bin) by the original they point to. */
  async shortcutsTo(
    placeId: PlaceId,
    ids: number[],
  ): Promise<Map<number, { id: string; name: string; state: string }>> {
    if (ids.length === 0) return new Map();
    const rows = (await this.db.query(
      `SELECT original_id, id, name, state FROM shortcut
       WHERE place_id = $1 AND original_id = ANY($2) AND removed_at IS NULL ORDER BY added_at DESC`,
      [placeId, ids],
    )) as { original_id: OriginalId; id: string; name: string; state: string }[];
    return new Map(rows.map((r) => [r.original_id, { id: r.id, name: r.name, state: r.state }]));
  }

  /** Ids of the tags on originals, by name. */
  async tagsOn(placeId: PlaceId, ids: number[]): Promise<Map<number, string[]>> {
    if (ids.length === 0) return new Map();
    const rows = (await this.db.query(
      `SELECT g.original_id, array_agg(t.id::text ORDER BY lower(t.name)) AS tags
       FROM tagging g JOIN tag t ON t.id = g.tag_id
       WHERE g.place_id = $1 AND g.original_id = ANY($2) GROUP BY g.original_id`,
      [placeId, ids],
    )) as { original_id: OriginalId; tags: string[] }[];
    return new Map(rows.map((r) => [r.original_id, r.tags]));
  }

  /** The first of a place's links by id, and how many it has in all. */
  async links(placeId: PlaceId, most: number): Promise<{ ids: OriginalId[]; total: number }> {
    const rows = (await this.db.query(
      `SELECT id, count(*) OVER ()::int AS total FROM original WHERE place_id = $1 AND type = 'link'
       ORDER BY id LIMIT $2`,
      [placeId, most],
    )) as { id: OriginalId; total: number }[];
    return { ids: rows.map((r) => r.id), total: rows[0]?.total ?? 0 };
  }

  /** Files and folders of exactly this name, wherever they lie. */
  async named(name: string, most: number): Promise<{ placeId: PlaceId; id: OriginalId }[]> {
    return (await this.db.query(
      `SELECT place_id AS "placeId", id FROM original WHERE name = $1 AND type IN ('file', 'folder') LIMIT $2`,
      [name, most],
    )) as { placeId: PlaceId; id: OriginalId }[];
  }
}
