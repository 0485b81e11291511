import type { Seconds } from '@rellin/core/units';
import type { OriginalId, PlaceId, ShortcutId } from './ids.js';
import type { SuggestionKind } from '@rellin/core/plan';

export interface SuggestionView {
  id: string;
  kind: SuggestionKind;
  /** What to do, "Pin “Net positions” as 3". */
  title: string;
  /** Why, in one sentence. */
  reason: string;
  /** Seconds an opening takes before and after; null where it is not about one. */
  before: number | null;
  after: number | null;
  /** Seconds a week it saves. */
  gain: number;
}

/** What an applied plan was to save in its first week, and what it did. */
export interface ForecastView {
  at: string;
  /** Seconds a week. */
  said: number;
  /** Over the week after it; null until that week is over. */
  was: number | null;
}

export interface PlanView {
  /** Weeks of openings it is calculated from, and how many these were. */
  weeks: number;
  openings: number;
  /** Seconds a week: all through the folders, as it is now, with all suggestions, and the best possible. */
  byFolders: number;
  now: Seconds;
  planned: Seconds;
  bound: Seconds;
  suggestions: SuggestionView[];
  forecasts: ForecastView[];
  /** What the sums are made of: openings a week of each shortcut, and seconds by its best way and by folders. */
  rates: { shortcutId: ShortcutId; perWeek: number; seconds: Seconds | null; byFolders: Seconds | null }[];
  /** The same of originals without a shortcut: seconds by folders, and what a shortcut would take. */
  withoutShortcut: {
    placeId: PlaceId;
    originalId: OriginalId;
    perWeek: number;
    seconds: Seconds;
    withShortcut: number;
  }[];
}

/** What the charts of the plan show. */
export interface PlanChartsView {
  /** Oldest first; each ends seven days after it starts. */
  weeks: {
    start: string;
    /** Openings at night, in the morning, the afternoon and the evening. */
    parts: number[];
    /** Seconds saved against going through the folders, by the way each was opened. */
    saved: number;
  }[];
  /** Menus there are: how many they hold, and the seconds one choice takes as they are used. */
  menus: { name: string; length: number; seconds: Seconds }[];
  /** The same by length alone: for what was never used, and for what is used daily. */
  curve: { length: number; unused: number; daily: number }[];
}

export interface SuggestionIds {
  ids: string[];
}

export interface SuggestionAnswer {
  id: string;
  answer: 'later' | 'never';
}
