/**
 * Counts what other programs opened, by the recent-files list that the desktop keeps: read at start, then watched. Only
 * what lies in a place counts; what Rellin opened itself was counted already.
 */
import type { OriginalId, PlaceId, ShortcutId } from '@rellin/contract';
import { watch, type FSWatcher } from 'node:fs';
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { nameOf } from '@rellin/core/paths';
import { CONFIG, type Config } from '../config/config.js';
import { OpeningsRepository } from '../openings/openings.repository.js';
import { UsagePublisherService } from '../openings/usagePublisher.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import type { AfterAct } from '../journal/journal.service.js';
import type { RowChange } from '../journal/rowChange.js';
import type { AfterDisk, PlaceEvent } from '../places/placeNews.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { ScanScheduler } from '../places/scanScheduler.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { RecentFilesRepository } from './recentFiles.repository.js';
import { openedSince, RECENT_FILES, type OpenedElsewhere, type RecentFilesResult } from './readRecentFiles.js';

/** Programs write the list in bursts. */
const QUIET_MS = 250;
/** So often a folder that is not there yet is looked for. */
const RETRY_MS = 60_000;
/** The program that Rellin started writes the list a moment later. */
const OWN_MS = 2 * 60_000;
/** Saving writes the list as well: within so long it is still the same opening. */
const SITTING_MS = 60 * 60_000;
/** Of what was opened before Rellin came, so much counts. */
const FIRST_WEEKS = 12;

/** Bytes; desktops keep some hundred entries, which is a hundredth of it. */
const LONGEST_LIST = 32_000_000;
/** So many of the latest are counted. */
const MOST_OPENED = 5000;
const LONGEST_MS = 60_000;

/** In a thread of its own, ended when it takes too long; undefined where there is no list. */
async function readInThread(path: string): Promise<RecentFilesResult | undefined> {
  // a thread costs more than the look
  if (!(await stat(path).catch(() => undefined))) return undefined;
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./recentFiles.worker.js', import.meta.url), {
      workerData: { path, limit: LONGEST_LIST },
      resourceLimits: { maxOldGenerationSizeMb: 512 },
    });
    worker.unref();
    const late = setTimeout(() => void worker.terminate(), LONGEST_MS).unref();
    worker.once('message', resolve);
    worker.once('error', reject);
    worker.once('exit', () => {
      clearTimeout(late);
      resolve(undefined);
    });
  });
}

interface Found extends OpenedElsewhere {
  placeId: PlaceId;
  originalId: OriginalId;
}

@Injectable()
export class RecentFilesService implements OnApplicationShutdown, AfterAct, AfterDisk {
  private readonly log = new Logger('recent-files');
  private readonly folder: string;
  private watcher: FSWatcher | undefined;
  private timer: NodeJS.Timeout | undefined;
  private retry: NodeJS.Timeout | undefined;
  private running: Promise<void> = Promise.resolve();
  /** Places that came since the list was counted: what was opened in them before counts as well. */
  private readonly uncounted = new Set<PlaceId>();

  constructor(
    @Inject(CONFIG) config: Config,
    private readonly db: DataSource,
    private readonly rows: RecentFilesRepository,
    private readonly openings: OpeningsRepository,
    private readonly originals: OriginalsService,
    private readonly places: PlaceRegistry,
    private readonly scans: ScanScheduler,
    private readonly settings: SettingsService,
    private readonly told: UsagePublisherService,
  ) {
    this.folder = config.xdg.dataHome;
  }

  /** Called once the places are known. */
  start(): void {
    this.attach();
    this.soon();
  }

  afterAct(changes: RowChange[]): void {
    for (const { table, before, after } of changes)
      if (table === 'place' && after && (!before || before.removed_at)) this.uncounted.add(after.id as PlaceId);
  }

  /** Once it is known what lies in a new place. */
  afterDisk(event: PlaceEvent): void {
    if (event.kind === 'written' && event.whole && this.uncounted.delete(event.placeId))
      this.next(() => this.readFor(event.placeId));
  }

  private attach(): void {
    try {
      // the list is written anew beside and renamed, so that the folder is what to watch
      this.watcher = watch(this.folder, (_, name) => {
        if (name === RECENT_FILES) this.soon();
      }).on('error', (error) => this.log.warn(error.message));
    } catch {
      // a new account: no program has written anything yet
      this.retry = setTimeout(() => this.start(), RETRY_MS).unref();
    }
  }

  private soon(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.next(() => this.read()), QUIET_MS).unref();
  }

  /** One after another, so that nothing is counted twice. */
  private next(work: () => Promise<void>): void {
    this.running = this.running.then(work).catch((error: Error) => this.log.warn(error.stack ?? error.message));
  }

  private async read(): Promise<void> {
    const list = await readInThread(join(this.folder, RECENT_FILES));
    if (!list) return;
    // a program may be writing it just now; the next event brings it whole
    if (!list.ok) return void this.log.warn(`the recent-files list cannot be read: ${list.reason}`);
    const now = Date.now();
    const until = await this.rows.countedUntil();
    const fresh = openedSince(list.opened, until ?? now - FIRST_WEEKS * 7 * 86_400_000, now).slice(-MOST_OPENED);
    const last = fresh[fresh.length - 1];
    if (!last && until !== undefined) return;
    await this.count(fresh, last?.at ?? now);
  }

  /** What was opened in one place before it was one. */
  private async readFor(placeId: PlaceId): Promise<void> {
    const list = await readInThread(join(this.folder, RECENT_FILES));
    const now = Date.now();
    const until = await this.rows.countedUntil();
    if (!list?.ok || until === undefined) return;
    const before = openedSince(list.opened, now - FIRST_WEEKS * 7 * 86_400_000, until).slice(-MOST_OPENED);
    await this.count(
      before.filter(({ path }) => this.places.placeOf(path)?.entity.id === placeId),
      until,
    );
  }

  private async count(opened: readonly OpenedElsewhere[], until: number): Promise<void> {
    const { recording, recentFiles, halfLifeDays } = await this.settings.all();
    // what is opened while nothing is kept is not counted later either
    const inPlaces = recording && recentFiles ? await this.inPlaces(opened) : [];
    const counted = await this.db.transaction(async (manager) => {
      const counted: (ShortcutId | null)[] = [];
      for (const { path, program, ...found } of inPlaces) {
        const row = { ...found, name: nameOf(path), argv: program === '' ? [] : [program] };
        const of = await this.openings.addElsewhere(manager, row, OWN_MS, SITTING_MS);
        if (of !== undefined) counted.push(of);
      }
      const touched = [...new Set(counted.flatMap((id) => id ?? []))];
      await this.openings.countAnew(manager, touched, halfLifeDays);
      await this.rows.saveCountedUntil(manager, until);
      return counted.length > 0 ? touched : undefined;
    });
    if (counted) await this.told.tell(counted);
  }

  /** Those that lie in a place and are known there. */
  private async inPlaces(fresh: readonly OpenedElsewhere[]): Promise<Found[]> {
    // what a first look has not come to yet would not be found
    await Promise.all(this.places.all().map((place) => this.scans.lookedThrough(place.entity.id)));
    const out: Found[] = [];
    for (const opened of fresh) {
      if (!this.places.placeOf(opened.path)) continue;
      const at = await this.originals.locate(opened.path).catch(() => undefined);
      if (at) out.push({ ...opened, placeId: at.placeId, originalId: at.originalId });
    }
    return out;
  }

  async onApplicationShutdown(): Promise<void> {
    this.watcher?.close();
    clearTimeout(this.timer);
    clearTimeout(this.retry);
    await this.running;
  }
}
