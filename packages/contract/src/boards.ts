import type { RegionOrder } from '@rellin/core/board';

/** A plane on which shortcuts lie where the person put them. */
export interface BoardView {
  id: string;
  name: string;
  /** Cells across, 1 to 12. */
  columns: number;
  regions: number;
  /** Shortcuts on it, those in the bin not counted. */
  count: number;
  removedAt: string | null;
}

/** A named, ruled band of a board. */
export interface RegionView {
  id: string;
  name: string;
  order: RegionOrder;
}

/** Things gathered under a bracket; each remembers where it lay. */
export interface BundleView {
  id: string;
  regionId: string;
  name: string;
  /** Place in own order. */
  sort: number;
  /** In cells from the region's corner. */
  x: number;
  y: number;
}

export interface BoardItemView {
  id: string;
  shortcutId: string;
  regionId: string;
  bundleId: string | null;
  sort: number;
  /** In cells from the region's corner; of what lies in a bundle, where it lay before. */
  x: number;
  y: number;
}

/** All that lies on a board. Regions from the top down, items and bundles in own order. */
export interface PlaneView {
  board: BoardView;
  regions: RegionView[];
  bundles: BundleView[];
  items: BoardItemView[];
}
