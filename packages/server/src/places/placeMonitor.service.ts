/** Whether each place is here: looked at again and again, found where it moved to, connected where that can be done. */
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { shown } from '@rellin/core/paths';
import type { PlaceId } from '@rellin/contract';
import { DiskHangs, DiskService } from '../disk/disk.service.js';
import { kernelDevices } from '../disk/kernelFolders.js';
import { EventsService } from '../events/events.service.js';
import { IndexerService } from '../indexing/indexer.service.js';
import { JournalService } from '../journal/journal.service.js';
import { Refusal } from '../problems/refusal.js';
import { connectBySystem } from './fileSystems.js';
import { PlaceNews } from './placeNews.js';
import { PlaceRegistry, type LivePlace } from './placeRegistry.js';
import { PlacesRepository } from './places.repository.js';
import { PlaceSearchService } from './placeSearch.service.js';
import { swapStandIn } from './standIn.js';
import { UnfitFoldersService } from './unfitFolders.service.js';

const CHECK_MS = 1500;
/** How often a place that is away is looked for under other paths. */
const SEARCH_MS = 4000;

const OWN_DATA = 'it lies in Rellin’s own data folder';
const KERNELS = 'it belongs to the system and holds no files';

@Injectable()
export class PlaceMonitor implements OnApplicationShutdown {
  private readonly log = new Logger('places');
  private timer: NodeJS.Timeout | undefined;
  private closing = false;
  private checking = false;

  constructor(
    private readonly places: PlaceRegistry,
    private readonly rows: PlacesRepository,
    private readonly indexer: IndexerService,
    private readonly disk: DiskService,
    private readonly search: PlaceSearchService,
    private readonly unfit: UnfitFoldersService,
    private readonly journal: JournalService,
    private readonly events: EventsService,
    private readonly news: PlaceNews,
  ) {}

  start(): void {
    this.timer = setInterval(() => void this.checkAll(), CHECK_MS).unref();
  }

  /** One after another, and not again while one does not answer. */
  private async checkAll(): Promise<void> {
    if (this.closing || this.checking) return;
    this.checking = true;
    for (const { entity } of this.places.all())
      await this.check(entity.id).catch((e: Error) => this.log.warn(e.message));
    this.checking = false;
  }

  /** Looks whether a place is here, and tells where that changed. */
  async check(placeId: PlaceId, isFirst = false): Promise<void> {
    const place = this.places.get(placeId);
    if (!place || this.closing) return;
    let reason = await this.probe(place);
    const moved = reason !== undefined && (await this.findElsewhere(place));
    if (moved) reason = await this.probe(place);
    const state = reason === undefined ? 'here' : 'away';
    place.awayReason = reason ?? '';
    if (state === place.state && !isFirst && !moved) return;
    place.state = state;
    if (state === 'here' || !isFirst) place.lastSeenAt = new Date();
    if (state === 'away') {
      place.watching = 'off';
      await this.indexer.unwatch(placeId).catch(() => undefined);
      await this.rows.saveLastSeen(placeId, place.lastSeenAt);
    }
    await this.news.tell({ kind: 'state', placeId, state });
    this.events.changed('places', 'shortcuts');
  }

  /** Why the place is away, or `undefined` where it is here. */
  private async probe(place: LivePlace): Promise<string | undefined> {
    const { entity } = place;
    let names: string[];
    let inode: number;
    let birth: number;
    try {
      const seen = await this.disk.folder(entity.id, entity.root);
      if (!seen) return entity.type === 'fixed' ? 'its folder is not there' : 'not connected';
      if (!seen.isFolder) return 'its path is not a folder any more';
      ({ inode, birth } = seen);
      if (await this.unfit.isOwn(entity.id, entity.root)) return OWN_DATA;
      if (kernelDevices().includes(seen.device)) return KERNELS;
      if (entity.rootInode === inode && (entity.rootBirth === birth || birth === 0)) return undefined;
      names = await this.disk.names(entity.id, entity.root);
    } catch (error) {
      if (error instanceof DiskHangs) return 'it does not answer';
      return /EACCES/.test((error as Error).message) ? 'Rellin may not read it' : 'it cannot be read';
    }
    const known = await this.rows.knownNames(entity.id);
    if (names.length === 0 && known.length > 0) return 'nothing is connected at its folder';
    const met = known.filter((name) => names.includes(name)).length;
    if (known.length > 0 && met * 2 < known.length) return 'something else stands at its folder';
    const identity = this.search.identityOf(entity.root);
    entity.rootInode = inode;
    entity.rootBirth = birth;
    entity.fileSystem = identity?.id ?? null;
    entity.fileSystemPath = identity?.within ?? null;
    await this.rows.saveIdentity(entity);
    return undefined;
  }

  /** A drive or share that appears under another path is the same place: it goes along. */
  private async findElsewhere(place: LivePlace): Promise<boolean> {
    const { entity } = place;
    if (Date.now() - place.searchedAt < SEARCH_MS) return false;
    place.searchedAt = Date.now();
    const taken = this.places.all().flatMap((p) => (p === place ? [] : [p.entity.root]));
    const root = await this.search.elsewhere(entity, taken);
    if (root === undefined || !this.places.get(entity.id)) return false;
    const from = entity.root;
    // whoever watches the old path is told first that it is gone
    await this.indexer.unwatch(entity.id).catch(() => undefined);
    await this.journal.act(
      {
        act: 'place-moved',
        summary: `“${entity.name}” is at ${shown(root)} now, no longer at ${shown(from)}`,
        by: 'automatic',
        inStack: false,
      },
      (tx) => tx.update('place', String(entity.id), { root, root_inode: null, root_birth: null }),
    );
    Object.assign(entity, { root, rootInode: null, rootBirth: null });
    return true;
  }

  /** Connects a place that is away, by the system's own means or a stand-in's switch; whether it is here then. */
  async connect(placeId: PlaceId): Promise<boolean> {
    const place = this.places.get(placeId);
    if (!place) return false;
    if (place.state === 'here') return true;
    const { standInStore, type, root, fileSystem } = place.entity;
    if (standInStore) await this.switchStandIn(placeId, true);
    else if (type === 'fixed' || !(await connectBySystem(root, fileSystem))) return false;
    await this.check(placeId);
    return this.places.isHere(placeId);
  }

  /** The stand-in's switch: its folder appears or disappears, as a drive's would. */
  async switchStandIn(placeId: PlaceId, connect: boolean): Promise<void> {
    const { root, standInStore, name } = this.places.need(placeId).entity;
    if (!standInStore)
      throw new Refusal('not-valid', `“${name}” is no stand-in; connect it by the system's own means.`);
    if (!connect) await this.indexer.unwatch(placeId);
    swapStandIn(connect ? standInStore : root, connect ? root : standInStore);
    await this.check(placeId);
  }

  onApplicationShutdown(): void {
    this.closing = true;
    clearInterval(this.timer);
  }
}
