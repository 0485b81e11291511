/** Places: which there are, whether they are here, and keeping the index after them. */
import { basename } from 'node:path';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { LONGEST_PATTERN } from '@rellin/core/excludes';
import { isWithin, normalizeAbsolute, shown, typedPath } from '@rellin/core/paths';
import type { OriginalId, PlaceId, PlaceView } from '@rellin/contract';
import { ActivityService } from '../activity/activity.service.js';
import { CONFIG, type Config } from '../config/config.js';
import { dropPartition } from '../database/partition.js';
import { DiskHangs, DiskService } from '../disk/disk.service.js';
import { kernelDevices } from '../disk/kernelFolders.js';
import { refusalOf } from '../disk/refusals.js';
import { EventsService } from '../events/events.service.js';
import { IndexerService, type AfterLook } from '../indexing/indexer.service.js';
import type { Written } from '../indexing/differences.js';
import { HOME_EXCLUDES, USUAL_EXCLUDES } from '../indexing/excludes.js';
import { JournalService, type AfterAct } from '../journal/journal.service.js';
import { Refusal } from '../problems/refusal.js';
import { connectBySystem } from './fileSystems.js';
import { PlaceEntity } from '../database/entities/place.entity.js';
import { PlaceSearchService } from './placeSearch.service.js';
import { swapStandIn } from './standIn.js';
import { PlaceStatusEntity } from '../database/entities/placeStatus.entity.js';
import type { RowChange } from '../journal/rowChange.js';

const CHECK_MS = 1500;
const VERIFY_MS = 30_000;
/** How often a place that is away is looked for under other paths. */
const SEARCH_MS = 4000;
/** How often folders in use are looked at where the system's watches do not reach. */
const POLL_MS = 2000;
const MOST_POLLED = 2000;

export interface LivePlace {
  entity: PlaceEntity;
  state: 'here' | 'away';
  awayReason: string;
  scan: PlaceView['scan'];
  watching: PlaceView['watching'];
  slowed: readonly string[];
  entries: number;
  lastSeenAt: Date | null;
  /** Until when the index was known to agree with the disk, epoch milliseconds. */
  verifiedAt: number;
  /** When it was last looked for elsewhere. */
  searchedAt: number;
}

export type PlaceEvent =
  | { kind: 'state'; placeId: PlaceId; state: 'here' | 'away' }
  | { kind: 'written'; placeId: PlaceId; written: Written; whole: boolean };

/** Called after something changed on disk, or a place went or came back; one after the other. */
export interface AfterDisk {
  afterDisk(event: PlaceEvent): Promise<void> | void;
}

/** What must be there before a place is looked through: whoever follows changes knows what they change. */
export interface BeforeScan {
  beforeScan(placeId: PlaceId): Promise<void>;
}

@Injectable()
export class PlacesService implements OnApplicationShutdown, AfterAct, AfterLook {
  private readonly log = new Logger('places');
  private readonly live = new Map<number, LivePlace>();
  private before: readonly BeforeScan[] = [];
  private after: readonly AfterDisk[] = [];
  private readonly scans = new Map<number, Promise<void>>();
  /** Places to be looked through once more, when the scan that is under way has ended. */
  private readonly wanted = new Set<number>();
  private timers: NodeJS.Timeout[] = [];
  private closing = false;
  private checking = false;
  private reloading: Promise<unknown> = Promise.resolve();

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly db: DataSource,
    private readonly indexer: IndexerService,
    private readonly disk: DiskService,
    private readonly search: PlaceSearchService,
    private readonly journal: JournalService,
    private readonly events: EventsService,
    private readonly activity: ActivityService,
  ) {
    disk.reach(() => this.all().map((p) => p.entity.root));
  }

  /**
   * What comes before a place is looked through, and what follows when a place came, went or changed, in this order;
   * awaited, so that shortcuts are right before the place counts as verified.
   */
  followedBy(before: readonly BeforeScan[], after: readonly AfterDisk[]): void {
    this.before = before;
    this.after = after;
  }

  afterAct(changes: RowChange[]): void {
    if (changes.some((c) => c.table === 'place')) void this.reload();
  }

  progressed(placeId: PlaceId, done: number): void {
    this.activity.progress(`scan-${placeId}`, done);
  }

  written(placeId: PlaceId, written: Written): void {
    void this.afterWritten(placeId, written, false);
  }

  rootGone(placeId: PlaceId): void {
    void this.check(placeId);
  }

  overflowed(placeId: PlaceId): void {
    this.scanAfter(placeId);
  }

  slowed(placeId: PlaceId, paths: readonly string[]): void {
    const place = this.live.get(placeId);
    if (!place) return;
    place.slowed = paths;
    this.events.changed('places');
  }

  async start(): Promise<void> {
    for (const seed of this.config.places) await this.seed(seed);
    await this.reload();
    const each = (ms: number, work: () => void) => this.timers.push(setInterval(work, ms).unref() as NodeJS.Timeout);
    each(CHECK_MS, () => void this.checkAll());
    each(VERIFY_MS, () => void this.saveVerified());
    each(POLL_MS, () => void this.pollInUse().catch((error: Error) => this.log.warn(error.message)));
  }

  private async seed(seed: Config['places'][number]): Promise<void> {
    const root = normalizeAbsolute(seed.root);
    if (!root) throw new Error(`A place must be an absolute path: ${seed.root}`);
    const known = await this.db.getRepository(PlaceEntity).findOneBy({ root });
    if (known) return;
    await this.journal.act(
      { act: 'add-place', summary: `Added the place “${seed.name}”`, by: 'automatic', inStack: false },
      (tx) =>
        tx.insert('place', {
          ...(NEW_PLACE as object),
          name: seed.name,
          root,
          type: seed.type,
          stand_in_store: seed.standInStore ?? null,
        }),
    );
  }

  /** Brings the live places after the table: new ones start, removed ones stop. */
  reload(): Promise<void> {
    const run = this.reloading.then(() => this.reloadNow());
    this.reloading = run.catch(() => undefined);
    return run;
  }

  private async reloadNow(): Promise<void> {
    const rows = await this.db.getRepository(PlaceEntity).find({ order: { id: 'ASC' } });
    for (const entity of rows) {
      const place = this.live.get(entity.id);
      if (entity.removedAt) {
        if (place) await this.drop(entity.id);
        continue;
      }
      if (place) {
        const anew = String(place.entity.excludes) !== String(entity.excludes);
        // what was seen of the disk since this row was read is newer than the row
        const { rootInode, rootBirth, fileSystem, fileSystemPath } = place.entity;
        if (entity.root === place.entity.root)
          Object.assign(entity, { rootInode, rootBirth, fileSystem, fileSystemPath });
        place.entity = entity;
        if (anew && place.state === 'here') this.scanAfter(entity.id);
        continue;
      }
      await this.db.query(`INSERT INTO place_status (place_id) VALUES ($1) ON CONFLICT DO NOTHING`, [entity.id]);
      const status = await this.db.getRepository(PlaceStatusEntity).findOneByOrFail({ placeId: entity.id });
      this.live.set(entity.id, {
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
      await this.check(entity.id, true);
    }
    for (const id of [...this.live.keys()]) if (!rows.some((r) => r.id === id)) await this.drop(id);
    this.events.changed('places');
  }

  private async drop(placeId: PlaceId): Promise<void> {
    this.live.delete(placeId);
    await this.indexer.stop(placeId).catch(() => undefined);
    await this.indexer.unwatch(placeId).catch(() => undefined);
    await this.scans.get(placeId);
    await this.disk.drop(placeId);
    await this.db.query(dropPartition(placeId));
    await this.db.query(`UPDATE place_status SET next_id = 2, entries = 0, scan = 'never' WHERE place_id = $1`, [
      placeId,
    ]);
    await this.tell({ kind: 'state', placeId, state: 'away' });
    this.events.changed('places', 'originals', 'shortcuts');
  }

  /** One after another, and not again while one does not answer. */
  private async checkAll(): Promise<void> {
    if (this.closing || this.checking) return;
    this.checking = true;
    for (const id of this.live.keys()) await this.check(id).catch((e: Error) => this.log.warn(e.message));
    this.checking = false;
  }

  /** Looks whether a place is here, and acts on a change. */
  async check(placeId: PlaceId, first = false): Promise<void> {
    const place = this.live.get(placeId);
    if (!place || this.closing) return;
    let verdict = await this.probe(place);
    const moved = verdict !== undefined && (await this.findElsewhere(place));
    if (moved) verdict = await this.probe(place);
    const state = verdict === undefined ? 'here' : 'away';
    place.awayReason = verdict ?? '';
    if (state === place.state && !first && !moved) return;
    place.state = state;
    if (state === 'here') {
      place.lastSeenAt = new Date();
      // a new place shows before it is looked through; what is known of an old one is compared first
      void this.scan(placeId);
    } else {
      if (!first) place.lastSeenAt = new Date();
      place.watching = 'off';
      await this.indexer.unwatch(placeId).catch(() => undefined);
      await this.db.query(`UPDATE place_status SET last_seen_at = COALESCE($2, last_seen_at) WHERE place_id = $1`, [
        placeId,
        place.lastSeenAt,
      ]);
    }
    await this.tell({ kind: 'state', placeId, state });
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
      if (await this.isOwn(entity.id, entity.root)) return OWN_DATA;
      if (kernelDevices().includes(seen.device)) return KERNELS;
      if (entity.rootInode === inode && (entity.rootBirth === birth || birth === 0)) return undefined;
      names = await this.disk.names(entity.id, entity.root);
    } catch (error) {
      if (error instanceof DiskHangs) return 'it does not answer';
      return /EACCES/.test((error as Error).message) ? 'Rellin may not read it' : 'it cannot be read';
    }
    const known = await this.search.knownNames(entity.id);
    if (names.length === 0 && known.length > 0) return 'nothing is connected at its folder';
    const met = known.filter((name) => names.includes(name)).length;
    if (known.length > 0 && met * 2 < known.length) return 'something else stands at its folder';
    entity.rootInode = inode;
    entity.rootBirth = birth;
    const identity = this.search.identityOf(entity.root);
    entity.fileSystem = identity?.id ?? null;
    entity.fileSystemPath = identity?.within ?? null;
    await this.db.query(
      `UPDATE place SET root_inode = $2, root_birth = $3, file_system = $4, file_system_path = $5 WHERE id = $1`,
      [entity.id, inode, birth, entity.fileSystem, entity.fileSystemPath],
    );
    return undefined;
  }

  /** A drive or share that appears under another path is the same place: it goes along. */
  private async findElsewhere(place: LivePlace): Promise<boolean> {
    const { entity } = place;
    if (Date.now() - place.searchedAt < SEARCH_MS) return false;
    place.searchedAt = Date.now();
    const taken = this.all().flatMap((p) => (p === place ? [] : [p.entity.root]));
    const root = await this.search.elsewhere(entity, taken);
    if (root === undefined || !this.live.has(entity.id)) return false;
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
    const place = this.live.get(placeId);
    if (!place) return false;
    if (place.state === 'here') return true;
    if (place.entity.standInStore) await this.switchStandIn(placeId, true);
    else if (place.entity.type === 'fixed' || !(await connectBySystem(place.entity.root, place.entity.fileSystem)))
      return false;
    await this.check(placeId);
    return this.live.get(placeId)?.state === 'here';
  }

  /** Looks through a place, then watches it. One scan a place at a time. */
  scan(placeId: PlaceId): Promise<void> {
    const going = this.scans.get(placeId);
    if (going) return going;
    const run = this.scanNow(placeId)
      .catch((error: Error) => {
        const place = this.live.get(placeId);
        if (place) place.scan = 'failed';
        if (!this.closing) this.log.warn(`scan of place ${placeId}: ${error.message}`);
      })
      .finally(() => {
        this.scans.delete(placeId);
        this.activity.end(`scan-${placeId}`);
        this.events.changed('places', 'activity');
      });
    this.scans.set(placeId, run);
    return run;
  }

  /** Waits for the look that is under way, if there is one. */
  async lookedThrough(placeId: PlaceId): Promise<void> {
    await this.scans.get(placeId);
  }

  /** Looks through a place for what happened up to now: one that is under way may be past it already. */
  private scanAfter(placeId: PlaceId): void {
    const going = this.scans.get(placeId);
    if (!going) void this.scan(placeId);
    else if (!this.wanted.has(placeId)) {
      this.wanted.add(placeId);
      void going.then(() => {
        this.wanted.delete(placeId);
        if (this.live.get(placeId)?.state === 'here' && !this.closing) void this.scan(placeId);
      });
    }
  }

  private async scanNow(placeId: PlaceId): Promise<void> {
    const place = this.live.get(placeId);
    if (!place) return;
    const { root, excludes, name } = place.entity;
    place.scan = 'running';
    this.activity.begin(
      `scan-${placeId}`,
      `Looking through ${name}`,
      place.entries || null,
      () => void this.indexer.stop(placeId),
    );
    for (const one of this.before) await one.beforeScan(placeId);
    const answer = await this.indexer.scan(placeId, root, [...this.alwaysExcluded(root), ...excludes]);
    if (!this.live.has(placeId)) return;
    if (answer.outcome === 'done') place.entries = answer.entries;
    place.scan = answer.outcome;
    if (answer.outcome === 'done') {
      const watching = await this.indexer.watch(placeId, root, [...this.alwaysExcluded(root), ...excludes]);
      place.watching = watching.limited ? 'limited' : 'all';
      await this.afterWritten(placeId, answer.written, true);
    } else if (answer.outcome === 'failed') void this.check(placeId);
    await this.db.query(`UPDATE place_status SET scan = $2, scanned_at = now() WHERE place_id = $1`, [
      placeId,
      answer.outcome,
    ]);
  }

  private async afterWritten(placeId: PlaceId, written: Written, whole: boolean): Promise<void> {
    const place = this.live.get(placeId);
    if (!place) return;
    const status = await this.db.getRepository(PlaceStatusEntity).findOneBy({ placeId });
    place.entries = status?.entries ?? place.entries;
    await this.tell({ kind: 'written', placeId, written, whole });
    if (this.live.get(placeId)?.state === 'here') place.verifiedAt = Date.now();
    if (whole) await this.saveVerified();
    this.events.changed('originals', 'places');
  }

  /** Folders that shortcuts lie in or point to, in places that are not watched whole. */
  private async pollInUse(): Promise<void> {
    for (const [placeId, place] of this.live) {
      if (place.watching !== 'limited' || place.state !== 'here' || place.scan === 'running') continue;
      const rows = (await this.db.query(
        `SELECT DISTINCT id FROM (
           SELECT o.parent_id AS id FROM shortcut s JOIN original o ON o.place_id = s.place_id AND o.id = s.original_id
             WHERE s.place_id = $1 AND s.removed_at IS NULL
           UNION ALL SELECT s.original_id FROM shortcut s WHERE s.place_id = $1 AND s.kind = 'folder' AND s.removed_at IS NULL
         ) f WHERE id IS NOT NULL LIMIT ${MOST_POLLED}`,
        [placeId],
      )) as { id: OriginalId }[];
      await this.indexer.poll(
        placeId,
        rows.map((r) => r.id),
      );
    }
  }

  private async tell(event: PlaceEvent): Promise<void> {
    for (const one of this.after)
      try {
        await one.afterDisk(event);
      } catch (error) {
        this.log.warn(`after ${event.kind}: ${(error as Error).stack ?? String(error)}`);
      }
  }

  private async saveVerified(): Promise<void> {
    for (const [id, place] of this.live) {
      if (place.state !== 'here') continue;
      if (place.watching === 'all') place.verifiedAt = Date.now();
      await this.db
        .query(
          `UPDATE place_status SET verified_at = to_timestamp($2 / 1000.0), last_seen_at = now() WHERE place_id = $1`,
          [id, place.verifiedAt],
        )
        .catch(() => undefined);
    }
  }

  get(placeId: PlaceId): LivePlace | undefined {
    return this.live.get(placeId);
  }

  need(placeId: PlaceId): LivePlace {
    const place = this.live.get(placeId);
    if (!place) throw new Refusal('not-found', 'Rellin does not look into that place any more.');
    return place;
  }

  all(): LivePlace[] {
    return [...this.live.values()];
  }

  /** The place an absolute path lies in: the deepest, where places are nested. */
  placeOf(path: string): LivePlace | undefined {
    return this.all()
      .filter((p) => isWithin(p.entity.root, path))
      .sort((a, b) => b.entity.root.length - a.entity.root.length)[0];
  }

  async views(): Promise<PlaceView[]> {
    return Promise.all(this.all().map((place) => this.view(place)));
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
      alwaysExcluded: this.alwaysExcluded(entity.root),
      slowed: [...place.slowed],
      entries: place.entries,
      freeBytes: space?.free ?? null,
      totalBytes: space?.total ?? null,
      scan: place.scan,
      watching: place.watching,
      standIn: entity.standInStore !== null,
    };
  }

  /** In a home folder also what programs keep for themselves there (XDG Base Directory Specification; Trash 1.0). */
  private alwaysExcluded(root: string): string[] {
    const { home } = this.config.xdg;
    const within = home === root ? '' : isWithin(root, home) ? home.slice(root === '/' ? 0 : root.length) : undefined;
    return [
      ...USUAL_EXCLUDES,
      ...(within === undefined ? [] : HOME_EXCLUDES.map((pattern) => `${literally(within)}${pattern}`)),
    ];
  }

  async add(request: {
    root: string;
    name?: string;
    type?: PlaceView['type'];
    excludes?: string[];
  }): Promise<PlaceView> {
    const read = typedPath(request.root, this.config.xdg.home, { fromHome: true });
    if (!read.ok) throw new Refusal('not-valid', 'A place is given by its path, like ~/Documents.');
    const root = read.path;
    await this.refuseUnfit(root);
    if (this.all().some((p) => p.entity.root === root))
      throw new Refusal('conflict', `${shown(root)} is a place already.`);
    const name = request.name?.trim() || basename(root) || root;
    checkPatterns(request.excludes ?? []);
    const row = await this.journal.act({ act: 'add-place', summary: `Added the place “${name}”` }, (tx) =>
      tx.insert('place', {
        ...(NEW_PLACE as object),
        name,
        root,
        type: request.type ?? 'fixed',
        excludes: request.excludes ?? [],
      }),
    );
    await this.reload();
    return this.view(this.need(row['id'] as number));
  }

  /** Whether a folder is Rellin's own data folder or lies in it, links resolved. */
  private async isOwn(threadOf: number, root: string): Promise<boolean> {
    const [real, ...own] = await this.disk.reals(threadOf, [root, ...this.config.ownFolders]);
    return real != null && own.some((folder) => folder !== null && isWithin(folder, real));
  }

  /** Refuses what cannot be a place; in a thread that can be given up, for it may lie on a disk that hangs. */
  private async refuseUnfit(root: string): Promise<void> {
    const where = shown(root);
    try {
      const seen = await this.disk.folder(NO_PLACE, root).catch((error: unknown) => {
        throw refusalOf(error, root);
      });
      if (!seen) throw new Refusal('not-found', `There is no folder ${where}.`);
      const [real] = await this.disk.reals(NO_PLACE, [root]);
      const there = real == null ? undefined : await this.disk.folder(NO_PLACE, real);
      if (!there?.isFolder) throw new Refusal('not-a-folder', `${where} is not a folder. A place is a folder.`);
      if (await this.isOwn(NO_PLACE, root))
        throw new Refusal('forbidden', `${where} lies in Rellin’s own data folder, which cannot be a place.`, {
          remedy: 'Choose another folder. A folder that contains it can be a place; Rellin leaves its own data out.',
        });
      if (kernelDevices().includes(there.device))
        throw new Refusal(
          'forbidden',
          `${where} belongs to the system, which shows its own state there as if it were files. It cannot be a place.`,
          {
            remedy: 'Choose a folder that holds files of yours.',
          },
        );
      await this.disk.names(NO_PLACE, root).catch(() => {
        throw new Refusal('no-access', `Rellin may not read ${where}.`, {
          remedy: 'RowChange its permissions, then add it.',
        });
      });
    } finally {
      await this.disk.drop(NO_PLACE);
    }
  }

  async change(id: PlaceId, patch: { name?: string; excludes?: string[] }): Promise<PlaceView> {
    const place = this.need(id);
    if (patch.excludes) checkPatterns(patch.excludes);
    await this.journal.act({ act: 'change-place', summary: `Changed the place “${place.entity.name}”` }, (tx) =>
      tx.update('place', String(id), {
        ...(patch.name !== undefined && { name: patch.name.trim() }),
        ...(patch.excludes && { excludes: patch.excludes }),
      }),
    );
    await this.reload();
    return this.view(this.need(id));
  }

  async remove(id: PlaceId): Promise<void> {
    const place = this.need(id);
    await this.journal.act({ act: 'remove-place', summary: `Stopped looking into “${place.entity.name}”` }, (tx) =>
      tx.update('place', String(id), { removed_at: new Date().toISOString() }),
    );
    await this.reload();
  }

  /** The stand-in's switch: its folder appears or disappears, as a drive's would. */
  async switchStandIn(id: PlaceId, connect: boolean): Promise<PlaceView> {
    const place = this.need(id);
    const { root, standInStore, name } = place.entity;
    if (!standInStore)
      throw new Refusal('not-valid', `“${name}” is no stand-in; connect it by the system's own means.`);
    if (!connect) await this.indexer.unwatch(id);
    swapStandIn(connect ? standInStore : root, connect ? root : standInStore);
    await this.check(id);
    return this.view(this.need(id));
  }

  async onApplicationShutdown(): Promise<void> {
    this.closing = true;
    for (const timer of this.timers) clearInterval(timer);
    for (const id of this.scans.keys()) await this.indexer.stop(id).catch(() => undefined);
    await Promise.allSettled([...this.scans.values()]);
  }
}

/** The number of a thread for folders that are no place yet. */
const NO_PLACE = -2;
const OWN_DATA = 'it lies in Rellin’s own data folder';
const KERNELS = 'it belongs to the system and holds no files';

/** A path as a pattern that stands for it alone. */
const literally = (path: string) => path.replace(/[\\*?[\]!#]/g, '\\$&');

const NEW_PLACE = { excludes: [] as string[], root_inode: null, root_birth: null, removed_at: null };

function checkPatterns(patterns: string[]): void {
  for (const pattern of patterns) {
    if (pattern.length > LONGEST_PATTERN)
      throw new Refusal('not-valid', `A pattern may have ${LONGEST_PATTERN} characters at most.`);
    if (pattern.includes('\n')) throw new Refusal('not-valid', 'A pattern is one line.');
  }
}
