/**
 * The thread that knows where files belong. It reads the index once, learns from it, and follows what comes, goes and
 * moves; folders that got other names or places are counted anew before the next question.
 */
import { parentPort, workerData } from 'node:worker_threads';
import { Belongs, type FileFacts } from '@rellin/core/belongs';
import { piecesOf } from '@rellin/core/lists';
import type { PlaceId } from '@rellin/contract';
import { lastingClient } from '../threads/lastingClient.js';
import { failureOf } from '../threads/questions.js';
import { highestId, readChanged, readFiles, readFolders, type BelongsRow } from './loading.js';
import type { FolderKey, FromBelongs, Suggested, ToBelongs } from './messages.js';

interface KnownPlace {
  id: PlaceId;
  name: string;
}

const { databaseUrl, places } = workerData as { databaseUrl: string; places: KnownPlace[] };
const port = parentPort!;
const client = lastingClient(databaseUrl);
/** Of more files those that changed last are learned from: each costs about a kilobyte while somebody asks. */
const MOST_FILES = 100_000;
const AT_ONCE = 5000;

let belongs: Belongs<FolderKey, FolderKey> | undefined;
/** The folders as the model has them, and the highest row that was read of each place. */
let folders = new Map<FolderKey, string>();
const readTo = new Map<PlaceId, number>();
let isStale = false;
let work: Promise<unknown> = Promise.resolve();

const keyOf = (placeId: PlaceId, id: number): FolderKey => `${placeId}/${id}`;
const asFolder = ({ parentId, name }: BelongsRow) => `${parentId}/${name}`;
const factsOf = ({ name, size, modified }: BelongsRow): FileFacts => ({ name, size, modified });

/** What programs keep for themselves says nothing of where a person puts things. */
const isHidden = (name: string) => name.startsWith('.');

/** Folders in sight, each after the one above it. */
function inOrder(rows: readonly BelongsRow[]): BelongsRow[] {
  const below = new Map<number, BelongsRow[]>();
  for (const row of rows) {
    const list = below.get(row.parentId) ?? [];
    list.push(row);
    below.set(row.parentId, list);
  }
  const out: BelongsRow[] = [];
  const waiting = rows.filter((row) => row.name === '');
  for (let row = waiting.pop(); row; row = waiting.pop()) {
    out.push(row);
    for (const child of below.get(row.id) ?? []) if (child.id !== row.id && !isHidden(child.name)) waiting.push(child);
  }
  return out;
}

async function count(): Promise<void> {
  const fresh = new Belongs<FolderKey, FolderKey>();
  folders = new Map();
  for (const { id: placeId, name } of places) {
    const highest = await highestId(await client.get(), placeId);
    if (highest === 0) continue;
    readTo.set(placeId, highest);
    for (const row of inOrder(await readFolders(await client.get(), placeId))) {
      const key = keyOf(placeId, row.id);
      fresh.addFolder(key, row.name === '' ? undefined : keyOf(placeId, row.parentId), row.name || name);
      folders.set(key, asFolder(row));
    }
    for (const row of await readFiles(await client.get(), placeId, MOST_FILES - fresh.size))
      if (!isHidden(row.name)) fresh.addFile(keyOf(placeId, row.id), keyOf(placeId, row.parentId), factsOf(row));
  }
  if (belongs) fresh.learnedFrom(belongs);
  else fresh.learn();
  belongs = fresh;
  isStale = false;
}

async function follow(placeId: PlaceId, touched: readonly number[]): Promise<void> {
  if (!belongs || isStale) return;
  const after = readTo.get(placeId) ?? 0;
  const met = new Set<number>();
  for (const ids of touched.length === 0 ? [[]] : piecesOf(touched, AT_ONCE))
    for (const row of await readChanged(await client.get(), placeId, ids, after)) {
      if (met.has(row.id)) continue;
      met.add(row.id);
      readTo.set(placeId, Math.max(readTo.get(placeId) ?? 0, row.id));
      take(placeId, row);
    }
  for (const id of touched) if (!met.has(id)) belongs.removeFile(keyOf(placeId, id));
}

function take(placeId: PlaceId, row: BelongsRow): void {
  const key = keyOf(placeId, row.id);
  const parent = keyOf(placeId, row.parentId);
  if (row.type === 'folder') {
    const known = folders.get(key);
    if (known === asFolder(row) || isHidden(row.name)) return;
    // it has another name or lies elsewhere, and with it all below
    if (known !== undefined || !folders.has(parent)) isStale = true;
    else belongs!.addFolder(key, parent, row.name);
    folders.set(key, asFolder(row));
    return;
  }
  const facts = factsOf(row);
  const before = belongs!.folderOf(key);
  belongs!.removeFile(key);
  if (row.type !== 'file' || isHidden(row.name)) return;
  if (before !== undefined && before !== parent) belongs!.filed(facts, parent);
  belongs!.addFile(key, parent, facts);
}

async function answer(files: readonly FileFacts[], unsorted: readonly FolderKey[]): Promise<Suggested> {
  if (!belongs || isStale) await count();
  return belongs!.askAll(files, unsorted);
}

port.on('message', (message: ToBelongs) => {
  const next = work.then(async () => {
    if (message.kind === 'changed') {
      isStale ||= message.folders;
      return follow(message.placeId, message.touched);
    }
    const reply = (said: FromBelongs) => port.postMessage(said);
    try {
      const value = await answer(message.files, message.unsorted);
      reply({ kind: 'answer', ask: message.ask, value });
    } catch (error) {
      reply({ kind: 'failure', ask: message.ask, error: failureOf(error) });
    }
  });
  work = next.catch(() => {
    // what could not be followed just now is counted anew
    isStale = true;
  });
});
