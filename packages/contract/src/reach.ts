import type { RouteKind } from '@rellin/core/reach';

export interface RouteView {
  kind: RouteKind;
  steps: number;
  seconds: number;
  operators: { label: string; seconds: number }[];
}

export interface ReachView {
  /** The quickest route now; null only for what cannot be reached at all. */
  best: RouteView | null;
  /** The walk through the folders; null for web addresses. */
  walk: RouteView | null;
  /** Every route; empty in lists, where nobody looks at more than the ruler. */
  routes: RouteView[];
}
