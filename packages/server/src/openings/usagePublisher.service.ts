/** Tells everyone who calculates with openings that these are others now, where no act of the journal said so. */
import type { ShortcutId } from '@rellin/contract';
import { Injectable } from '@nestjs/common';
import { EventsService } from '../events/events.service.js';
import { FinderService } from '../finder/finder.service.js';
import { MemoryIndexService } from '../memoryIndex/memoryIndex.service.js';
import { LikelyService } from '../reach/likely.service.js';

@Injectable()
export class UsagePublisherService {
  constructor(
    private readonly likely: LikelyService,
    private readonly index: MemoryIndexService,
    private readonly find: FinderService,
    private readonly events: EventsService,
  ) {}

  /** Of which shortcuts there are more or fewer; openings of what has none are in the figures as well. */
  async tell(shortcutIds: ShortcutId[]): Promise<void> {
    this.likely.forget();
    this.index.factsSoon();
    await this.find.readAnew(shortcutIds);
    this.events.changed('openings', 'shortcuts', 'journal', 'plan', 'find');
  }
}
