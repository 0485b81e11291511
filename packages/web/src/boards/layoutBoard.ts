/** What lies on a board joined with what it is, each at its spot; pure. */
import { BUNDLE_SHOWN, bundleHeight, layRegion, Occupied, regionRows, type Lying, type Spot } from '@rellin/core/board';
import type { BoardItemView, BundleView, BoardLayout, RegionView, ShortcutView } from '@rellin/contract';

export interface LaidItem {
  item: BoardItemView;
  shortcut: ShortcutView;
  spot: Spot;
}

export interface LaidBundle {
  bundle: BundleView;
  spot: Spot;
  height: number;
  /** In own order; the first few are shown. */
  members: Omit<LaidItem, 'spot'>[];
}

export interface LaidRegion {
  region: RegionView;
  items: LaidItem[];
  bundles: LaidBundle[];
  rows: number;
  /** Rows of the regions above. */
  top: number;
}

/** What is not known to the page yet (a shortcut added a moment ago) is left out until it is. */
export function layoutBoard(layout: BoardLayout, shortcuts: ReadonlyMap<string, ShortcutView>): LaidRegion[] {
  let top = 0;
  return layout.regions.map((region) => {
    const here = layout.items.flatMap((item) => {
      const shortcut = item.regionId === region.id ? shortcuts.get(item.shortcutId) : undefined;
      return shortcut ? [{ item, shortcut }] : [];
    });
    const held = layout.bundles
      .filter((bundle) => bundle.regionId === region.id)
      .map((bundle) => ({ bundle, members: here.filter((h) => h.item.bundleId === bundle.id) }));
    const alone = here.filter((h) => !h.item.bundleId || !held.some((b) => b.bundle.id === h.item.bundleId));
    const things = [
      ...alone.map(({ item, shortcut: s }) => ({
        ...item,
        height: 1,
        name: s.name,
        kind: s.kind,
        size: s.size,
        modified: s.modified,
        opened: s.lastOpenedAt ? Date.parse(s.lastOpenedAt) : null,
      })),
      ...held.map(({ bundle, members }) => ({ ...bundle, height: bundleHeight(members.length) })),
    ];
    const spots = layRegion(things, region.order, layout.board.columns);
    const rows = regionRows(
      things.map((t) => ({ ...t, ...spots.get(t.id)! })),
      region.order,
    );
    const laid: LaidRegion = {
      region,
      items: alone.map((h) => ({ ...h, spot: spots.get(h.item.id)! })),
      bundles: held.map((b) => ({ ...b, spot: spots.get(b.bundle.id)!, height: bundleHeight(b.members.length) })),
      rows,
      top,
    };
    top += rows;
    return laid;
  });
}

/** Something that the arrows come to: an item, a bundle's head, or one of the things told under it. */
export interface BoardSlot {
  id: string;
  x: number;
  /** From the board's upper edge, in cells. */
  y: number;
  region: LaidRegion;
  item?: Omit<LaidItem, 'spot'>;
  bundle?: LaidBundle;
}

/** A bundle's lines, in cells. */
export const BUNDLE_LINE = 0.5;

/** In reading order. */
export function slotsOf(regions: readonly LaidRegion[]): BoardSlot[] {
  return regions
    .flatMap((region) => [
      ...region.items.map((i): BoardSlot => ({
        id: i.item.id,
        x: i.spot.x,
        y: region.top + i.spot.y,
        region,
        item: i,
      })),
      ...region.bundles.flatMap((bundle): BoardSlot[] => {
        const [x, y] = [bundle.spot.x, region.top + bundle.spot.y];
        return [
          { id: bundle.bundle.id, x, y, region, bundle },
          ...bundle.members
            .slice(0, BUNDLE_SHOWN)
            .map((item, i): BoardSlot => ({ id: item.item.id, x, y: y + (i + 1) * BUNDLE_LINE, region, item, bundle })),
        ];
      }),
    ])
    .sort((a, b) => a.y - b.y || a.x - b.x);
}

const WAYS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] } as const;
export type Arrow = keyof typeof WAYS;
export const isArrow = (key: string): key is Arrow => key in WAYS;

/** The nearest slot in a direction; what lies aside counts twice as far. */
export function toward(slots: readonly BoardSlot[], from: BoardSlot, arrow: Arrow): BoardSlot | undefined {
  const [right, down] = WAYS[arrow];
  let best: BoardSlot | undefined;
  let least = Infinity;
  for (const slot of slots) {
    const [dx, dy] = [slot.x - from.x, slot.y - from.y];
    const ahead = dx * right + dy * down;
    const aside = Math.abs(dx * down) + Math.abs(dy * right);
    if (ahead < 0.2 || ahead + 2 * aside >= least) continue;
    best = slot;
    least = ahead + 2 * aside;
  }
  return best;
}

/** The next free cell in a direction, for an item that the keys move; none beyond the edge. */
export function nextFree(region: LaidRegion, id: string, from: Spot, arrow: Arrow, columns: number): Spot | undefined {
  const [right, down] = WAYS[arrow];
  const others: Lying[] = [
    ...region.items.flatMap((i) => (i.item.id === id ? [] : [{ id: i.item.id, ...i.spot, height: 1 }])),
    ...region.bundles.map((b) => ({ id: b.bundle.id, ...b.spot, height: b.height })),
  ];
  const taken = new Occupied(others);
  for (let k = 1; k <= region.rows + columns; k++) {
    const spot = { x: Math.round(from.x) + right * k, y: Math.round(from.y) + down * k };
    if (spot.x < 0 || spot.y < 0 || spot.x >= columns) return undefined;
    if (taken.isFree({ ...spot, height: 1 })) return spot;
  }
  return undefined;
}
