/** The find line's thread: holds all names, answers queries, and works out the fewest characters when it has time. */
import { parentPort, workerData } from 'node:worker_threads';
import pg from 'pg';
import { fewestCharacters, Finder } from '@rellin/core/match';
import { shown } from '@rellin/core/paths';
import { copyOut } from '../indexing/copyIn.js';
import { readCopyField } from '../indexing/copyText.js';
import { partitionName } from '../database/partition.js';
import type { FromFinder, ToFinder } from './findMessages.js';

const { databaseUrl } = workerData as { databaseUrl: string };
const port = parentPort!;
const post = (message: FromFinder) => port.postMessage(message);

const finder = new Finder();
/** Shortcuts and collections. */
let catalogueIds = new Set<string>();

interface PlaceNames {
  name: string;
  folders: Map<number, { name: string; parentId: number }>;
  ids: Set<number>;
  maxId: number;
}
const places = new Map<number, PlaceNames>();
let work: Promise<unknown> = Promise.resolve();
let waiting: string[] = [];

const idOf = (placeId: number, id: number) => `${placeId}/${id}`;

async function withClient<T>(use: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    return await use(client);
  } finally {
    await client.end();
  }
}

function trailOf(place: PlaceNames, parentId: number): string {
  const names: string[] = [];
  for (let at = place.folders.get(parentId); at && at.name !== ''; at = place.folders.get(at.parentId))
    names.unshift(shown(at.name));
  return [place.name, ...names].join(' › ');
}

async function load(placeId: number, name: string): Promise<void> {
  forget(placeId);
  const place: PlaceNames = { name, folders: new Map(), ids: new Set(), maxId: 0 };
  const rows: { id: number; parentId: number; name: string }[] = [];
  await withClient(async (client) => {
    const exists = await client.query(`SELECT to_regclass($1) AS t`, [partitionName(placeId)]);
    if (!(exists.rows[0] as { t: string | null }).t) return;
    await copyOut(client, `SELECT id, parent_id, type, name FROM ${partitionName(placeId)}`, (f) => {
      const row = { id: Number(f[0]), parentId: Number(f[1]), name: readCopyField(f[3]!) };
      if (f[2] === 'folder') place.folders.set(row.id, { name: row.name, parentId: row.parentId });
      rows.push(row);
    });
  });
  places.set(placeId, place);
  for (const row of rows) put(placeId, place, row);
}

function put(placeId: number, place: PlaceNames, row: { id: number; parentId: number; name: string }): void {
  place.maxId = Math.max(place.maxId, row.id);
  if (row.name === '') return;
  place.ids.add(row.id);
  finder.put({
    id: idOf(placeId, row.id),
    group: 'original',
    name: shown(row.name),
    trail: trailOf(place, row.parentId),
  });
}

function forget(placeId: number): void {
  for (const id of places.get(placeId)?.ids ?? []) finder.delete(idOf(placeId, id));
  places.delete(placeId);
}

/** Takes up rows that are new since the last look and those that were touched. */
async function refresh(placeId: number, touched: number[]): Promise<void> {
  const place = places.get(placeId);
  if (!place) return;
  const rows = await withClient(
    async (client) =>
      (
        await client.query(
          `SELECT id, parent_id, type, name FROM ${partitionName(placeId)} WHERE id > $1 OR id = ANY($2) ORDER BY id`,
          [place.maxId, touched],
        )
      ).rows as { id: string; parent_id: string; type: string; name: string }[],
  );
  const met = new Set<number>();
  for (const r of rows)
    if (r.type === 'folder') place.folders.set(Number(r.id), { name: r.name, parentId: Number(r.parent_id) });
  for (const r of rows) {
    const id = Number(r.id);
    met.add(id);
    put(placeId, place, { id, parentId: Number(r.parent_id), name: r.name });
  }
  for (const id of touched)
    if (!met.has(id)) {
      finder.delete(idOf(placeId, id));
      place.ids.delete(id);
      place.folders.delete(id);
    }
}

/** One shortcut at a time, so that a query never waits for more than one. */
function pump(): void {
  const id = waiting.shift();
  if (id === undefined) return;
  post({ kind: 'fewest', found: [[id, fewestCharacters(finder, id)]], left: waiting.length });
  setImmediate(pump);
}

function after(job: () => Promise<unknown>): void {
  work = work.then(job).catch((error: Error) => post({ kind: 'trouble', message: error.message }));
}

port.on('message', (message: ToFinder) => {
  switch (message.kind) {
    case 'search': {
      const answers = finder.search(message.query, message.limit).map(({ id, group, ranges }) => {
        const item = finder.get(id)!;
        return { id, group, name: item.name, trail: item.trail ?? '', ranges };
      });
      post({ kind: 'answer', ask: message.ask, answers });
      break;
    }
    case 'catalogue': {
      const now = new Set(message.items.map((item) => item.id));
      for (const id of catalogueIds) if (!now.has(id)) finder.delete(id);
      for (const item of message.items) finder.put(item);
      catalogueIds = now;
      break;
    }
    case 'place':
      after(() => load(message.placeId, message.name));
      break;
    case 'forget-place':
      after(async () => forget(message.placeId));
      break;
    case 'changed':
      after(() => refresh(message.placeId, message.touched));
      break;
    case 'fewest':
      after(async () => {
        const idle = waiting.length === 0;
        waiting = message.ids;
        if (idle) pump();
      });
      break;
  }
});
