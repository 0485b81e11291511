/**
 * Menus through which shortcuts are reached: collections, tags on the strip and saved searches, each by its cheapest
 * way.
 */
import {
  through,
  totalSeconds,
  wayByPin,
  wayByView,
  type ReachConstants,
  type StripLabel,
  type Way,
} from '@rellin/core/reach';
import type { PinView } from '@rellin/contract';
import type { MenuRows } from './reach.repository.js';

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

const push = (map: Map<string, string[]>, key: string, value: string) => {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
};

/** `uses` of a menu are taken as none: what is chosen in it decides, and that is known where the thing is. */
export function groupsOf(
  { collectionIds, members, taggings, searches, published }: MenuRows,
  pins: readonly PinView[],
  strip: readonly StripLabel[],
  c: ReachConstants,
): Groups {
  const wayOfPin = new Map<string, Way>();
  pins.forEach((pin, slot) => {
    if (pin.target !== 'shortcut') wayOfPin.set(pin.targetId, wayByPin(slot, pin.key ? 1 : 0, strip, 0, c));
  });
  const size = new Map<string, number>();
  const collectionsOf = new Map<string, string[]>();
  const parentsOf = new Map<string, string[]>();
  for (const m of members) {
    size.set(m.collectionId, (size.get(m.collectionId) ?? 0) + 1);
    if (m.shortcutId) push(collectionsOf, m.shortcutId, m.collectionId);
    else push(parentsOf, (m.childId ?? m.searchId)!, m.collectionId);
  }
  const inView = wayByView(Math.max(1, collectionIds.length), 0, c);
  const collections = new Map<string, Group>();
  for (const id of collectionIds)
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
  for (const { tagId, shortcutId } of taggings) {
    push(tagsOf, shortcutId, tagId);
    const group = tags.get(tagId);
    if (group) group.n++;
    else tags.set(tagId, { n: 1, way: wayOfPin.get(tagId)! });
  }
  const entriesOf = new Map<string, number>();
  for (const { collectionId, tagId } of published)
    for (const [shortcut, groups] of collectionId ? collectionsOf : tagsOf) {
      const id = (collectionId ?? tagId)!;
      if (groups.includes(id)) entriesOf.set(shortcut, (collectionId ? collections : tags).get(id)!.n);
    }
  return { collections, tags, searches: ofSearches, collectionsOf, tagsOf, entriesOf };
}

const cheaper = (a: Way | undefined, b: Way): Way =>
  a && totalSeconds(a.operators) <= totalSeconds(b.operators) ? a : b;
