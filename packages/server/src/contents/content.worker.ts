/** The thread that reads what files hold into PostgreSQL's full-text search, one file at a time. */
import type { OriginalId, PlaceId } from '@rellin/contract';
import { parentPort, workerData } from 'node:worker_threads';
import type pg from 'pg';
import { fold } from '@rellin/core/match';
import { partitionName } from '../database/partition.js';
import { absolute } from '../disk/paths.js';
import { lastingClient } from '../threads/lastingClient.js';
import { readWhole } from '../disk/inside.js';
import { extractText, isReadable } from './extract.js';
import type { FromReader, ReadPlace, ToReader } from './contentMessages.js';

const { databaseUrl } = workerData as { databaseUrl: string };
const port = parentPort!;
const post = (message: FromReader) => port.postMessage(message);

const BATCH = 40;
const client = lastingClient(databaseUrl);
let work: Promise<unknown> = Promise.resolve();
let stopped = 0;
/** The newest original looked at in each place. */
const newest = new Map<number, number>();

interface Waiting {
  id: number;
  name: string;
  mime: string;
  size: number;
  mtime: number;
}

/** Files whose content is wanted and not known as they now are. */
async function waitingIn(db: pg.Client, place: ReadPlace, ids: number[] | undefined): Promise<Waiting[]> {
  const rows = (
    await db.query(
      `SELECT o.id, o.name, o.mime, o.size, o.mtime FROM ${partitionName(place.placeId)} o
       LEFT JOIN content x ON x.place_id = $1 AND x.original_id = o.id
       WHERE o.type = 'file' AND o.size > 0 AND o.size <= $2 AND o.kind = ANY($3)
         AND (x.original_id IS NULL OR x.size <> o.size OR x.mtime <> o.mtime)
         ${ids ? 'AND (o.id = ANY($4) OR o.id > $5)' : ''} ORDER BY o.id`,
      ids
        ? [place.placeId, place.limit, place.kinds, ids, newest.get(place.placeId) ?? 0]
        : [place.placeId, place.limit, place.kinds],
    )
  ).rows as Record<string, string>[];
  return rows
    .map((r) => ({
      id: Number(r['id']),
      name: r['name']!,
      mime: r['mime']!,
      size: Number(r['size']),
      mtime: Number(r['mtime']),
    }))
    .filter((r) => isReadable(r.name, r.mime));
}

/** Read through the one way to places: a link, a pipe or what leads outside holds nothing. */
async function textOf(place: ReadPlace, path: string, { name, mime }: Waiting): Promise<string | undefined> {
  return extractText(readWhole(absolute(place.root, path), place.bounds, place.limit), name, mime);
}

/** Contents of what is gone, has grown too large, or is of no wanted kind any more. */
async function forget(db: pg.Client, place: ReadPlace, ids: number[] | undefined): Promise<number[]> {
  const rows = (
    await db.query(
      `DELETE FROM content x WHERE x.place_id = $1 ${ids ? 'AND x.original_id = ANY($4)' : ''} AND NOT EXISTS (
         SELECT 1 FROM ${partitionName(place.placeId)} o WHERE o.id = x.original_id AND o.type = 'file'
           AND o.size <= $2 AND o.kind = ANY($3)) RETURNING x.original_id`,
      [place.placeId, place.limit, place.kinds, ...(ids ? [ids] : [])],
    )
  ).rows as { original_id: OriginalId }[];
  return rows.map((r) => r.original_id);
}

async function write(db: pg.Client, placeId: PlaceId, read: (Waiting & { body: string })[]): Promise<void> {
  const values = (from: typeof read) => [
    placeId,
    from.map((r) => r.id),
    from.map((r) => r.size),
    from.map((r) => r.mtime),
    from.map((r) => r.body),
    from.map((r) => fold(r.body)),
  ];
  const text = `INSERT INTO content (place_id, original_id, size, mtime, body, words)
    SELECT $1, n.id, n.size, n.mtime, n.body, to_tsvector('simple', n.folded)
    FROM unnest($2::bigint[], $3::bigint[], $4::float8[], $5::text[], $6::text[]) AS n (id, size, mtime, body, folded)
    ON CONFLICT (place_id, original_id) DO UPDATE
      SET size = excluded.size, mtime = excluded.mtime, body = excluded.body, words = excluded.words`;
  try {
    await db.query(text, values(read));
  } catch {
    // more different words than a tsvector holds: each by itself, and of the largest less
    for (const r of read)
      await db.query(text, values([r])).catch(() => db.query(text, values([{ ...r, body: r.body.slice(0, 60_000) }])));
  }
}

async function readPlace(place: ReadPlace, ids: number[] | undefined): Promise<void> {
  const db = await client.get();
  const { placeId } = place;
  const exists = await db.query(`SELECT to_regclass($1) AS t`, [partitionName(placeId)]);
  if (!(exists.rows[0] as { t: string | null }).t) return;
  const gone = await forget(db, place, ids);
  const waiting = await waitingIn(db, place, ids);
  const last = (await db.query(`SELECT max(id) AS id FROM ${partitionName(placeId)}`)).rows[0] as { id: number | null };
  newest.set(placeId, last.id ?? 0);
  if (gone.length > 0) post({ kind: 'written', placeId, ids: gone, done: 0 });
  if (waiting.length === 0) return;
  post({ kind: 'begun', placeId, total: waiting.length });
  const begun = stopped;
  for (let i = 0; i < waiting.length && begun === stopped; i += BATCH) {
    const batch = waiting.slice(i, i + BATCH);
    const paths = new Map(
      (
        (
          await db.query(`SELECT n.id, original_path($1, n.id) AS path FROM unnest($2::bigint[]) AS n (id)`, [
            placeId,
            batch.map((b) => b.id),
          ])
        ).rows as { id: number; path: string | null }[]
      ).map((r) => [r.id, r.path]),
    );
    const read: (Waiting & { body: string })[] = [];
    for (const file of batch) {
      const path = paths.get(file.id);
      if (path == null) continue; // gone meanwhile
      post({ kind: 'reading', placeId, id: file.id });
      // what cannot be read holds nothing that can be found, until it changes
      const body = await textOf(place, path, file).catch(() => '');
      read.push({ ...file, body: body ?? '' });
    }
    await write(db, placeId, read);
    post({ kind: 'written', placeId, ids: read.map((r) => r.id), done: Math.min(i + BATCH, waiting.length) });
    // the rest of the machine goes first
    await new Promise((resolve) => setImmediate(resolve));
  }
}

function after(placeId: PlaceId, job: () => Promise<unknown>): void {
  work = work
    .then(job)
    .catch((error: Error) => post({ kind: 'trouble', message: error.message }))
    .then(() => post({ kind: 'done', placeId }));
}

port.on('message', (message: ToReader) => {
  switch (message.kind) {
    case 'place':
      after(message.place.placeId, () => readPlace(message.place, undefined));
      break;
    case 'changed':
      after(message.place.placeId, () => readPlace(message.place, message.ids));
      break;
    case 'stop':
      stopped++;
      break;
  }
});
