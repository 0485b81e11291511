export { CELL } from './cellSize.js';
export { depth, Occupied, overlap, overlaps, type Lying, type Spot } from './cells.js';
export { snap } from './snap.js';
export { arrange, firstFree, flow, freeSpot, makeRoom } from './place.js';
export {
  BUNDLE_SHOWN,
  bundleHeight,
  layRegion,
  REGION_ORDERS,
  regionRows,
  sortedBy,
  type RegionOrder,
  type Sorted,
} from './region.js';
export { pointerWay } from './screen.js';
