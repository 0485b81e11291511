/** Filtering and sorting of what the page already holds; pure. */
import type { ShortcutView } from '@rellin/contract';
import { SHORTCUT_STATES } from '@rellin/core/identity';
import { kindRank } from '@rellin/core/kinds';
import { compareNatural } from '@rellin/core/units';

export interface Filter {
  kind: string | null;
  state: string | null;
  place: string | null;
  /** Ids. */
  tag?: string | null;
  collection?: string | null;
  used?: string | null;
}

const LATELY_MS = 28 * 86_400_000;

function isUsed(s: ShortcutView, used: string, now: number): boolean {
  const lately = s.lastOpenedAt !== null && now - Date.parse(s.lastOpenedAt) <= LATELY_MS;
  return used === 'never' ? s.lastOpenedAt === null : used === 'lately' ? lately : !lately;
}

export type SortBy = 'name' | 'kind' | 'state' | 'size' | 'modified' | 'week' | 'reach' | 'added' | 'opened';

/** Further than anything; finite, so that two such are equal. */
const NEVER = Number.MAX_VALUE;

type Compare = (a: ShortcutView, b: ShortcutView) => number;

export const SORTS: Record<SortBy, { title: string; compare: Compare; firstDescending: boolean }> = {
  name: { title: 'Name', compare: (a, b) => compareNatural(a.name, b.name), firstDescending: false },
  kind: { title: 'Kind', compare: (a, b) => kindRank(a.kind) - kindRank(b.kind), firstDescending: false },
  state: {
    title: 'State',
    compare: (a, b) => SHORTCUT_STATES.indexOf(a.state) - SHORTCUT_STATES.indexOf(b.state),
    firstDescending: false,
  },
  size: { title: 'Size', compare: (a, b) => (a.size ?? -1) - (b.size ?? -1), firstDescending: true },
  modified: { title: 'Changed', compare: (a, b) => (a.modified ?? 0) - (b.modified ?? 0), firstDescending: true },
  week: { title: 'Openings a week', compare: (a, b) => a.perWeek - b.perWeek, firstDescending: true },
  reach: {
    title: 'Reach',
    compare: (a, b) => (a.reach.best?.seconds ?? NEVER) - (b.reach.best?.seconds ?? NEVER),
    firstDescending: false,
  },
  added: { title: 'Added', compare: (a, b) => a.addedAt.localeCompare(b.addedAt), firstDescending: true },
  opened: {
    title: 'Opened',
    compare: (a, b) => (a.lastOpenedAt ?? '').localeCompare(b.lastOpenedAt ?? ''),
    firstDescending: true,
  },
};

export function filterShortcuts(all: readonly ShortcutView[], filter: Filter, now = Date.now()): ShortcutView[] {
  const { tag, collection, used } = filter;
  return all.filter(
    (s) =>
      (filter.kind === null || s.kind === filter.kind) &&
      (filter.state === null || s.state === filter.state) &&
      (filter.place === null || String(s.placeId) === filter.place) &&
      (!tag || s.tags.includes(tag)) &&
      (!collection || s.collections.includes(collection)) &&
      (!used || isUsed(s, used, now)),
  );
}

/**
 * All of them by name. Comparing names by the language's rules is a hundred times dearer than comparing numbers, so
 * that it is done once for each list the server sends, not for each press on a title.
 */
let latest: { all: readonly ShortcutView[]; order: number[]; named: readonly ShortcutView[] } | undefined;

function inNameOrder(all: readonly ShortcutView[]): readonly ShortcutView[] {
  if (latest?.all === all) return latest.named;
  // most lists the server sends anew differ in figures, not in names
  const before = latest?.all;
  const same =
    before?.length === all.length && all.every((s, i) => s.id === before[i]!.id && s.name === before[i]!.name);
  const order = same
    ? latest!.order
    : all
        .map((_, i) => i)
        .sort((a, b) => compareNatural(all[a]!.name, all[b]!.name) || (all[a]!.id < all[b]!.id ? -1 : 1));
  latest = { all, order, named: order.map((i) => all[i]!) };
  return latest.named;
}

/** Sorted; equal ones by name, so that the order is total. An unknown sort falls back to the name. */
export function sortShortcuts(all: readonly ShortcutView[], by: SortBy, descending: boolean): ShortcutView[] {
  const named = [...inNameOrder(all)];
  if (by === 'name' || !(by in SORTS)) return descending ? named.reverse() : named;
  const { compare } = SORTS[by];
  // the sort keeps the order of equal ones
  return named.sort(descending ? (a, b) => compare(b, a) : compare);
}
