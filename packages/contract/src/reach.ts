import type { Seconds } from '@rellin/core/units';
import type { ShortcutId } from './ids.js';
import type { RouteKind } from '@rellin/core/reach';
import type { LikelyReason, Mixture } from '@rellin/core/usage';

export interface RouteView {
  kind: RouteKind;
  steps: number;
  seconds: Seconds;
  operators: { label: string; seconds: Seconds }[];
}

export interface ReachView {
  /** The quickest route now; null only for what cannot be reached at all. */
  best: RouteView | null;
  /** The route through the folders; null for web addresses. */
  folderRoute: RouteView | null;
  /** Every route; empty in lists, where nobody looks at more than the ruler. */
  routes: RouteView[];
}

/** What is likely opened next. */
export interface LikelyView {
  /** The moment it was asked for. */
  at: string;
  /** 0 to 3 the quarters of a work day from midnight, 4 to 7 those of a weekend's. */
  part: number;
  /** The name of what was opened last, where that was lately. */
  after: string | null;
  /** The mixture, or the simpler way where that guessed no worse. */
  use: 'model' | 'recent' | 'frequent';
  /** Share of past openings that were among the first five guesses, by each way. */
  hit5: { model: number; recent: number; frequent: number };
  tested: number;
  mixture: Mixture;
  /** In a reason "after", `item` is the name. */
  items: { shortcutId: ShortcutId; probability: number; reason: LikelyReason }[];
}

/** What is known of the person's openings. */
export interface UsageSummary {
  recording: boolean;
  /** Whether what other programs opened counts, by the desktop's recent-files list. */
  recentFiles: boolean;
  total: number;
  /** The most opened first; `shortcutId` is null for what has no shortcut. */
  items: { shortcutId: ShortcutId | null; name: string; count: number; lastAt: string }[];
  /** The last twelve weeks, days with openings only, ISO dates. */
  days: { day: string; count: number }[];
  /** By the part of the week, as in `LikelyView`. */
  parts: number[];
  /** By the way it was opened. */
  routes: { route: string; count: number }[];
}

export interface RecordedOpening {
  at: string;
  name: string;
  route: string;
  how: 'viewer' | 'system';
}

export interface LimitQuery {
  limit?: number;
}

/** Openings to forget: of a shortcut, of a time, or all. */
export interface Forget {
  shortcutId?: ShortcutId;
  from?: string;
  to?: string;
}
