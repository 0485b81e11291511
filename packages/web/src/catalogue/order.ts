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
 * Where each stands among all by name. Comparing names by the language's rules is a hundred times dearer than comparing
 * numbers, so that it is done once for each list the server sends, not for each press on a title.
 */
let latest: { all: readonly ShortcutView[]; ranks: Map<string, number> } | undefined;

export function nameRanks(all: readonly ShortcutView[]): ReadonlyMap<string, number> {
  if (latest?.all === all) return latest.ranks;
  // most lists the server sends anew differ in figures, not in names
  const before = latest?.all;
  const same =
    before?.length === all.length && all.every((s, i) => s.id === before[i]!.id && s.name === before[i]!.name);
  let ranks = same ? latest!.ranks : undefined;
  if (!ranks) {
    const sorted = [...all].sort((a, b) => compareNatural(a.name, b.name) || (a.id < b.id ? -1 : 1));
    ranks = new Map(sorted.map((s, i) => [s.id, i]));
  }
  latest = { all, ranks };
  return ranks;
}

/**
 * Sorted; equal ones by name, so that the order is total. An unknown sort falls back to the name. `ranks` are those of a
 * list that holds all of them.
 */
export function sortShortcuts(
  all: readonly ShortcutView[],
  by: SortBy,
  descending: boolean,
  ranks = nameRanks(all),
): ShortcutView[] {
  const sign = descending ? -1 : 1;
  const rank = (s: ShortcutView) => ranks.get(s.id)!;
  const compare = by === 'name' || !(by in SORTS) ? undefined : SORTS[by].compare;
  if (!compare) return [...all].sort((a, b) => sign * (rank(a) - rank(b)));
  return [...all].sort((a, b) => sign * compare(a, b) || rank(a) - rank(b));
}
