/**
 * The bin: removed shortcuts, collections, boards and saved searches wait for 30 days, or until it is emptied by hand.
 */
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { PicturesService } from '../pictures/pictures.service.js';
import { FilingService } from '../filing/filing.service.js';
import { EventsService } from '../events/events.service.js';

const BIN_DAYS = 30;
const LOOK_MS = 3_600_000;

@Injectable()
export class BinService implements OnApplicationShutdown {
  private readonly log = new Logger('bin');
  private timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly db: DataSource,
    private readonly events: EventsService,
    private readonly pictures: PicturesService,
    private readonly filing: FilingService,
  ) {}

  /** What waited long enough goes, also what did so while Rellin was stopped. */
  async start(): Promise<void> {
    await this.sweep();
    this.timer = setInterval(() => void this.sweep().catch((e: Error) => this.log.warn(e.message)), LOOK_MS).unref();
  }

  private async sweep(): Promise<void> {
    await this.empty(BIN_DAYS);
    await this.pictures.sweep(BIN_DAYS);
    await this.filing.sweep(BIN_DAYS);
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
  }

  /**
   * Gone for good, with pins, places in collections and openings; the journal keeps its lines, which can no longer be
   * taken back. Returns how many.
   */
  async empty(olderThanDays = 0): Promise<number> {
    const gone = await this.db.transaction(async (manager) => {
      const from = (table: string, unless = '') =>
        manager.query(
          `WITH gone AS (DELETE FROM ${table} t WHERE removed_at <= now() - make_interval(days => $1) ${unless} RETURNING 1)
           SELECT count(*)::int AS n FROM gone`,
          [olderThanDays],
        ) as Promise<[{ n: number }]>;
      const [collections] = await from('collection');
      // the shortcut a mirror still shows its folder by waits as long as the mirror is there
      const [shortcuts] = await from(
        'shortcut',
        'AND NOT EXISTS (SELECT 1 FROM collection c WHERE c.mirror_of = t.id)',
      );
      const [searches] = await from('saved_search');
      const [boards] = await from('board');
      return collections.n + shortcuts.n + searches.n + boards.n;
    });
    if (gone > 0)
      this.events.changed('shortcuts', 'collections', 'boards', 'pins', 'tags', 'originals', 'openings', 'searches');
    return gone;
  }
}
