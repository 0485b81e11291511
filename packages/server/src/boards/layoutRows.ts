/** What acts look up and gather on a layout that was read; pure. */
import type { Lying, Spot } from '@rellin/core/board';
import { kindWord } from '@rellin/core/kinds';
import type { BoardItemId, BundleView, RegionId } from '@rellin/contract';
import { named } from '../problems/named.js';
import { Refusal } from '../problems/refusal.js';
import type { ItemRow, BoardLayoutRows, RegionRow, Thing } from './boards.repository.js';

export interface Group {
  regionId: RegionId;
  name: string;
  items: ItemRow[];
}

/** What lies in the bin comes last, so that it leaves no gap. */
export const binLast = (things: readonly Thing[]) => [
  ...things.filter((t) => !t.item?.removed),
  ...things.filter((t) => t.item?.removed),
];
export const downward = (a: Lying, b: Lying) => a.y - b.y || a.x - b.x;
export const tableOf = (thing: Thing) => (thing.bundle ? 'bundle' : 'board_item');

/** The `i`th of what comes in rows from a column on. */
export function rowsFrom(x: number, i: number, columns: number): Spot {
  const across = Math.max(1, columns - Math.round(x));
  return { x: i % across, y: Math.floor(i / across) };
}

export function chosen(layout: BoardLayoutRows, itemIds: readonly BoardItemId[], name: string | undefined): Group {
  const items = layout.items.filter((i) => itemIds.includes(i.id));
  const [first] = items;
  if (!first || items.length < 2) throw new Refusal('not-valid', 'A bundle gathers two things and more.');
  if (items.some((i) => i.regionId !== first.regionId))
    throw new Refusal('conflict', 'They lie in different regions.', { remedy: 'Bring them into one region first.' });
  return { regionId: first.regionId, name: named(name ?? 'Bundle', 'bundle'), items };
}

/** A group for each kind that a region holds two or more of, of what lies in no bundle. */
export function byKind(layout: BoardLayoutRows, regionId: RegionId | undefined): Group[] {
  const groups = new Map<string, Group>();
  for (const item of layout.items) {
    if (item.bundleId || item.removed || (regionId && item.regionId !== regionId)) continue;
    const key = `${item.regionId} ${item.kind}`;
    const group = groups.get(key);
    if (group) group.items.push(item);
    else groups.set(key, { regionId: item.regionId, name: plural(kindWord(item.kind)), items: [item] });
  }
  return [...groups.values()].filter((g) => g.items.length > 1);
}

const plural = (word: string) => `${word.charAt(0).toUpperCase()}${word.slice(1)}${word.endsWith('s') ? 'es' : 's'}`;

export function regionOf(layout: BoardLayoutRows, id: string): RegionRow {
  const region = layout.regions.find((r) => r.id === id);
  if (!region) throw new Refusal('not-found', 'That region is not on the board any more.');
  return region;
}

export function bundleOf(layout: BoardLayoutRows, id: string): BundleView {
  const bundle = layout.bundles.find((b) => b.id === id);
  if (!bundle) throw new Refusal('not-found', 'That bundle is not on the board any more.');
  return bundle;
}
