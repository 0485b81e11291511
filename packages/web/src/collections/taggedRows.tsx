/** What bears a tag, shortcuts and originals in one list. */
import type { OriginalId, PlaceId, SearchId, SearchView, ShortcutId, ShortcutView, TaggedView } from '@rellin/contract';
import { kindWord, type Kind } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { compareNatural } from '@rellin/core/units';
import type { Item, Selected } from '../workspace/workspace';
import type { Column } from '../parts/Grid';
import { SearchMark } from '../parts/CollectionMark';
import { KindIcon } from '../parts/KindIcon';
import { Tether } from '../parts/Tether';
import { locationText } from '../parts/locationText';

export interface TaggedRow {
  id: string;
  name: string;
  /** Null for a saved search. */
  kind: Kind | null;
  where: string;
  item: Item;
  selected: Selected;
  /** What opens; a saved search is shown instead. */
  what: { shortcutId: ShortcutId } | { placeId: PlaceId; originalId: OriginalId } | { searchId: SearchId };
}

export function taggedRows(
  bearing: TaggedView,
  shortcuts: readonly ShortcutView[],
  searches: readonly SearchView[] = [],
): TaggedRow[] {
  const ids = new Set(bearing.shortcutIds);
  const rows: TaggedRow[] = [
    ...shortcuts
      .filter((s) => ids.has(s.id))
      .map((s): TaggedRow => ({
        id: s.id,
        name: s.name,
        kind: s.kind,
        where: locationText(s),
        item: { type: 'shortcut', shortcut: s },
        selected: { type: 'shortcut', id: s.id },
        what: { shortcutId: s.id },
      })),
    ...searches
      .filter((s) => bearing.searchIds.includes(s.id))
      .map((s): TaggedRow => ({
        id: s.id,
        name: s.name,
        kind: null,
        where: s.query,
        item: { type: 'search', search: s },
        selected: { type: 'search', id: s.id },
        what: { searchId: s.id },
      })),
    ...bearing.originals.map((o): TaggedRow => ({
      id: `${o.placeId}/${o.id}`,
      name: shown(o.name),
      kind: o.kind,
      where: o.trail.map(shown).join(' › '),
      item: { type: 'original', entry: o },
      selected: { type: 'original', placeId: o.placeId, id: o.id },
      what: { placeId: o.placeId, originalId: o.id },
    })),
  ];
  return rows.sort((a, b) => compareNatural(a.name, b.name));
}

export const TAGGED_COLUMNS: Column<TaggedRow>[] = [
  {
    id: 'name',
    title: 'Name',
    width: 'minmax(160px, 1.3fr)',
    cell: (r) => (
      <>
        {r.item.type === 'shortcut' ? (
          <Tether state={r.item.shortcut.state} />
        ) : r.item.type === 'search' ? (
          <SearchMark colour={r.item.search.colour} />
        ) : (
          <KindIcon kind={r.kind!} />
        )}
        <span className="name cut">{r.name}</span>
      </>
    ),
  },
  {
    id: 'kind',
    title: 'Kind',
    width: '90px',
    cell: (r) => <span className="small">{r.kind ? kindWord(r.kind) : 'saved search'}</span>,
  },
  {
    id: 'where',
    title: 'Where',
    width: 'minmax(120px, 1.2fr)',
    cell: (r) => <span className="small cut">{r.where}</span>,
  },
];
