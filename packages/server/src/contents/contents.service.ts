/** Contents of files: read in a thread of their own when nothing else waits, and kept as the files change. */
import type { PlaceId } from '@rellin/contract';
import { Worker } from 'node:worker_threads';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { ActivityService } from '../activity/activity.service.js';
import { CONFIG, type Config } from '../config/config.js';
import { DiskService } from '../disk/disk.service.js';
import { EventsService } from '../events/events.service.js';
import type { AfterAct } from '../journal/journal.service.js';
import { MemoryIndexService } from '../memoryIndex/memoryIndex.service.js';
import type { AfterDisk, PlaceEvent } from '../places/placeNews.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { SettingsService } from '../settings/settings.service.js';
import type { FromReader, ReadPlace, ToReader } from './contentMessages.js';
import type { RowChange } from '../journal/rowChange.js';
import { ContentsRepository } from './contents.repository.js';

/** A file that takes longer is left out, and the thread made anew: no file may hold up all others. */
const LONGEST_MS = 60_000;
const SOON_MS = 150;
const TELL_MS = 1000;

@Injectable()
export class ContentsService implements OnApplicationShutdown, AfterAct, AfterDisk {
  private readonly log = new Logger('contents');
  private worker: Worker | undefined;
  private closing = false;
  private watchdog: NodeJS.Timeout | undefined;
  private reading: { placeId: PlaceId; id: number } | undefined;
  private readonly waiting = new Map<number, Set<number> | 'all'>();
  private timer: NodeJS.Timeout | undefined;
  private toldAt = 0;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly rows: ContentsRepository,
    private readonly places: PlaceRegistry,
    private readonly settings: SettingsService,
    private readonly index: MemoryIndexService,
    private readonly activity: ActivityService,
    private readonly events: EventsService,
    private readonly disk: DiskService,
  ) {}

  async afterDisk(event: PlaceEvent): Promise<void> {
    if (event.kind === 'state') {
      if (event.state === 'here') this.soon(event.placeId, 'all');
      // a place that is left gives its originals new numbers when it comes back
      else if (!this.places.get(event.placeId)) await this.rows.forgetPlace(event.placeId);
    } else this.soon(event.placeId, event.whole || event.written.foldersTouched ? 'all' : event.written.touched);
  }

  afterAct(changes: RowChange[]): void {
    if (changes.some((c) => c.table === 'setting' && c.id.startsWith('content'))) this.start();
  }

  /** Reads of all places what is not known yet. */
  start(): void {
    for (const place of this.places.all()) this.soon(place.entity.id, 'all');
  }

  private soon(placeId: PlaceId, ids: number[] | 'all'): void {
    const known = this.waiting.get(placeId);
    if (ids === 'all') this.waiting.set(placeId, 'all');
    else if (known !== 'all') this.waiting.set(placeId, new Set([...(known ?? []), ...ids]));
    this.timer ??= setTimeout(() => {
      this.timer = undefined;
      void this.send().catch((error: Error) => this.log.warn(error.message));
    }, SOON_MS).unref();
  }

  private async send(): Promise<void> {
    const { contentKinds, contentLimit } = await this.settings.all();
    const all = [...this.waiting];
    this.waiting.clear();
    for (const [placeId, ids] of all) {
      const place = this.places.get(placeId);
      if (!place || place.state === 'away' || this.closing) continue;
      const what: ReadPlace = {
        placeId,
        root: place.entity.root,
        bounds: this.disk.bounds(),
        kinds: contentKinds,
        limit: contentLimit,
      };
      this.tell(ids === 'all' ? { kind: 'place', place: what } : { kind: 'changed', place: what, ids: [...ids] });
    }
  }

  private tell(message: ToReader): void {
    this.worker ??= this.begin();
    this.worker.postMessage(message);
  }

  private begin(): Worker {
    const worker = new Worker(new URL('./content.worker.js', import.meta.url), {
      workerData: { databaseUrl: this.config.databaseUrl },
      resourceLimits: { maxOldGenerationSizeMb: 512 },
    });
    worker.on('message', (message: FromReader) => this.hear(message));
    // for example out of memory over one file
    worker.on('error', (error) => {
      this.log.warn(error.message);
      if (this.worker === worker) void this.giveUp();
    });
    return worker;
  }

  private hear(message: FromReader): void {
    switch (message.kind) {
      case 'begun':
        this.activity.begin(
          `contents-${message.placeId}`,
          `Reading what lies in ${this.places.get(message.placeId)?.entity.name ?? 'a place'}`,
          message.total,
          () => this.tell({ kind: 'stop' }),
        );
        break;
      case 'reading':
        this.reading = message;
        clearTimeout(this.watchdog);
        this.watchdog = setTimeout(() => void this.giveUp(), LONGEST_MS).unref();
        break;
      case 'written':
        clearTimeout(this.watchdog);
        this.activity.progress(`contents-${message.placeId}`, message.done);
        this.index.contentChanged(message.placeId, message.ids);
        if (performance.now() - this.toldAt > TELL_MS) this.tellPages();
        break;
      case 'done':
        clearTimeout(this.watchdog);
        this.reading = undefined;
        this.activity.end(`contents-${message.placeId}`);
        this.tellPages();
        break;
      case 'trouble':
        this.log.warn(message.message);
        break;
    }
  }

  /** Answers that hang on contents are read again, but not for each few files of thousands. */
  private tellPages(): void {
    this.toldAt = performance.now();
    this.events.changed('searches');
  }

  /** The file that is being read holds the thread up or broke it: it counts as empty until it changes. */
  private async giveUp(): Promise<void> {
    const worker = this.worker;
    this.worker = undefined;
    clearTimeout(this.watchdog);
    await worker?.terminate();
    const file = this.reading;
    this.reading = undefined;
    if (file) {
      this.activity.end(`contents-${file.placeId}`);
      this.log.warn(`original ${file.placeId}/${file.id} could not be read in time`);
      await this.rows.saveEmpty(file.placeId, file.id);
    }
    if (!this.closing) this.start();
  }

  async onApplicationShutdown(): Promise<void> {
    this.closing = true;
    clearTimeout(this.timer);
    clearTimeout(this.watchdog);
    await this.worker?.terminate();
  }
}
