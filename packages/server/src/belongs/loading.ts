/** Folders and files of the index, as the thread learns from them. */
import type pg from 'pg';
import type { PlaceId } from '@rellin/contract';
import { partitionName } from '../database/partition.js';
import { copyOut } from '../indexing/copyOut.js';

export interface BelongsRow {
  id: number;
  parentId: number;
  name: string;
  type: string;
  size: number;
  modified: number;
}

async function read(client: pg.Client, placeId: PlaceId, where: string): Promise<BelongsRow[]> {
  const rows: BelongsRow[] = [];
  const query = `SELECT id, parent_id, name, type, size, mtime FROM ${partitionName(placeId)} WHERE ${where}`;
  await copyOut(client, query, (row) =>
    rows.push({
      id: row.whole(),
      parentId: row.whole(),
      name: row.text(),
      type: row.text(),
      size: row.whole(),
      modified: row.float(),
    }),
  );
  return rows;
}

/** The highest id of a place; 0 where nothing is known of it yet. */
export async function highestId(client: pg.Client, placeId: PlaceId): Promise<number> {
  const { rows } = await client.query(`SELECT coalesce(max(id), 0) AS id FROM original WHERE place_id = $1`, [placeId]);
  return (rows[0] as { id: number }).id;
}

export const readFolders = (client: pg.Client, placeId: PlaceId) => read(client, placeId, `type = 'folder'`);

/** Those that changed last, at most so many. */
export const readFiles = (client: pg.Client, placeId: PlaceId, most: number) =>
  read(client, placeId, `type = 'file' ORDER BY mtime DESC LIMIT ${Number(most)}`);

/** Those of these ids, and all that came after another. */
export const readChanged = (client: pg.Client, placeId: PlaceId, ids: readonly number[], after: number) =>
  read(client, placeId, `id > ${Number(after)} OR id = ANY('{${ids.map(Number).join()}}')`);
