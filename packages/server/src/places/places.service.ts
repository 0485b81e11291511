/** Places as a person keeps them: added, changed, no longer looked into, and how each stands. */
import { basename } from 'node:path';
import { Inject, Injectable } from '@nestjs/common';
import { LONGEST_PATTERN } from '@rellin/core/excludes';
import { normalizeAbsolute, shown, typedPath } from '@rellin/core/paths';
import type { NewPlace, PlaceId, PlacePatch, PlaceView } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import type { PlaceEntity } from '../database/entities/place.entity.js';
import { DiskService } from '../disk/disk.service.js';
import { EventsService } from '../events/events.service.js';
import type { ActTx } from '../journal/actTx.js';
import { JournalService, type AfterAct } from '../journal/journal.service.js';
import type { RowChange } from '../journal/rowChange.js';
import { Refusal } from '../problems/refusal.js';
import { alwaysExcluded } from './alwaysExcluded.js';
import { PlaceMonitor } from './placeMonitor.service.js';
import { PlaceNews } from './placeNews.js';
import { PlaceRegistry, type LivePlace } from './placeRegistry.js';
import { PlacesRepository } from './places.repository.js';
import { ScanScheduler } from './scanScheduler.service.js';
import { UnfitFoldersService } from './unfitFolders.service.js';

@Injectable()
export class PlacesService implements AfterAct {
  private reloading: Promise<unknown> = Promise.resolve();

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly places: PlaceRegistry,
    private readonly rows: PlacesRepository,
    private readonly monitor: PlaceMonitor,
    private readonly scans: ScanScheduler,
    private readonly unfit: UnfitFoldersService,
    private readonly disk: DiskService,
    private readonly journal: JournalService,
    private readonly events: EventsService,
    private readonly news: PlaceNews,
  ) {
    disk.reach(() => this.places.all().map((p) => p.entity.root));
  }

  afterAct(changes: RowChange[]): void {
    if (changes.some((c) => c.table === 'place')) void this.reload();
  }

  async start(): Promise<void> {
    for (const seed of this.config.places) await this.seed(seed);
    await this.reload();
  }

  private async seed({ root: given, name, type, standInStore }: Config['places'][number]): Promise<void> {
    const root = normalizeAbsolute(given);
    if (!root) throw new Error(`A place must be an absolute path: ${given}`);
    if (await this.rows.hasRoot(root)) return;
    await this.journal.act(
      { act: 'add-place', summary: `Added the place “${name}”`, by: 'automatic', inStack: false },
      (tx) => tx.insert('place', { ...NEW_PLACE, name, root, type, stand_in_store: standInStore ?? null }),
    );
  }

  /** Brings the registry after the table: new places start, removed ones stop. */
  private reload(): Promise<void> {
    const run = this.reloading.then(() => this.reloadNow());
    this.reloading = run.catch(() => undefined);
    return run;
  }

  private async reloadNow(): Promise<void> {
    const kept = (await this.rows.all()).filter((entity) => !entity.removedAt);
    const ids = new Set(kept.map((entity) => entity.id));
    for (const { entity } of this.places.all()) if (!ids.has(entity.id)) await this.drop(entity.id);
    for (const entity of kept) {
      const place = this.places.get(entity.id);
      if (place) this.renew(place, entity);
      else await this.take(entity);
    }
    this.events.changed('places');
  }

  private renew(place: LivePlace, entity: PlaceEntity): void {
    const areOthers = String(place.entity.excludes) !== String(entity.excludes);
    // what was seen of the disk since this row was read is newer than the row
    const { rootInode, rootBirth, fileSystem, fileSystemPath } = place.entity;
    if (entity.root === place.entity.root) Object.assign(entity, { rootInode, rootBirth, fileSystem, fileSystemPath });
    place.entity = entity;
    if (areOthers && place.state === 'here') this.scans.scanAfter(entity.id);
  }

  private async take(entity: PlaceEntity): Promise<void> {
    const status = await this.rows.status(entity.id);
    this.places.set({
      entity,
      state: 'away',
      awayReason: '',
      scan: status.scan === 'running' ? 'stopped' : status.scan,
      watching: 'off',
      slowed: [],
      entries: status.entries,
      lastSeenAt: status.lastSeenAt,
      verifiedAt: status.verifiedAt?.getTime() ?? 0,
      searchedAt: 0,
    });
    await this.monitor.check(entity.id, true);
  }

  private async drop(placeId: PlaceId): Promise<void> {
    this.places.delete(placeId);
    await this.scans.giveUp(placeId);
    await this.disk.drop(placeId);
    await this.rows.forget(placeId);
    await this.news.tell({ kind: 'state', placeId, state: 'away' });
    this.events.changed('places', 'originals', 'shortcuts');
  }

  list(): Promise<PlaceView[]> {
    return Promise.all(this.places.all().map((place) => this.view(place)));
  }

  one(id: PlaceId): Promise<PlaceView> {
    return this.view(this.places.need(id));
  }

  private async view(place: LivePlace): Promise<PlaceView> {
    const { entity } = place;
    const space =
      place.state === 'here' ? await this.disk.space(entity.id, entity.root).catch(() => undefined) : undefined;
    return {
      id: entity.id,
      name: entity.name,
      root: entity.root,
      type: entity.type,
      state: place.state,
      awayReason: place.awayReason,
      lastSeenAt: place.lastSeenAt?.toISOString() ?? null,
      excludes: entity.excludes,
      alwaysExcluded: alwaysExcluded(entity.root, this.config.xdg.home),
      slowed: [...place.slowed],
      entries: place.entries,
      freeBytes: space?.free ?? null,
      totalBytes: space?.total ?? null,
      scan: place.scan,
      watching: place.watching,
      standIn: entity.standInStore !== null,
    };
  }

  async add(request: NewPlace): Promise<PlaceView> {
    const read = typedPath(request.root, this.config.xdg.home, { fromHome: true });
    if (!read.ok) throw new Refusal('not-valid', 'A place is given by its path, like ~/Documents.');
    const root = read.path;
    await this.unfit.refuse(root);
    if (this.places.all().some((p) => p.entity.root === root))
      throw new Refusal('conflict', `${shown(root)} is a place already.`);
    const name = request.name?.trim() || basename(root) || root;
    checkPatterns(request.excludes ?? []);
    const row = await this.journal.act({ act: 'add-place', summary: `Added the place “${name}”` }, (tx) =>
      tx.insert('place', {
        ...NEW_PLACE,
        name,
        root,
        type: request.type ?? 'fixed',
        excludes: request.excludes ?? [],
      }),
    );
    await this.reload();
    return this.one(row['id'] as PlaceId);
  }

  /** Within an act that sets up: those that are no place yet become one; their ids by their roots. */
  async insertAll(tx: ActTx, roots: readonly string[]): Promise<Map<string, PlaceId>> {
    const there = await this.rows.roots(tx.manager);
    const ids = new Map<string, PlaceId>();
    for (const root of roots) {
      if (there.has(root)) continue;
      const { id } = await tx.insert('place', { ...NEW_PLACE, name: basename(root) || root, root, type: 'fixed' });
      ids.set(root, id);
    }
    return ids;
  }

  /** Refuses a folder that cannot be a place. */
  refuseUnfit(root: string): Promise<void> {
    return this.unfit.refuse(root);
  }

  /** After an act that made places: they are known, and being looked through. */
  brought(): Promise<void> {
    return this.reload();
  }

  async change(id: PlaceId, patch: PlacePatch): Promise<PlaceView> {
    const place = this.places.need(id);
    if (patch.excludes) checkPatterns(patch.excludes);
    await this.journal.act({ act: 'change-place', summary: `Changed the place “${place.entity.name}”` }, (tx) =>
      tx.update('place', String(id), {
        ...(patch.name !== undefined && { name: patch.name.trim() }),
        ...(patch.excludes && { excludes: patch.excludes }),
      }),
    );
    await this.reload();
    return this.one(id);
  }

  async remove(id: PlaceId): Promise<void> {
    const place = this.places.need(id);
    await this.journal.act({ act: 'remove-place', summary: `Stopped looking into “${place.entity.name}”` }, (tx) =>
      tx.update('place', String(id), { removed_at: new Date().toISOString() }),
    );
    await this.reload();
  }
}

const NEW_PLACE = { excludes: [] as string[], root_inode: null, root_birth: null, removed_at: null };

function checkPatterns(patterns: string[]): void {
  for (const pattern of patterns) {
    if (pattern.length > LONGEST_PATTERN)
      throw new Refusal('not-valid', `A pattern may have ${LONGEST_PATTERN} characters at most.`);
    if (pattern.includes('\n')) throw new Refusal('not-valid', 'A pattern is one line.');
  }
}
