/**
 * A scan of a whole place. The first one streams what the walk finds straight into a loose table by COPY, indexes it
 * last and attaches it; later ones compare with what is known and write only what differs.
 */
import type { PlaceId } from '@rellin/contract';
import type { Client } from 'pg';
import { createLoose, dropPartition, indexAndAttach, partitionName } from '../database/partition.js';
import { diskPath } from '../disk/paths.js';
import { entryStat } from '../disk/stat.js';
import { copyInto, type CopyIn } from './copyIn.js';
import {
  compare,
  noDifferences,
  seenFrom,
  toRow,
  writeDifferences,
  type Appeared,
  type Written,
} from './differences.js';
import { KnownRows } from './knownRows.js';
import { kindTables } from './mimeTypes.js';
import { walk } from './walk.js';
import { NUMBERS_PER_ENTRY, typeOfFormat, type WalkBatch } from './walkTypes.js';
import { lstatSync } from '../disk/port.js';

export const ROOT_ID = 1;

export interface ScanOptions {
  placeId: PlaceId;
  root: string;
  excludes: readonly string[];
  /** Folders never looked into, as “device:inode”. */
  own?: ReadonlySet<string>;
  signal?: AbortSignal;
  onProgress?(done: number): void;
  now?: string;
}

export type ScanOutcome =
  | { outcome: 'done'; entries: number; written: Written }
  | { outcome: 'stopped' }
  | { outcome: 'failed'; reason: string };

/** One scan in one transaction: stopped or failed, it leaves the index as it was. */
export async function scanPlace(client: Client, options: ScanOptions): Promise<ScanOutcome> {
  const root = rootEntry(options.root);
  if (!root) return { outcome: 'failed', reason: 'its folder is not there' };
  const attached = await isAttached(client, options.placeId);
  await client.query('BEGIN');
  try {
    const outcome = attached ? await rescan(client, options, root) : await firstScan(client, options, root);
    if (outcome.outcome !== 'done') {
      await client.query('ROLLBACK');
      return outcome;
    }
    const now = rootEntry(options.root);
    if (!now || now.inode !== root.inode || now.dev !== root.dev) {
      await client.query('ROLLBACK');
      return { outcome: 'failed', reason: 'it went away meanwhile' };
    }
    await client.query('COMMIT');
    // statistics for the planner; not part of the answer
    if (!attached) await client.query(`ANALYZE ${partitionName(options.placeId)}`);
    return outcome;
  } catch (error) {
    await client.query('ROLLBACK').catch(() => undefined);
    throw error;
  }
}

export function rootEntry(root: string): Appeared | undefined {
  const s = lstatSync(diskPath(root), { throwIfNoEntry: false });
  if (!s?.isDirectory()) return undefined;
  return { ...entryStat(s, diskPath(root)), name: '', parentId: 0, id: ROOT_ID };
}

async function isAttached(client: Client, placeId: PlaceId): Promise<boolean> {
  const result = await client.query(
    `SELECT 1 FROM pg_inherits WHERE inhparent = 'original'::regclass AND inhrelid = to_regclass($1)`,
    [partitionName(placeId)],
  );
  return result.rowCount === 1;
}

/** Splits a packed batch into entries, in order. */
function readBatch(batch: WalkBatch, onFolder: FolderReader): void {
  const names = batch.names === '' ? [] : batch.names.split('/');
  let at = 0;
  let refAt = 0;
  for (const folder of batch.folders) {
    const entry = onFolder(folder);
    for (let k = 0; k < folder.count; k++, at++) {
      const type = typeOfFormat(batch.types[at]!);
      const ref = type === 'folder' ? batch.refs[refAt++]! : -1;
      entry(names[at]!, type, ref, at * NUMBERS_PER_ENTRY);
    }
  }
}
type EntryReader = (name: string, type: ReturnType<typeof typeOfFormat>, ref: number, at: number) => void;
type FolderReader = (folder: WalkBatch['folders'][number]) => EntryReader;

async function firstScan(client: Client, options: ScanOptions, root: Appeared): Promise<ScanOutcome> {
  const { placeId, excludes, own, signal, onProgress } = options;
  const now = options.now ?? new Date().toISOString();
  await client.query(dropPartition(placeId));
  await client.query(createLoose(placeId));
  const copy: CopyIn = copyInto(client, partitionName(placeId), placeId, now);
  copy.write(toRow(root));
  const idOfRef = new Map<number, number>([[0, ROOT_ID]]);
  let nextId = ROOT_ID + 1;
  const complete = await walk({
    root: diskPath(options.root),
    excludes,
    own,
    signal,
    onBatch(batch) {
      readBatch(batch, (folder) => {
        const parentId = idOfRef.get(folder.ref)!;
        idOfRef.delete(folder.ref);
        return (name, type, ref, at) => {
          const id = nextId++;
          if (ref >= 0) idOfRef.set(ref, id);
          copy.write(toRow(seenFrom(name, type, batch.numbers, at, parentId, id)));
        };
      });
      onProgress?.(nextId - 2);
    },
  });
  const rows = await copy.end();
  if (!complete) return { outcome: 'stopped' };
  await client.query(indexAndAttach(placeId));
  await client.query(`UPDATE place_status SET next_id = $2, entries = $3, kinds = $4 WHERE place_id = $1`, [
    placeId,
    nextId,
    rows - 1,
    kindTables(),
  ]);
  return {
    outcome: 'done',
    entries: rows - 1,
    written: { added: rows - 1, changed: 0, removed: 0, touched: [], foldersTouched: true, folders: [] },
  };
}

async function rescan(client: Client, options: ScanOptions, root: Appeared): Promise<ScanOutcome> {
  const { placeId, excludes, own, signal, onProgress } = options;
  const stop = new AbortController();
  signal?.addEventListener('abort', () => stop.abort(), { once: true });
  if (signal?.aborted) stop.abort();
  // the disk is walked while what is known is read; what the walk finds meanwhile waits
  const early: WalkBatch[] = [];
  let take = (batch: WalkBatch): void => void early.push(batch);
  const walking = walk({
    root: diskPath(options.root),
    excludes,
    own,
    signal: stop.signal,
    onBatch: (batch) => take(batch),
  });
  // an end before it is awaited is met below
  walking.catch(() => undefined);
  const known = await KnownRows.load(client, placeId).catch((error: unknown) => {
    stop.abort();
    throw error;
  });
  const status = await client.query(`SELECT next_id FROM place_status WHERE place_id = $1 FOR UPDATE`, [placeId]);
  let nextId = (status.rows[0] as { next_id: number }).next_id;
  const found = noDifferences();
  const idOfRef = new Map<number, number>([[0, ROOT_ID]]);
  const rootRow = [...known.childrenOf(0).values()][0];
  if (rootRow !== undefined) {
    known.met[rootRow] = 1;
    const row = known.known(rootRow);
    if (compare(row, root) === 'edited') found.edited.push({ row, now: root });
  }
  const unread: number[] = [];
  let entries = 0;
  take = (batch) => {
    readBatch(batch, (folder) => {
      const parentId = idOfRef.get(folder.ref)!;
      idOfRef.delete(folder.ref);
      // of one that is not there now its watch tells where it went: what lies in it is not gone
      if (folder.error) unread.push(parentId);
      const children = known.childrenOf(parentId);
      return (name, type, ref, at) => {
        entries++;
        const now = seenFrom(name, type, batch.numbers, at, parentId, 0);
        const i = children.get(name);
        let id: number | undefined;
        if (i !== undefined && known.met[i] === 0) {
          const row = known.known(i);
          const verdict = compare(row, now);
          // a folder's identity goes with its inode, so that its contents go along; a file's with its path
          if (verdict !== 'replaced' || (type !== 'folder' && row.type !== 'folder')) {
            known.met[i] = 1;
            id = row.id;
            if (verdict === 'edited') found.edited.push({ row, now });
            else if (verdict === 'replaced') found.replaced.push({ row, now });
          }
        }
        if (id === undefined && type === 'folder') {
          const moved = known.unmetFolder(now.inode, now.birth);
          if (moved !== undefined) {
            known.met[moved] = 1;
            id = known.ids[moved]!;
            found.movedFolders.push({ row: known.known(moved), now });
          }
        }
        if (id === undefined) {
          id = nextId++;
          found.appeared.push({ ...now, id });
        }
        if (ref >= 0) idOfRef.set(ref, id);
      };
    });
    onProgress?.(entries);
  };
  for (const batch of early.splice(0)) take(batch);
  const complete = await walking;
  if (!complete) return { outcome: 'stopped' };
  // only now: what was met below is met once
  for (const id of unread) known.keepBelow(id);
  for (let i = 0; i < known.met.length; i++) if (known.met[i] === 0) found.gone.push(known.known(i));
  const { written } = await writeDifferences(client, placeId, found, {
    nextId,
    now: options.now ?? new Date().toISOString(),
  });
  return { outcome: 'done', entries, written };
}
