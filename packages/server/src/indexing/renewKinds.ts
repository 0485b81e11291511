/**
 * Kinds of originals come from their names by tables: the system's, which grow as programs are installed, and our own.
 * Where these are others than when a place was looked through, what the index knows of it is told anew.
 */
import type { Client } from 'pg';
import type { PlaceId } from '@rellin/contract';
import type { EntryType } from '@rellin/core/kinds';
import { partitionName } from '../database/partition.js';
import { copyOut } from './copyOut.js';
import { describe, kindTables } from './mimeTypes.js';

const AT_ONCE = 10_000;

/** Returns the ids of those that are of another kind or type now. Cost: a pass over the place, once a change. */
export async function renewKinds(client: Client, placeId: PlaceId): Promise<number[]> {
  const tables = kindTables();
  const status = await client.query(`SELECT kinds FROM place_status WHERE place_id = $1`, [placeId]);
  if ((status.rows[0] as { kinds: string | null } | undefined)?.kinds === tables) return [];
  const others: { id: number; kind: string; mime: string }[] = [];
  const partition = partitionName(placeId);
  await copyOut(client, `SELECT id, type, name, kind, mime FROM ${partition} WHERE parent_id <> 0`, (row) => {
    const id = row.whole();
    const { kind, mime } = describe(row.text() as EntryType, row.text());
    const [wasKind, wasMime] = [row.text(), row.text()];
    if (kind !== wasKind || mime !== wasMime) others.push({ id, kind, mime });
  });
  await client.query('BEGIN');
  try {
    for (let i = 0; i < others.length; i += AT_ONCE) {
      const some = others.slice(i, i + AT_ONCE);
      await client.query(
        `UPDATE ${partition} o SET kind = n.kind, mime = n.mime
         FROM unnest($1::bigint[], $2::text[], $3::text[]) AS n (id, kind, mime) WHERE o.id = n.id`,
        [some.map((o) => o.id), some.map((o) => o.kind), some.map((o) => o.mime)],
      );
    }
    await client.query(`UPDATE place_status SET kinds = $2 WHERE place_id = $1`, [placeId, tables]);
    await client.query('COMMIT');
  } catch (error) {
    await client.query('ROLLBACK').catch(() => undefined);
    throw error;
  }
  return others.map((o) => o.id);
}
