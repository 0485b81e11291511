/**
 * How often each thing is opened, for the plan: shortcuts, and originals without one that were opened through their
 * folders.
 */
import type { OriginalId, PlaceId, ShortcutId } from '@rellin/contract';
import { dailyCounts, ratesNow } from '@rellin/core/usage';
import type { OpeningTimes } from './plan.repository.js';

export interface OpenedWithoutShortcut {
  placeId: PlaceId;
  originalId: OriginalId;
  /** Openings in the last two weeks. */
  times: number;
  /** Openings a week, as they are now. */
  rate: number;
}

export interface UsageRates {
  /** Of each shortcut its openings a week, as they are now and as a mean over four weeks. */
  shortcuts: Map<ShortcutId, { rate: number; mean: number }>;
  /** The most opened first. */
  withoutShortcut: OpenedWithoutShortcut[];
}

const FORTNIGHT_DAYS = 14;

/** All rates are told together, since days on which many things change are told from all. */
export function usageRates(rows: readonly OpeningTimes[], now: number): UsageRates {
  const counts = rows.map((r) => dailyCounts(r.at, now));
  const rates = ratesNow(counts);
  const shortcuts: UsageRates['shortcuts'] = new Map();
  const withoutShortcut: OpenedWithoutShortcut[] = [];
  const sum = (of: readonly number[]) => of.reduce((all, n) => all + n, 0);
  for (const [i, { shortcutId, placeId, originalId }] of rows.entries()) {
    const rate = rates[i]!;
    if (shortcutId !== null) shortcuts.set(shortcutId, { rate, mean: sum(counts[i]!.slice(-28)) / 4 });
    else
      withoutShortcut.push({
        placeId: placeId!,
        originalId: originalId!,
        times: sum(counts[i]!.slice(-FORTNIGHT_DAYS)),
        rate,
      });
  }
  withoutShortcut.sort((a, b) => b.times - a.times || b.rate - a.rate);
  return { shortcuts, withoutShortcut };
}
