/** When each place is looked through, and what its watches tell until it is looked through again. */
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { PlaceId } from '@rellin/contract';
import { ActivityService } from '../activity/activity.service.js';
import { CONFIG, type Config } from '../config/config.js';
import { EventsService } from '../events/events.service.js';
import type { Written } from '../indexing/differences.js';
import { IndexerService, type AfterLook } from '../indexing/indexer.service.js';
import { alwaysExcluded } from './alwaysExcluded.js';
import { PlaceMonitor } from './placeMonitor.service.js';
import { PlaceNews, type AfterDisk, type PlaceEvent } from './placeNews.js';
import { PlaceRegistry } from './placeRegistry.js';
import { PlacesRepository } from './places.repository.js';

const VERIFY_MS = 30_000;
/** How often folders in use are looked at where the system's watches do not reach. */
const POLL_MS = 2000;
const MOST_POLLED = 2000;
/** A scan that failed is tried again this much later, twice as late each time. */
const AGAIN_MS = 1000;
const LATEST_MS = 60_000;

@Injectable()
export class ScanScheduler implements OnApplicationShutdown, AfterLook, AfterDisk {
  private readonly log = new Logger('places');
  private readonly scans = new Map<PlaceId, Promise<void>>();
  /** Places to be looked through once more, when the scan that is under way has ended. */
  private readonly wanted = new Set<PlaceId>();
  /** How often in a row the scan of a place failed. */
  private readonly failures = new Map<PlaceId, number>();
  private timers: NodeJS.Timeout[] = [];
  private closing = false;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly places: PlaceRegistry,
    private readonly rows: PlacesRepository,
    private readonly indexer: IndexerService,
    private readonly monitor: PlaceMonitor,
    private readonly news: PlaceNews,
    private readonly events: EventsService,
    private readonly activity: ActivityService,
  ) {}

  start(): void {
    const warn = (error: Error) => this.log.warn(error.message);
    this.timers = [
      setInterval(() => void this.saveVerified(), VERIFY_MS).unref(),
      setInterval(() => void this.pollInUse().catch(warn), POLL_MS).unref(),
    ];
  }

  /** A new place shows before it is looked through; what is known of an old one is compared first. */
  afterDisk(event: PlaceEvent): void {
    if (event.kind === 'state' && event.state === 'here') void this.scan(event.placeId);
  }

  progressed(placeId: PlaceId, done: number): void {
    this.activity.progress(`scan-${placeId}`, done);
  }

  written(placeId: PlaceId, written: Written): void {
    void this.afterWritten(placeId, written, false);
  }

  rootGone(placeId: PlaceId): void {
    void this.monitor.check(placeId);
  }

  overflowed(placeId: PlaceId): void {
    this.scanAfter(placeId);
  }

  slowed(placeId: PlaceId, paths: readonly string[]): void {
    const place = this.places.get(placeId);
    if (!place) return;
    place.slowed = paths;
    this.events.changed('places');
  }

  /** Looks through a place, then watches it. One scan a place at a time. */
  scan(placeId: PlaceId): Promise<void> {
    const going = this.scans.get(placeId);
    if (going) return going;
    const run = this.scanNow(placeId)
      .catch((error: Error) => {
        const place = this.places.get(placeId);
        if (place) place.scan = 'failed';
        if (!this.closing) this.log.warn(`scan of place ${placeId}: ${error.message}`);
      })
      .finally(() => {
        this.scans.delete(placeId);
        this.scanAgainWhereFailed(placeId);
        this.activity.end(`scan-${placeId}`);
        this.events.changed('places', 'activity');
      });
    this.scans.set(placeId, run);
    return run;
  }

  /** PostgreSQL or the disk may have been away for a moment: until it is looked through, nothing of it is watched. */
  private scanAgainWhereFailed(placeId: PlaceId): void {
    if (this.places.get(placeId)?.scan !== 'failed') {
      this.failures.delete(placeId);
      return;
    }
    const failures = (this.failures.get(placeId) ?? 0) + 1;
    this.failures.set(placeId, failures);
    setTimeout(
      () => {
        const isWanted = !this.closing && this.places.get(placeId)?.scan === 'failed' && this.places.isHere(placeId);
        if (isWanted) void this.scan(placeId);
      },
      Math.min(LATEST_MS, AGAIN_MS * 2 ** (failures - 1)),
    ).unref();
  }

  /** Waits for the look that is under way, if there is one. */
  async lookedThrough(placeId: PlaceId): Promise<void> {
    await this.scans.get(placeId);
  }

  /** Looks through a place for what happened up to now: one that is under way may be past it already. */
  scanAfter(placeId: PlaceId): void {
    const going = this.scans.get(placeId);
    if (!going) void this.scan(placeId);
    else if (!this.wanted.has(placeId)) {
      this.wanted.add(placeId);
      void going.then(() => {
        this.wanted.delete(placeId);
        if (this.places.isHere(placeId) && !this.closing) void this.scan(placeId);
      });
    }
  }

  /** Ends whatever looks at a place. */
  async giveUp(placeId: PlaceId): Promise<void> {
    await this.indexer.stop(placeId).catch(() => undefined);
    await this.indexer.unwatch(placeId).catch(() => undefined);
    await this.scans.get(placeId);
  }

  private async scanNow(placeId: PlaceId): Promise<void> {
    const place = this.places.get(placeId);
    if (!place) return;
    const { root, name } = place.entity;
    const excludes = [...alwaysExcluded(root, this.config.xdg.home), ...place.entity.excludes];
    place.scan = 'running';
    this.activity.begin(
      `scan-${placeId}`,
      `Looking through ${name}`,
      place.entries || null,
      () => void this.indexer.stop(placeId),
    );
    await this.news.aboutToScan(placeId);
    const answer = await this.indexer.scan(placeId, root, excludes);
    if (!this.places.get(placeId)) return;
    if (answer.outcome === 'done') place.entries = answer.entries;
    place.scan = answer.outcome;
    if (answer.outcome === 'done') {
      const watching = await this.indexer.watch(placeId, root, excludes);
      place.watching = watching.limited ? 'limited' : 'all';
      await this.afterWritten(placeId, answer.written, true);
    } else if (answer.outcome === 'failed') void this.monitor.check(placeId);
    await this.rows.saveScan(placeId, answer.outcome);
  }

  private async afterWritten(placeId: PlaceId, written: Written, whole: boolean): Promise<void> {
    const place = this.places.get(placeId);
    if (!place) return;
    place.entries = await this.rows.entries(placeId);
    const isTaken = await this.news.tell({ kind: 'written', placeId, written, whole });
    if (isTaken && this.places.isHere(placeId)) place.verifiedAt = Date.now();
    if (whole) await this.saveVerified();
    this.events.changed('originals', 'places');
  }

  /** Folders that shortcuts lie in or lead to, in places that are not watched whole. */
  private async pollInUse(): Promise<void> {
    for (const { entity, watching, state, scan } of this.places.all())
      if (watching === 'limited' && state === 'here' && scan !== 'running')
        await this.indexer.poll(entity.id, await this.rows.foldersInUse(entity.id, MOST_POLLED));
  }

  private async saveVerified(): Promise<void> {
    for (const place of this.places.all()) {
      if (place.state !== 'here') continue;
      if (place.watching === 'all' && this.news.isTaken(place.entity.id)) place.verifiedAt = Date.now();
      await this.rows.saveVerified(place.entity.id, place.verifiedAt).catch(() => undefined);
    }
  }

  async onApplicationShutdown(): Promise<void> {
    this.closing = true;
    for (const timer of this.timers) clearInterval(timer);
    for (const id of this.scans.keys()) await this.indexer.stop(id).catch(() => undefined);
    await Promise.allSettled([...this.scans.values()]);
  }
}
