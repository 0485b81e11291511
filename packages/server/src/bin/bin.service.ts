/**
 * The bin: removed shortcuts, collections, boards and saved searches wait for 30 days, or until it is emptied by hand.
 */
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { PicturesService } from '../pictures/pictures.service.js';
import { FilingService } from '../filing/filing.service.js';
import { EventsService } from '../events/events.service.js';
import { CollectionsRepository } from '../collections/collections.repository.js';
import { ShortcutsRepository } from '../shortcuts/shortcuts.repository.js';
import { SearchesRepository } from '../searches/searches.repository.js';
import { BoardsRepository } from '../boards/boards.repository.js';

const BIN_DAYS = 30;
const LOOK_MS = 3_600_000;

@Injectable()
export class BinService implements OnApplicationShutdown {
  private readonly log = new Logger('bin');
  private timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly db: DataSource,
    private readonly collections: CollectionsRepository,
    private readonly shortcuts: ShortcutsRepository,
    private readonly searches: SearchesRepository,
    private readonly boards: BoardsRepository,
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
    await this.filing.clearReplaced(BIN_DAYS);
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
      // a collection first: the shortcut that a mirror shows its folder by waits for it
      const collections = await this.collections.clearBin(manager, olderThanDays);
      const shortcuts = await this.shortcuts.clearBin(manager, olderThanDays);
      const searches = await this.searches.clearBin(manager, olderThanDays);
      const boards = await this.boards.clearBin(manager, olderThanDays);
      return collections + shortcuts + searches + boards;
    });
    if (gone > 0)
      this.events.changed('shortcuts', 'collections', 'boards', 'pins', 'tags', 'originals', 'openings', 'searches');
    return gone;
  }
}
