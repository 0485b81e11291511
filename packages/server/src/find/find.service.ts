/** The find line, and for reach the fewest characters that lead to each shortcut. */
import { Worker } from 'node:worker_threads';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { DataSource, In, IsNull } from 'typeorm';
import type { FewestCharacters, FindItem } from '@rellin/core/match';
import { parentOf, segmentsOf, shown } from '@rellin/core/paths';
import { NO_WEIGHT, weightAt } from '@rellin/core/usage';
import { CollectionEntity } from '../collections/collection.entity.js';
import { CONFIG, type Config } from '../config/config.js';
import { EventsService } from '../events/events.service.js';
import { JournalService } from '../journal/journal.service.js';
import { UsageEntity } from '../openings/usage.entity.js';
import { PlacesService } from '../places/places.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { ShortcutEntity } from '../shortcuts/shortcut.entity.js';
import { TagsService } from '../tags/tags.service.js';
import type { FoundAnswer, FromFinder, ToFinder } from './findMessages.js';

const RELOAD_MS = 250;
const TELL_MS = 10_000;
/** Tables whose rows the find line finds things by. */
const FOUND_BY = new Set(['shortcut', 'opening', 'collection', 'tag', 'tagging']);

@Injectable()
export class FindService implements OnApplicationShutdown {
  private readonly log = new Logger('find');
  private readonly worker: Worker;
  private readonly asks = new Map<number, (answers: FoundAnswer[]) => void>();
  private nextAsk = 1;
  private known = new Map<string, FewestCharacters>();
  private timer: NodeJS.Timeout | undefined;
  private readonly stale = new Set<number>();
  private untold = false;
  private toldAt = performance.now();

  constructor(
    @Inject(CONFIG) config: Config,
    private readonly db: DataSource,
    private readonly places: PlacesService,
    private readonly settings: SettingsService,
    private readonly events: EventsService,
    private readonly tags: TagsService,
    journal: JournalService,
  ) {
    this.worker = new Worker(new URL('./find.worker.js', import.meta.url), {
      workerData: { databaseUrl: config.databaseUrl },
    });
    this.worker.on('message', (message: FromFinder) => this.hear(message));
    this.worker.on('error', (error) => this.log.error(error.stack ?? error.message));
    journal.onCommitted((changes) => {
      if (changes.some((c) => FOUND_BY.has(c.table))) void this.sendCatalogue(changes);
    });
    places.onEvent(async (event) => {
      if (event.kind === 'state') return this.sendCatalogue();
      const { placeId, written, whole } = event;
      if (!written.foldersTouched && !whole) this.send({ kind: 'changed', placeId, touched: written.touched });
      else if (written.added + written.changed + written.removed > 0 || !this.loaded.has(placeId))
        this.reloadSoon(placeId);
    });
  }

  private readonly loaded = new Set<number>();

  async start(): Promise<void> {
    for (const place of this.places.all()) this.reloadSoon(place.entity.id);
    await this.sendCatalogue();
  }

  private send(message: ToFinder): void {
    this.worker.postMessage(message);
  }

  private reloadSoon(placeId: number): void {
    this.stale.add(placeId);
    this.timer ??= setTimeout(() => {
      this.timer = undefined;
      for (const id of this.stale) {
        const place = this.places.get(id);
        if (place) {
          this.send({ kind: 'place', placeId: id, name: place.entity.name });
          this.loaded.add(id);
        } else {
          this.send({ kind: 'forget-place', placeId: id });
          this.loaded.delete(id);
        }
      }
      this.stale.clear();
      void this.askFewest();
    }, RELOAD_MS).unref();
  }

  private async sendCatalogue(changes?: { table: string; id: string; after: unknown }[]): Promise<void> {
    const rows = await this.db.getRepository(ShortcutEntity).findBy({ removedAt: IsNull() });
    const usage = await this.db.getRepository(UsageEntity).findBy({ shortcutId: In(rows.map((r) => r.id)) });
    const usageOf = new Map(usage.map((u) => [u.shortcutId, u]));
    const { halfLifeDays } = await this.settings.all();
    const now = Date.now();
    const tagsOf = await this.tags.ofShortcuts(undefined);
    const tagNames = await this.tags.names([...new Set([...tagsOf.values()].flat())]);
    const collections = await this.db.getRepository(CollectionEntity).findBy({ removedAt: IsNull() });
    const shortcuts = rows.map((s): FindItem => ({
      id: s.id,
      group: 'shortcut',
      name: s.name,
      alsoCalled: s.alsoCalled,
      tags: tagsOf.get(s.id)?.map((id) => tagNames.get(id) ?? ''),
      description: s.description,
      trail:
        s.placeId !== null && s.identity
          ? [this.places.get(s.placeId)?.entity.name ?? '', ...segmentsOf(parentOf(s.identity.path)).map(shown)].join(
              ' › ',
            )
          : (s.url ?? 'Programs'),
      weight: weightAt(usageOf.get(s.id) ?? NO_WEIGHT, now, halfLifeDays),
    }));
    const gathered = collections.map((c): FindItem => ({
      id: c.id,
      group: 'collection',
      name: c.name,
      description: c.description,
    }));
    this.send({ kind: 'catalogue', items: [...shortcuts, ...gathered] });
    // one more opening hardly changes what must be typed; a new or renamed shortcut does
    if (!changes || changes.some((c) => c.table === 'shortcut')) await this.askFewest(rows.map((r) => r.id));
  }

  private async askFewest(ids?: string[]): Promise<void> {
    const all =
      ids ??
      (await this.db.getRepository(ShortcutEntity).find({ select: { id: true }, where: { removedAt: IsNull() } })).map(
        (s) => s.id,
      );
    this.send({ kind: 'fewest', ids: all });
  }

  search(query: string, limit: number): Promise<FoundAnswer[]> {
    const ask = this.nextAsk++;
    return new Promise((resolve) => {
      this.asks.set(ask, resolve);
      this.send({ kind: 'search', ask, query, limit });
    });
  }

  /** Known once the thread came to it; reach leaves the route out until then. */
  fewest(shortcutId: string): FewestCharacters | undefined {
    return this.known.get(shortcutId);
  }

  private hear(message: FromFinder): void {
    switch (message.kind) {
      case 'answer':
        this.asks.get(message.ask)?.(message.answers);
        this.asks.delete(message.ask);
        break;
      case 'fewest': {
        for (const [id, found] of message.found) {
          const before = this.known.get(id);
          if (before?.characters === found?.characters && before?.rank === found?.rank) continue;
          if (found) this.known.set(id, found);
          else this.known.delete(id);
          this.untold = true;
        }
        this.tellFewest(message.left === 0);
        break;
      }
      case 'trouble':
        this.log.warn(message.message);
        break;
    }
  }

  /** While thousands are worked out the page is told now and then, not of each: it reads the whole list again. */
  private tellFewest(last: boolean): void {
    if (!this.untold || (!last && performance.now() - this.toldAt < TELL_MS)) return;
    this.untold = false;
    this.toldAt = performance.now();
    this.events.changed('shortcuts');
  }

  async onApplicationShutdown(): Promise<void> {
    clearTimeout(this.timer);
    await this.worker.terminate();
  }
}
