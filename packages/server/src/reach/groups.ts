/**
 * Menus through which shortcuts are reached: collections, tags on the strip and saved searches, each by its cheapest
 * way.
 */
import type { DataSource } from 'typeorm';
import {
  through,
  totalSeconds,
  wayByPin,
  wayByView,
  type ReachConstants,
  type StripLabel,
  type Way,
} from '@rellin/core/reach';
import type { CollectionId, PinView, SearchId, ShortcutId, TagId } from '@rellin/contract';

interface Group {
  /** How many entries its menu has. */
  n: number;
  /** The cheapest way to its open menu. */
  way: Way;
}

export interface Groups {
  collections: Map<string, Group>;
  tags: Map<string, Group>;
  searches: Map<string, Group>;
  /** Shortcut → the collections it lies in. */
  collectionsOf: Map<string, string[]>;
  tagsOf: Map<string, string[]>;
  /** Shortcut → how many entries the menu has that it is published in. */
  entriesOf: Map<string, number>;
}

interface MemberRow {
  collection_id: CollectionId;
  shortcut_id: ShortcutId | null;
  child_id: CollectionId | null;
  search_id: SearchId | null;
}

const push = (map: Map<string, string[]>, key: string, value: string) => {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
};

/** `uses` of a menu are taken as none: what is chosen in it decides, and that is known where the thing is. */
export async function readGroups(
  db: DataSource,
  pins: readonly PinView[],
  strip: readonly StripLabel[],
  c: ReachConstants,
): Promise<Groups> {
  const [members, taggings, searches, menus] = (await Promise.all([
    db.query(
      `SELECT m.collection_id::text, m.shortcut_id::text, m.child_id::text, m.search_id::text FROM member m
       JOIN collection p ON p.id = m.collection_id AND p.removed_at IS NULL
       LEFT JOIN shortcut s ON s.id = m.shortcut_id LEFT JOIN collection k ON k.id = m.child_id
       LEFT JOIN saved_search q ON q.id = m.search_id
       WHERE s.removed_at IS NULL AND k.removed_at IS NULL AND q.removed_at IS NULL`,
    ),
    db.query(
      `SELECT g.tag_id::text, g.shortcut_id::text FROM tagging g JOIN shortcut s ON s.id = g.shortcut_id
       WHERE s.removed_at IS NULL AND g.tag_id IN (SELECT tag_id FROM pin)`,
    ),
    db.query(
      `SELECT q.id::text, coalesce(s.count, 0)::float8 AS count FROM saved_search q
       LEFT JOIN search_status s ON s.search_id = q.id WHERE q.removed_at IS NULL`,
    ),
    db.query(`SELECT collection_id::text, tag_id::text FROM publication WHERE as_menu`),
  ])) as [
    MemberRow[],
    { tag_id: TagId; shortcut_id: ShortcutId }[],
    { id: string; count: number }[],
    { collection_id: CollectionId | null; tag_id: TagId | null }[],
  ];

  const wayOfPin = new Map<string, Way>();
  pins.forEach((pin, slot) => {
    if (pin.target !== 'shortcut') wayOfPin.set(pin.targetId, wayByPin(slot, pin.key ? 1 : 0, strip, 0, c));
  });
  const collectionIds = (await db.query(`SELECT id::text FROM collection WHERE removed_at IS NULL`)) as {
    id: string;
  }[];

  const size = new Map<string, number>();
  const collectionsOf = new Map<string, string[]>();
  const parentsOf = new Map<string, string[]>();
  for (const m of members) {
    size.set(m.collection_id, (size.get(m.collection_id) ?? 0) + 1);
    if (m.shortcut_id) push(collectionsOf, m.shortcut_id, m.collection_id);
    else push(parentsOf, (m.child_id ?? m.search_id)!, m.collection_id);
  }
  const inView = wayByView(Math.max(1, collectionIds.length), 0, c);
  const collections = new Map<string, Group>();
  for (const { id } of collectionIds)
    collections.set(id, { n: Math.max(1, size.get(id) ?? 1), way: cheaper(wayOfPin.get(id), inView) });
  // a menu within a menu: each round reaches one level further in; there are no cycles
  for (let isOther = true; isOther;) {
    isOther = false;
    for (const [id, group] of collections)
      for (const parent of parentsOf.get(id) ?? []) {
        const above = collections.get(parent);
        if (!above) continue;
        const way = cheaper(group.way, through(above.way, above.n, 0, c));
        if (way !== group.way) {
          group.way = way;
          isOther = true;
        }
      }
  }
  const searchView = wayByView(Math.max(1, searches.length), 0, c);
  const ofSearches = new Map<string, Group>();
  for (const { id, count } of searches) {
    let way = cheaper(wayOfPin.get(id), searchView);
    for (const parent of parentsOf.get(id) ?? []) {
      const above = collections.get(parent);
      if (above) way = cheaper(way, through(above.way, above.n, 0, c));
    }
    ofSearches.set(id, { n: Math.max(1, count), way });
  }
  const tags = new Map<string, Group>();
  const tagsOf = new Map<string, string[]>();
  for (const { tag_id, shortcut_id } of taggings) {
    push(tagsOf, shortcut_id, tag_id);
    const group = tags.get(tag_id);
    if (group) group.n++;
    else tags.set(tag_id, { n: 1, way: wayOfPin.get(tag_id)! });
  }
  const entriesOf = new Map<string, number>();
  for (const { collection_id, tag_id } of menus)
    for (const [shortcut, groups] of collection_id ? collectionsOf : tagsOf) {
      const id = (collection_id ?? tag_id)!;
      if (groups.includes(id)) entriesOf.set(shortcut, (collection_id ? collections : tags).get(id)!.n);
    }
  return { collections, tags, searches: ofSearches, collectionsOf, tagsOf, entriesOf };
}

const cheaper = (a: Way | undefined, b: Way): Way =>
  a && totalSeconds(a.operators) <= totalSeconds(b.operators) ? a : b;
