/** Where the things of a region lie, by what it says of its order. */
import { kindRank, type Kind } from '../kinds/index.js';
import { compareNatural } from '../units/index.js';
import { depth, type Lying, type Spot } from './cells.js';
import { arrange } from './place.js';

/**
 * What a region says of order: `free`, things lie where they were put; `own`, in rows as the person sorted them; all
 * others, kept sorted by that.
 */
export type RegionOrder = 'free' | 'own' | 'name' | 'kind' | 'size' | 'modified' | 'opened';
export const REGION_ORDERS: readonly RegionOrder[] = ['free', 'own', 'name', 'kind', 'size', 'modified', 'opened'];

/** What decides on the order of a shortcut; of a bundle, its name alone. */
export interface Sorted {
  name: string;
  /** Place in own order. */
  sort: number;
  kind?: Kind;
  size?: number | null;
  modified?: number | null;
  /** Milliseconds since 1970; null where it never was. */
  opened?: number | null;
}

const COMPARE: Record<Exclude<RegionOrder, 'free'>, (a: Sorted, b: Sorted) => number> = {
  own: (a, b) => a.sort - b.sort,
  name: (a, b) => compareNatural(a.name, b.name),
  kind: (a, b) => rankOf(a) - rankOf(b) || compareNatural(a.name, b.name),
  size: (a, b) => (b.size ?? -1) - (a.size ?? -1) || compareNatural(a.name, b.name),
  modified: (a, b) => (b.modified ?? 0) - (a.modified ?? 0) || compareNatural(a.name, b.name),
  opened: (a, b) => (b.opened ?? 0) - (a.opened ?? 0) || compareNatural(a.name, b.name),
};
const rankOf = (s: Sorted) => (s.kind ? kindRank(s.kind) : -1);

/**
 * In an order: names as people count, programs and folders before files, the largest and the latest first. Equal ones
 * keep their own order. A new array.
 */
export function sortedBy<T extends Sorted>(things: readonly T[], by: Exclude<RegionOrder, 'free'>): T[] {
  const compare = COMPARE[by];
  return [...things].sort((a, b) => compare(a, b) || a.sort - b.sort);
}

/** Spots of all things of a region: where they were put, or in rows by its order. */
export function layRegion<T extends Lying & Sorted>(
  things: readonly T[],
  order: RegionOrder,
  columns: number,
): Map<string, Spot> {
  if (order === 'free') return new Map(things.map(({ id, x, y }) => [id, { x, y }]));
  return arrange(sortedBy(things, order), columns);
}

/** How many lines of a bundle's things are told; the rest behind "and 6 more". */
export const BUNDLE_SHOWN = 3;

/** Cells that a bundle of so many things is high. */
export function bundleHeight(count: number): number {
  return count <= BUNDLE_SHOWN ? 2 : 3;
}

/** Rows of a region as it is shown: a free one has room to put things into below what lies in it. */
export function regionRows(lying: readonly Lying[], order: RegionOrder): number {
  const rows = Math.ceil(depth(lying));
  return order === 'free' ? Math.max(2, rows + 1) : Math.max(1, rows);
}
