import type { BoardId, BoardItemId, BundleId, RegionId, ShortcutId } from './ids.js';
import type { RegionOrder } from '@rellin/core/board';
import type { TargetRef } from './shortcuts.js';

/** A plane on which shortcuts lie where the person put them. */
export interface BoardView {
  id: BoardId;
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
  id: RegionId;
  name: string;
  order: RegionOrder;
}

/** Things gathered under a bracket; each remembers where it lay. */
export interface BundleView {
  id: BundleId;
  regionId: RegionId;
  name: string;
  /** Place in own order. */
  sort: number;
  /** In cells from the region's corner. */
  x: number;
  y: number;
}

export interface BoardItemView {
  id: BoardItemId;
  shortcutId: ShortcutId;
  regionId: RegionId;
  bundleId: BundleId | null;
  sort: number;
  /** In cells from the region's corner; of what lies in a bundle, where it lay before. */
  x: number;
  y: number;
}

/** All that lies on a board. Regions from the top down, items and bundles in own order. */
export interface BoardLayout {
  board: BoardView;
  regions: RegionView[];
  bundles: BundleView[];
  items: BoardItemView[];
}

/** A spot, in cells from a region's corner. */
export interface Spot {
  /** The first region where left out. */
  regionId?: RegionId;
  /** The first free cells where left out. */
  x?: number;
  y?: number;
  /** Exactly there as far as that is free, not in the nearest cell. */
  exact?: boolean;
}

/** What is laid on a board, and where; targets without a shortcut get one. */
export interface Laid extends Spot {
  shortcutIds?: ShortcutId[];
  targets?: TargetRef[];
  /** The item or bundle that they stand before in own order; the end where left out. */
  before?: string;
  /** Into this bundle. */
  bundleId?: BundleId;
}

export interface NewBoard {
  name: string;
  columns?: number;
}

export interface BoardPatch {
  name?: string;
  columns?: number;
}

export interface NewRegion {
  name: string;
  order?: RegionOrder;
}

export interface RegionPatch {
  name?: string;
  order?: RegionOrder;
}

export interface RegionMove {
  /** The region it stands above; null for the lowest. */
  before: string | null;
}

export interface Arrange {
  by: Exclude<RegionOrder, 'free'>;
}

export interface ItemIds {
  itemIds: BoardItemId[];
}

/** These under one bracket; or, without them, everything by kind. */
export interface NewBundle {
  itemIds?: BoardItemId[];
  name?: string;
  regionId?: RegionId;
}

export interface BundlePatch extends Spot {
  name?: string;
}
