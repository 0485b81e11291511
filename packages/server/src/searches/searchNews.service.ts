/**
 * What came to the answers of saved searches and what went from them: the memory index watches each, and what it tells
 * is written down, many changes at once.
 */
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { parseQuery } from '@rellin/core/query';
import type { SearchChangesView, SearchId } from '@rellin/contract';
import { EventsService } from '../events/events.service.js';
import type { AfterAct } from '../journal/journal.service.js';
import type { RowChange } from '../journal/rowChange.js';
import { MemoryIndexService, type AfterIndex } from '../memoryIndex/memoryIndex.service.js';
import type { MovedAnswer } from '../memoryIndex/messages.js';
import type { AfterDisk, PlaceEvent } from '../places/placeNews.js';
import { PublishedAnswersService } from './publishedAnswers.service.js';
import { SearchesRepository, type ChangeLine, type WatchedRow } from './searches.repository.js';
import { SearchesService } from './searches.service.js';
import { startOfToday, today } from './today.js';

/** Counts are written down this long after they changed. */
const WRITE_MS = 60;
/** How often “last asked” is written down, so that a new start knows from when on days went by. */
const ASKED_MS = 600_000;
const KEEP_CHANGES_DAYS = 90;
const KEEP_SIZES_DAYS = 730;

/** What of a saved search its answer hangs on: not its name, nor its place on the strip. */
const ASKED_WITH = ['query', 'places', 'removed_at'];

@Injectable()
export class SearchNewsService implements OnApplicationShutdown, AfterAct, AfterDisk, AfterIndex {
  private readonly log = new Logger('searches');
  private readonly counts = new Map<SearchId, number>();
  private waitingLines: ChangeLine[] = [];
  private readonly waitingCounts = new Set<SearchId>();
  private timer: NodeJS.Timeout | undefined;
  private askedTimer: NodeJS.Timeout | undefined;
  private writing: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly searches: SearchesService,
    private readonly rows: SearchesRepository,
    private readonly published: PublishedAnswersService,
    private readonly index: MemoryIndexService,
    private readonly events: EventsService,
  ) {}

  /** Before the memory index loads, so that its answers begin with what was when Rellin stopped. */
  async start(): Promise<void> {
    await this.published.read();
    await this.watchAll(true);
    this.askedTimer = setInterval(() => void this.rows.markAsked().catch(this.warn), ASKED_MS).unref();
    await this.rows.prune(KEEP_CHANGES_DAYS, KEEP_SIZES_DAYS);
  }

  afterMoved(moved: MovedAnswer[], at: number): void {
    for (const { searchId, came, went } of moved)
      for (const [entries, isCame] of [
        [came, true],
        [went, false],
      ] as const)
        for (const entry of entries) this.waitingLines.push({ ...entry, searchId, at, came: isCame });
    this.writeSoon();
  }

  afterCounted(counts: [SearchId, number][]): void {
    for (const [id, count] of counts) {
      if (this.counts.get(id) === count) continue;
      this.counts.set(id, count);
      this.waitingCounts.add(id);
    }
    if (this.waitingCounts.size > 0) this.writeSoon();
  }

  afterAct(changes: RowChange[]): void {
    const asked = changes.filter(
      ({ table, before, after }) =>
        table === 'saved_search' && (!before || !after || ASKED_WITH.some((column) => column in after)),
    );
    for (const id of new Set(asked.map((c) => c.id))) void this.watchAnew(id).catch(this.warn);
    if (changes.some((c) => c.table === 'publication')) this.readPublishedSoon();
  }

  afterDisk(event: PlaceEvent): void {
    if (event.kind === 'written' && event.written.foldersTouched && !this.published.isEmpty) this.readPublishedSoon();
  }

  async changes(id: SearchId): Promise<SearchChangesView> {
    const { lookedAt } = await this.searches.one(id);
    const since = new Date(lookedAt);
    return {
      lookedAt,
      came: await this.rows.changes(id, since, true),
      went: await this.rows.changes(id, since, false),
      today: await this.rows.changes(id, startOfToday(), true),
      sizes: await this.rows.sizes(id),
    };
  }

  /** What came and went is seen; from now on it is counted anew. */
  async markSeen(id: SearchId): Promise<void> {
    await this.searches.one(id);
    await this.rows.markSeen(id);
    this.events.changed('searches', 'pins');
  }

  async onApplicationShutdown(): Promise<void> {
    clearTimeout(this.timer);
    clearInterval(this.askedTimer);
    await this.writing;
    if (this.waitingLines.length + this.waitingCounts.size > 0) await this.write().catch(this.warn);
    await this.rows.markAsked().catch(this.warn);
  }

  private readonly warn = (error: Error) => this.log.warn(error.message);

  private readPublishedSoon(): void {
    void this.published
      .read()
      .then((areOthers) => (areOthers ? this.watchAll(false) : undefined))
      .catch(this.warn);
  }

  /** At the start with what came while Rellin was stopped; later on nothing of it is news. */
  private async watchAll(isStart: boolean): Promise<void> {
    for (const row of await this.rows.watched())
      if (!this.watch(row, (isStart && row.askedAt?.getTime()) || null))
        this.log.warn(`the saved search ${row.id} cannot be read`);
  }

  private async watchAnew(id: SearchId): Promise<void> {
    const [row] = await this.rows.watched(id);
    if (!row || !parseQuery(row.query).ok) return this.index.unwatch(id);
    await this.rows.beginAnew(id);
    this.counts.delete(id);
    this.watch(row, null);
  }

  /** Whether its text can be read. */
  private watch({ id, query, places }: WatchedRow, askedAt: number | null): boolean {
    const parsed = parseQuery(query);
    if (parsed.ok) this.index.watch({ id, tree: this.published.without(parsed.tree), places, askedAt });
    return parsed.ok;
  }

  private writeSoon(): void {
    this.timer ??= setTimeout(() => {
      this.timer = undefined;
      this.writing = this.writing.then(() => this.write()).catch(this.warn);
    }, WRITE_MS).unref();
  }

  /** What came and went since the last writing, and how many there are now. */
  private async write(): Promise<void> {
    const lines = this.waitingLines;
    this.waitingLines = [];
    const counts = [...this.waitingCounts].map((id) => [id, this.counts.get(id) ?? 0] as const);
    this.waitingCounts.clear();
    await this.rows.write(lines, counts, today());
    this.events.changed('searches', 'pins');
  }
}
