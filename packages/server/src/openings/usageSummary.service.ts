/** The usage that is recorded: shown, exported, and forgotten for good. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { SYSTEM_ZONE } from '@rellin/core/query';
import { partOfWeek, PARTS } from '@rellin/core/usage';
import type { RecordedOpening, UsageSummary } from '@rellin/contract';
import { JournalService } from '../journal/journal.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { OpeningsRepository, type WhichOpenings } from './openings.repository.js';
import { UsagePublisherService } from './usagePublisher.service.js';

/** Days told one by one, and things told by name. */
const DAYS = 84;
const MOST_ITEMS = 100;

@Injectable()
export class UsageSummaryService {
  constructor(
    private readonly db: DataSource,
    private readonly rows: OpeningsRepository,
    private readonly journal: JournalService,
    private readonly settings: SettingsService,
    private readonly told: UsagePublisherService,
  ) {}

  async view(): Promise<UsageSummary> {
    const [{ recording, recentFiles }, items, days, routes, times] = await Promise.all([
      this.settings.all(),
      this.rows.byItem(MOST_ITEMS),
      this.rows.byDay(DAYS),
      this.rows.byRoute(),
      this.rows.times(),
    ]);
    const parts = new Array<number>(PARTS).fill(0);
    for (const at of times) parts[partOfWeek(at, SYSTEM_ZONE)]!++;
    return {
      recording,
      recentFiles,
      total: times.length,
      items: items.map(({ last, ...item }) => ({ ...item, lastAt: last.toISOString() })),
      days,
      parts,
      routes,
    };
  }

  /** Every opening, oldest first. */
  all(): Promise<RecordedOpening[]> {
    return this.rows.all();
  }

  /** For good: out of the journal as well. Returns how many there were. */
  async forget(which: WhichOpenings): Promise<number> {
    const { halfLifeDays } = await this.settings.all();
    const { ids, shortcutIds } = await this.db.transaction(async (manager) => {
      const gone = await this.rows.forget(manager, which, halfLifeDays);
      await this.journal.forgetOpenings(manager, gone.ids);
      return gone;
    });
    await this.told.tell(shortcutIds);
    return ids.length;
  }
}
