/** Differences between index and disk, and writing them in one transaction. */
import type { PlaceId } from '@rellin/contract';
import type { Client } from 'pg';
import { rearrange, type KnownEntry, type Replaced, type SeenEntry } from '@rellin/core/reconcile';
import type { EntryType } from '@rellin/core/kinds';
import { partitionName } from '../database/partition.js';
import { copyInto } from './copyIn.js';
import type { Gone } from './latelyGone.js';
import { foldedOf, readHistory, writeHistory, type OriginalRow } from './originalRow.js';
import { describe } from './mimeTypes.js';

export interface Appeared extends SeenEntry {
  parentId: number;
  dev: number;
  /** Fixed already for a folder whose children were met under it. */
  id: number;
}

export interface Differences {
  appeared: Appeared[];
  gone: KnownEntry[];
  /** Same path, another inode. */
  replaced: Replaced<Appeared>[];
  /** Same path and inode, other size or time. */
  edited: Replaced<Appeared>[];
  /** Folders met at another path. */
  movedFolders: { row: KnownEntry; now: Appeared }[];
}

export interface Written {
  added: number;
  changed: number;
  removed: number;
  /** Ids of originals whose path or identity is not what it was; shortcuts to them want a look. */
  touched: number[];
  /** A folder moved or vanished: everything below it wants a look. */
  foldersTouched: boolean;
  /** Ids of folders that something appeared in, left, or was changed in; not told where folders were touched. */
  folders: number[];
}

export const noDifferences = (): Differences => ({
  appeared: [],
  gone: [],
  replaced: [],
  edited: [],
  movedFolders: [],
});

export function toRow(entry: Appeared, id = entry.id): OriginalRow {
  const { kind, mime } = describe(entry.type, entry.name);
  return { ...entry, id, kind, mime };
}

interface Update extends OriginalRow {
  /** Where it was before, the latest first; undefined leaves what is known. */
  cameFrom: readonly string[] | undefined;
}

/** Of so many moves it is known where a file was: an exchange of two takes three, a rotation of three four. */
const MOST_MOVES_KNOWN = 5;

/**
 * Works out moves and exchanges, then writes: deletions, additions, changes, and the place's counters.
 * Rows keep their id over a move. Call within a transaction.
 */
export async function writeDifferences(
  client: Client,
  placeId: PlaceId,
  found: Differences,
  { nextId, now, back = [] }: { nextId: number; now: string; back?: readonly Gone[] },
): Promise<{ written: Written; removed: Gone[] }> {
  const { moves, gone, appeared, replaced } = rearrange(found.gone, found.appeared, found.replaced);
  let freeId = nextId;
  for (const entry of appeared) if (entry.id === 0) entry.id = freeId++;
  const updates: Update[] = [];
  const relocated: Update[] = [];
  const wasAt = await whereabouts(client, placeId, [
    ...moves.flatMap(({ row }) => (row.type === 'folder' ? [] : [row.id])),
    ...replaced.flatMap(({ from }) => from?.id ?? []),
  ]);
  const relocate = (entry: Appeared, id: number) => relocated.push({ ...toRow(entry, id), cameFrom: wasAt.get(id) });
  for (const { row, now: entry } of moves) relocate(entry, row.id);
  for (const { row, now: entry } of found.movedFolders) relocate(entry, row.id);
  for (const { row, now: entry } of found.edited) updates.push({ ...toRow(entry, row.id), cameFrom: undefined });
  // another file than was known there
  for (const { row, now: entry, from } of replaced)
    updates.push({ ...toRow(entry, row.id), cameFrom: (from && wasAt.get(from.id)) ?? [] });

  const table = partitionName(placeId);
  const left: KnownEntry[] = [...moves.map((m) => m.row), ...gone, ...found.movedFolders.map((m) => m.row)];
  const foldersTouched = left.some((row) => row.type === 'folder');
  const leftFrom = foldersTouched ? [] : await parentsOf(client, table, left);
  if (relocated.length > 0) {
    // out of the way first: in a chain a→b, b→c the unique index would object half-way, and what moved out of a folder
    // that is gone must not be removed with it
    await client.query(
      `UPDATE ${table} t SET name = chr(1) || t.id, parent_id = n.parent_id
       FROM unnest($1::bigint[], $2::bigint[]) AS n (id, parent_id) WHERE t.id = n.id`,
      [relocated.map((r) => r.id), relocated.map((r) => r.parentId)],
    );
  }
  const removed = gone.length > 0 ? await removeRows(client, table, gone) : [];
  if (appeared.length > 0) {
    const copy = copyInto(client, table, placeId, now);
    for (const entry of appeared) copy.write(toRow(entry));
    await copy.end();
  }
  if (back.length > 0)
    await client.query(
      `UPDATE ${table} t SET first_seen = b.first_seen, came_from = b.came_from
       FROM unnest($1::bigint[], $2::timestamptz[], $3::text[]) AS b (id, first_seen, came_from) WHERE t.id = b.id`,
      [back.map((r) => r.id), back.map((r) => r.firstSeen), back.map((r) => r.cameFrom)],
    );
  await updateRows(client, table, [...relocated, ...updates]);
  if (appeared.length + removed.length > 0)
    await client.query(
      `UPDATE place_status SET next_id = GREATEST(next_id, $2), entries = entries + $3 WHERE place_id = $1`,
      [placeId, freeId, appeared.length - removed.length],
    );
  const written: Written = {
    added: appeared.length,
    changed: relocated.length + updates.length,
    removed: removed.length,
    touched: [...gone, ...removed, ...relocated, ...updates, ...back].map((r) => r.id),
    foldersTouched,
    folders: [...new Set([...leftFrom, ...[...appeared, ...relocated, ...updates].map((row) => row.parentId)])],
  };
  return { written, removed };
}

async function parentsOf(client: Client, table: string, rows: readonly KnownEntry[]): Promise<number[]> {
  if (rows.length === 0) return [];
  const { rows: parents } = await client.query<{ parent_id: number }>(
    `SELECT DISTINCT parent_id FROM ${table} WHERE id = ANY($1::bigint[])`,
    [rows.map((row) => row.id)],
  );
  return parents.map((p) => p.parent_id);
}

/** Where originals are as the index has it, and where they were before. */
async function whereabouts(client: Client, placeId: PlaceId, ids: number[]): Promise<Map<number, string[]>> {
  if (ids.length === 0) return new Map();
  const { rows } = (await client.query(
    `SELECT id, original_path($1, id) AS path, came_from FROM original WHERE place_id = $1 AND id = ANY($2)`,
    [placeId, ids],
  )) as { rows: { id: number; path: string; came_from: string | null }[] };
  return new Map(
    rows.map(({ id, path, came_from }) => [id, [path, ...readHistory(came_from)].slice(0, MOST_MOVES_KNOWN)]),
  );
}

/** Removes rows and all below them that did not move away. */
async function removeRows(client: Client, table: string, gone: KnownEntry[]): Promise<Gone[]> {
  const result = await client.query<Gone>(
    `WITH RECURSIVE below (id) AS (
       SELECT unnest($1::bigint[])
       UNION
       SELECT o.id FROM below JOIN ${table} o ON o.parent_id = below.id
     )
     DELETE FROM ${table} t USING below WHERE t.id = below.id
     RETURNING t.id, t.name, t.type, t.size, t.mtime, t.birth, t.inode, t.first_seen::text AS "firstSeen",
       t.came_from AS "cameFrom"`,
    [gone.map((row) => row.id)],
  );
  return result.rows;
}

async function updateRows(client: Client, table: string, rows: Update[]): Promise<void> {
  for (let i = 0; i < rows.length; i += 5000) {
    const part = rows.slice(i, i + 5000);
    const column = <K extends keyof Update>(key: K) => part.map((row) => row[key]);
    await client.query(
      `UPDATE ${table} t SET parent_id = n.parent_id, name = n.name, folded = n.folded, type = n.type, kind = n.kind, mime = n.mime,
         size = n.size, mtime = n.mtime, birth = n.birth, dev = n.dev, inode = n.inode,
         came_from = CASE WHEN n.keeps THEN t.came_from ELSE n.came_from END
       FROM unnest($1::bigint[], $2::bigint[], $3::text[], $4::text[], $5::text[], $6::text[], $7::bigint[],
         $8::float8[], $9::float8[], $10::float8[], $11::float8[], $12::text[], $13::bool[], $14::text[])
         AS n (id, parent_id, name, type, kind, mime, size, mtime, birth, dev, inode, came_from, keeps, folded)
       WHERE t.id = n.id`,
      [
        column('id'),
        column('parentId'),
        column('name'),
        column('type'),
        column('kind'),
        column('mime'),
        column('size'),
        column('mtime'),
        column('birth'),
        column('dev'),
        column('inode'),
        part.map((row) => writeHistory(row.cameFrom)),
        part.map((row) => row.cameFrom === undefined),
        part.map((row) => foldedOf(row.name)),
      ],
    );
  }
}

/** Whether anything about an entry at the same path differs; "replaced" where it is another file. */
export function compare(row: KnownEntry, now: SeenEntry): 'same' | 'edited' | 'replaced' {
  if (
    row.type !== now.type ||
    row.inode !== now.inode ||
    (row.birth !== now.birth && row.birth !== 0 && now.birth !== 0)
  )
    return 'replaced';
  // a folder's size and time change with its contents, which are compared themselves
  return row.size === now.size && row.mtime === now.mtime ? 'same' : 'edited';
}

/** An entry as the walk packed it, in the folder it was met in. */
export function seenFrom(
  name: string,
  type: EntryType,
  n: Float64Array,
  at: number,
  parentId: number,
  id: number,
): Appeared {
  return {
    name,
    type,
    size: n[at]!,
    mtime: n[at + 1]!,
    birth: n[at + 2]!,
    dev: n[at + 3]!,
    inode: n[at + 4]!,
    parentId,
    id,
  };
}
