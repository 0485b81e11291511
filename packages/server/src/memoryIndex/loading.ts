/** From PostgreSQL into the columns of the memory index, whole places and what changed in them. */
import type { OriginalId, PlaceId } from '@rellin/contract';
import type pg from 'pg';
import type { EntryType, Kind } from '@rellin/core/kinds';
import { fold } from '@rellin/core/match';
import { PlaceIndex, type IndexRow, type PlaceFacts } from '@rellin/core/memoryIndex';
import { partitionName } from '../database/partition.js';
import { copyOut } from '../indexing/copyOut.js';

const COLUMNS = 'id, parent_id, name, folded, type, kind, size, mtime, birth';

export async function loadPlace(client: pg.Client, placeId: PlaceId, name: string): Promise<PlaceIndex> {
  const index = new PlaceIndex(placeId, name);
  const exists = await client.query(`SELECT to_regclass($1) AS t`, [partitionName(placeId)]);
  if ((exists.rows[0] as { t: string | null }).t)
    await copyOut(client, `SELECT ${COLUMNS} FROM ${partitionName(placeId)} ORDER BY id`, (row) =>
      // taken in the order of the columns
      index.put({
        id: row.whole(),
        parentId: row.whole(),
        name: row.text(),
        folded: row.maybe(),
        type: row.text() as EntryType,
        kind: row.text() as Kind,
        size: row.whole(),
        modified: row.float(),
        created: row.float(),
      }),
    );
  index.layOut();
  return index;
}

/** Rows that are new since, and those touched, in the order of their ids. */
export async function readChanged(client: pg.Client, index: PlaceIndex, touched: number[]): Promise<IndexRow[]> {
  const after = index.rows === 0 ? 0 : index.ids[index.rows - 1]!;
  const rows = (
    await client.query(
      `SELECT ${COLUMNS} FROM ${partitionName(index.placeId)} WHERE id > $1 OR id = ANY($2) ORDER BY id`,
      [after, touched],
    )
  ).rows as Record<string, string>[];
  return rows.map((r) => ({
    id: Number(r['id']),
    parentId: Number(r['parent_id']),
    name: r['name']!,
    folded: r['folded'] ?? undefined,
    type: r['type'] as EntryType,
    kind: r['kind'] as Kind,
    size: Number(r['size']),
    modified: Number(r['mtime']),
    created: Number(r['birth']),
  }));
}

/** What the catalogue says of originals, by place. */
export async function readFacts(client: pg.Client, away: ReadonlySet<number>): Promise<Map<number, PlaceFacts>> {
  const facts = new Map<number, { [K in keyof PlaceFacts]: PlaceFacts[K] }>();
  const of = (placeId: PlaceId) => {
    let known = facts.get(placeId);
    if (!known) {
      known = {
        away: away.has(placeId),
        shortcut: new Set(),
        pinned: new Set(),
        opened: new Map(),
        tags: new Map(),
      };
      facts.set(placeId, known);
    }
    return known;
  };
  for (const id of away) of(id);
  const shortcuts = (
    await client.query(
      `SELECT s.place_id, s.original_id, extract(epoch FROM u.last_opened) * 1000 AS opened,
         EXISTS (SELECT 1 FROM pin WHERE pin.shortcut_id = s.id) AS pinned
       FROM shortcut s LEFT JOIN usage u ON u.shortcut_id = s.id
       WHERE s.removed_at IS NULL AND s.original_id IS NOT NULL`,
    )
  ).rows as { place_id: PlaceId; original_id: OriginalId; opened: string | null; pinned: boolean }[];
  for (const s of shortcuts) {
    const id = s.original_id;
    const place = of(s.place_id);
    (place.shortcut as Set<number>).add(id);
    if (s.pinned) (place.pinned as Set<number>).add(id);
    if (s.opened !== null)
      (place.opened as Map<number, number>).set(id, Math.max(Number(s.opened), place.opened.get(id) ?? 0));
  }
  const taggings = (
    await client.query(
      `SELECT g.place_id, g.original_id, t.name FROM tagging g JOIN tag t ON t.id = g.tag_id WHERE g.original_id IS NOT NULL`,
    )
  ).rows as { place_id: PlaceId; original_id: OriginalId; name: string }[];
  for (const t of taggings) {
    const tags = of(t.place_id).tags as Map<string, Set<number>>;
    const name = fold(t.name);
    const ids = tags.get(name) ?? new Set();
    ids.add(t.original_id);
    tags.set(name, ids);
  }
  return facts;
}

/** Originals whose content holds a text, by place; of some ids only, where given. */
export async function readHolding(
  client: pg.Client,
  text: string,
  only?: { placeId: PlaceId; ids: number[] },
): Promise<Map<number, Set<number>>> {
  const rows = (
    await client.query(
      `SELECT place_id, original_id FROM content WHERE words @@ phraseto_tsquery('simple', $1)
       ${only ? 'AND place_id = $2 AND original_id = ANY($3)' : ''}`,
      only ? [fold(text), only.placeId, only.ids] : [fold(text)],
    )
  ).rows as { place_id: PlaceId; original_id: OriginalId }[];
  const out = new Map<number, Set<number>>();
  for (const r of rows) {
    const ids = out.get(r.place_id) ?? new Set();
    ids.add(r.original_id);
    out.set(r.place_id, ids);
  }
  return out;
}
