/** Members of a collection joined with what they are, in the order the collection shows them; pure. */
import type { CollectionView, MemberView, SearchView, ShortcutView } from '@rellin/contract';
import { orderMembers } from '@rellin/core/collections';
import { kindRank } from '@rellin/core/kinds';
import { compareNatural } from '@rellin/core/units';

export type MemberRow = MemberView &
  (
    | { type: 'shortcut'; shortcut: ShortcutView }
    | { type: 'collection'; collection: CollectionView }
    | { type: 'search'; search: SearchView }
  );

export const nameOfRow = (row: MemberRow) =>
  row.type === 'shortcut' ? row.shortcut.name : row.type === 'search' ? row.search.name : row.collection.name;
export const descriptionOfRow = (row: MemberRow) =>
  row.type === 'shortcut'
    ? row.shortcut.description
    : row.type === 'search'
      ? row.search.description
      : row.collection.description;

const of = <T>(row: MemberRow, pick: (s: ShortcutView) => T, otherwise: T): T =>
  row.type === 'shortcut' ? pick(row.shortcut) : otherwise;

type Compare = (a: MemberRow, b: MemberRow) => number;
const byName: Compare = (a, b) => compareNatural(nameOfRow(a), nameOfRow(b));
const by =
  (pick: (row: MemberRow) => number): Compare =>
  (a, b) =>
    pick(a) - pick(b) || byName(a, b);

/** Orders a collection can be shown in; "own" keeps the person's. The most recent, largest, most used stand first. */
export const MEMBER_ORDERS: Record<CollectionView['sortBy'], { title: string; compare?: Compare }> = {
  own: { title: 'own order' },
  name: { title: 'name', compare: byName },
  kind: { title: 'kind', compare: by((r) => of(r, (s) => kindRank(s.kind), -1)) },
  size: { title: 'size', compare: by((r) => -of(r, (s) => s.size ?? -1, -1)) },
  modified: { title: 'modified', compare: by((r) => -of(r, (s) => s.modified ?? 0, 0)) },
  added: { title: 'added', compare: (a, b) => b.addedAt.localeCompare(a.addedAt) || byName(a, b) },
  opened: { title: 'opened', compare: by((r) => -of(r, (s) => (s.lastOpenedAt ? Date.parse(s.lastOpenedAt) : 0), 0)) },
  rate: { title: 'openings a week', compare: by((r) => -of(r, (s) => s.perWeek, 0)) },
  reach: { title: 'reach', compare: by((r) => of(r, (s) => s.reach.best?.seconds ?? 1e9, 1e9)) },
};

/** What is not known to the page yet (a shortcut added a moment ago) is left out until it is. */
export function memberRows(
  members: readonly MemberView[],
  shortcuts: ReadonlyMap<string, ShortcutView>,
  collections: ReadonlyMap<string, CollectionView>,
  searches: ReadonlyMap<string, SearchView>,
  order: CollectionView['sortBy'],
): MemberRow[] {
  const rows = members.flatMap((m): MemberRow[] => {
    if (m.type === 'shortcut') {
      const shortcut = shortcuts.get(m.itemId);
      return shortcut ? [{ ...m, type: 'shortcut', shortcut }] : [];
    }
    if (m.type === 'search') {
      const search = searches.get(m.itemId);
      return search ? [{ ...m, type: 'search', search }] : [];
    }
    const collection = collections.get(m.itemId);
    return collection ? [{ ...m, type: 'collection', collection }] : [];
  });
  return orderMembers(rows, MEMBER_ORDERS[order].compare);
}
