/** The server's side of the memory index: keeps it after PostgreSQL, asks it, and hears what came and went. */
import type { PlaceId, ShortcutId } from '@rellin/contract';
import { Worker } from 'node:worker_threads';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { ShortestQuery } from '@rellin/core/match';
import type { QueryNode } from '@rellin/core/query';
import { CONFIG, type Config } from '../config/config.js';
import { EventsService } from '../events/events.service.js';
import type { AfterAct } from '../journal/journal.service.js';
import { Questions } from '../threads/questions.js';
import type { AfterDisk, BeforeScan, PlaceEvent } from '../places/placeNews.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import type {
  Asked,
  AskFor,
  CatalogueItem,
  FoundAnswer,
  FromIndex,
  MovedAnswer,
  ToIndex,
  WatchedSearch,
  WaysTo,
} from './messages.js';
import type { RowChange } from '../journal/rowChange.js';

const RELOAD_MS = 250;
const FACTS_MS = 150;
const TELL_MS = 20_000;
/** Tables whose rows are facts about originals. */
const FACTS = new Set(['shortcut', 'pin', 'opening', 'tag', 'tagging']);

type WithoutAsk<T> = T extends unknown ? Omit<T, 'ask'> : never;

/** Hears what the kept answers of searches came to. */
export interface AfterIndex {
  afterMoved(moved: MovedAnswer[], at: number): void;
  /** By a search's id, how many its answer has. */
  afterCounted(counts: [string, number][]): void;
}

@Injectable()
export class MemoryIndexService implements OnApplicationShutdown, AfterAct, AfterDisk, BeforeScan {
  private readonly log = new Logger('memory index');
  private readonly worker: Worker;
  private readonly questions = new Questions();
  private readonly loaded = new Set<number>();
  private readonly stale = new Set<number>();
  private reloadTimer: NodeJS.Timeout | undefined;
  private factsTimer: NodeJS.Timeout | undefined;
  private known = new Map<string, ShortestQuery>();
  private untold = false;
  private toldAt = performance.now();
  private after: readonly AfterIndex[] = [];

  constructor(
    @Inject(CONFIG) config: Config,
    private readonly places: PlaceRegistry,
    private readonly events: EventsService,
  ) {
    this.worker = new Worker(new URL('./memoryIndex.worker.js', import.meta.url), {
      workerData: { databaseUrl: config.databaseUrl },
    });
    this.worker.on('message', (message: FromIndex) => this.hear(message));
    this.worker.on('error', (error) => {
      this.log.error(error.stack ?? error.message);
      this.questions.fail(error);
    });
  }

  afterAct(changes: RowChange[]): void {
    if (changes.some((c) => FACTS.has(c.table))) this.factsSoon();
    for (const { table, id, before, after } of changes)
      if (table === 'place' && before && after && ('name' in after || 'removed_at' in after))
        this.reloadSoon(Number(id));
  }

  async beforeScan(placeId: PlaceId): Promise<void> {
    if (!this.loaded.has(placeId)) this.reload(placeId);
    await this.settled();
  }

  afterDisk(event: PlaceEvent): void {
    if (event.kind === 'state') return this.factsSoon();
    const { placeId, written } = event;
    if (this.loaded.has(placeId))
      this.send({ kind: 'changed', placeId, touched: written.touched, folders: written.foldersTouched });
    else this.reloadSoon(placeId);
  }

  /** Loads what PostgreSQL holds of places that are not looked through, being away. */
  start(): void {
    this.sendFacts();
    for (const place of this.places.all()) if (!this.loaded.has(place.entity.id)) this.reload(place.entity.id);
  }

  followedBy(after: readonly AfterIndex[]): void {
    this.after = after;
  }

  find(query: string, limit: number, within: QueryNode | null): Promise<FoundAnswer[]> {
    return this.ask({ kind: 'find', query, limit, within }) as Promise<FoundAnswer[]>;
  }
  askFor(what: AskFor): Promise<Asked> {
    return this.ask({ kind: 'ask', for: what }) as Promise<Asked>;
  }
  ways(to: { placeId: PlaceId; id: number }[]): Promise<(WaysTo | null)[]> {
    return this.ask({ kind: 'ways', to }) as Promise<(WaysTo | null)[]>;
  }
  /** The fewest characters for each of these if it were in the catalogue by itself beside the rest. */
  wouldBe(items: CatalogueItem[]): Promise<(ShortestQuery | null)[]> {
    return this.ask({ kind: 'would-be', items }) as Promise<(ShortestQuery | null)[]>;
  }
  /** Waits until all it was told is taken up. */
  settled(): Promise<unknown> {
    if (this.factsTimer) this.sendFacts();
    return this.ask({ kind: 'settled' });
  }
  /** Takes these in, and drops those that are gone, or all others. */
  catalogue(items: CatalogueItem[], gone: string[] | 'others'): void {
    this.send({ kind: 'catalogue', items, gone });
  }
  watch(search: WatchedSearch): void {
    this.send({ kind: 'search', search });
  }
  unwatch(id: string): void {
    this.send({ kind: 'forget-search', id });
  }
  contentChanged(placeId: PlaceId, ids: number[]): void {
    this.send({ kind: 'content', placeId, ids });
  }

  /** Known once the thread came to it; reach leaves the route out until then. */
  shortestQuery(shortcutId: ShortcutId): ShortestQuery | undefined {
    return this.known.get(shortcutId);
  }

  private send(message: ToIndex): void {
    this.worker.postMessage(message);
  }

  private ask(message: WithoutAsk<Extract<ToIndex, { ask: number }>>): Promise<unknown> {
    return this.questions.ask((ask) => this.send({ ...message, ask } as ToIndex));
  }

  private reload(placeId: PlaceId): void {
    const place = this.places.get(placeId);
    if (place) {
      this.send({ kind: 'place', placeId, name: place.entity.name });
      this.loaded.add(placeId);
    } else {
      this.send({ kind: 'forget-place', placeId });
      this.loaded.delete(placeId);
    }
  }

  private reloadSoon(placeId: PlaceId): void {
    this.stale.add(placeId);
    this.reloadTimer ??= setTimeout(() => {
      this.reloadTimer = undefined;
      for (const id of this.stale) this.reload(id);
      this.stale.clear();
    }, RELOAD_MS).unref();
  }

  /** What is known about originals is another: pins, tags, openings. */
  factsSoon(): void {
    this.factsTimer ??= setTimeout(() => this.sendFacts(), FACTS_MS).unref();
  }

  private sendFacts(): void {
    clearTimeout(this.factsTimer);
    this.factsTimer = undefined;
    const away = this.places.all().filter((p) => p.state === 'away');
    this.send({ kind: 'facts', away: away.map((p) => p.entity.id) });
  }

  private hear(message: FromIndex): void {
    switch (message.kind) {
      case 'answer':
      case 'failure':
        this.questions.hear(message);
        break;
      case 'shortest':
        for (const [id, found] of message.found) {
          const before = this.known.get(id);
          if (before?.characters === found?.characters && before?.rank === found?.rank) continue;
          if (found) this.known.set(id, found);
          else this.known.delete(id);
          this.untold = true;
        }
        this.tellShortest(message.left === 0);
        break;
      case 'counts':
        for (const one of this.after) one.afterCounted(message.counts);
        break;
      case 'moved':
        for (const one of this.after) one.afterMoved(message.moved, message.at);
        break;
      case 'loaded':
        // how far things are is known from now on
        this.events.changed('shortcuts');
        break;
      case 'trouble':
        this.log.warn(message.message);
        break;
    }
  }

  /** While thousands are worked out the page is told now and then, not of each: it reads the whole list again. */
  private tellShortest(last: boolean): void {
    if (!this.untold || (!last && performance.now() - this.toldAt < TELL_MS)) return;
    this.untold = false;
    this.toldAt = performance.now();
    this.events.changed('shortcuts');
  }

  async onApplicationShutdown(): Promise<void> {
    clearTimeout(this.reloadTimer);
    clearTimeout(this.factsTimer);
    await this.worker.terminate();
  }
}
