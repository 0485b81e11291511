/**
 * Fills an empty catalogue from a seed file (JSON): shortcuts by path, address or program, pins, past openings.
 * The demo uses it; a catalogue that holds anything already is left alone.
 */
import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { Inject, Injectable, Logger } from '@nestjs/common';
import type { CatalogueFilter, NewSweep, ProgramId, SearchPatch, SweepRule } from '@rellin/contract';
import type { Identity } from '@rellin/core/identity';
import { nameOf } from '@rellin/core/paths';
import { AliasesService } from '../aliases/aliases.service.js';
import { CONFIG, type Config } from '../config/config.js';
import type { RegionOrder } from '@rellin/core/board';
import { BoardsService } from '../boards/boards.service.js';
import { CollectionsService } from '../collections/collections.service.js';
import { IdentityService } from '../identity/identity.service.js';
import { describe } from '../indexing/mimeTypes.js';
import { JournalService } from '../journal/journal.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PinsService } from '../pins/pins.service.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { ScanScheduler } from '../places/scanScheduler.service.js';
import { QuickFiltersService } from '../quickFilters/quickFilters.service.js';
import { SearchAnswersService } from '../searches/searchAnswers.service.js';
import { SearchesService } from '../searches/searches.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { GoesWithService } from '../shortcuts/goesWith.service.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import { SweepsService } from '../sweeps/sweeps.service.js';
import { TagsService } from '../tags/tags.service.js';
import { ShortcutsRepository } from '../shortcuts/shortcuts.repository.js';
import { OpeningsRepository } from '../openings/openings.repository.js';
import { SearchesRepository } from '../searches/searches.repository.js';
import { BoardItemsService } from '../boards/boardItems.service.js';

interface Seed {
  shortcuts: {
    name: string;
    description?: string;
    path?: string;
    url?: string;
    programId?: ProgramId;
    /** What stood at a path and may not any more, and what was known of it. */
    recorded?: { path: string; size: number; mtime: number; fingerprint: string };
    pin?: boolean;
    /** Epoch milliseconds. */
    openings?: number[];
    alsoCalled?: string[];
    tags?: string[];
    /** Names of other shortcuts of the seed. */
    goesWith?: string[];
    /** As core's parsePicture reads it. */
    picture?: string;
  }[];
  /** Opened by walking to them: no shortcut yet. */
  withoutShortcut?: { path: string; openings: number[] }[];
  collections?: {
    name: string;
    type?: 'plain' | 'mirror' | 'working-set';
    description?: string;
    colour?: string;
    picture?: string;
    pin?: boolean;
    slot?: number;
    /** Names of shortcuts and of collections that stand before this one. */
    members?: string[];
    /** For a mirror: the path of its folder. */
    path?: string;
    /** Ends with the day the seed is filled in. */
    untilTonight?: boolean;
  }[];
  boards?: {
    name: string;
    regions: {
      name: string;
      order: RegionOrder;
      /** Names of shortcuts; in a free region with the cell each lies in. */
      items: (string | [string, number, number])[];
      bundle?: { name: string; items: string[]; x: number; y: number };
    }[];
  }[];
  searches?: SearchPatch[];
  /** Rules lead to folders by the names of their shortcuts. */
  sweeps?: (Omit<NewSweep, 'folders' | 'byItself' | 'rules'> & {
    folders: string[];
    rules: (Omit<SweepRule, 'shortcutId'> & { shortcut?: string })[];
  })[];
  /** Collections of the seed that are published, and the folder in which. */
  publications?: { collection: string; folder: string }[];
  /** Facets by name; a tag or collection by its own name. */
  quickFilters?: { name: string; keys?: string; filter: CatalogueFilter }[];
}

/** How long the demo's pins have stood where they are. */
const SEEDED_WEEKS = 12;
/** How long the demo's searches have been kept. */
const SEEDED_DAYS = 40;

@Injectable()
export class SeedService {
  private readonly log = new Logger('seed');

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly shortcutRows: ShortcutsRepository,
    private readonly openingRows: OpeningsRepository,
    private readonly searchRows: SearchesRepository,
    private readonly places: PlaceRegistry,
    private readonly scans: ScanScheduler,
    private readonly shortcuts: ShortcutsService,
    private readonly settings: SettingsService,
    private readonly collections: CollectionsService,
    private readonly boards: BoardsService,
    private readonly boardItems: BoardItemsService,
    private readonly tags: TagsService,
    private readonly goesWith: GoesWithService,
    private readonly originals: OriginalsService,
    private readonly pins: PinsService,
    private readonly quickFilters: QuickFiltersService,
    private readonly searches: SearchesService,
    private readonly searchAnswers: SearchAnswersService,
    private readonly identity: IdentityService,
    private readonly aliases: AliasesService,
    private readonly sweeps: SweepsService,
    private readonly journal: JournalService,
  ) {}

  /** Fills an empty catalogue from the seed's file, where there is one. */
  async start(): Promise<void> {
    const { seedFile } = this.config;
    if (!seedFile) return;
    if ((await this.shortcutRows.count()) > 0) return;
    const seed = JSON.parse(await readFile(seedFile, 'utf8')) as Seed;
    const here = this.places.all().filter((p) => p.state === 'here');
    await Promise.all(here.map((p) => this.scans.scan(p.entity.id)));
    const { halfLifeDays } = await this.settings.all();
    let made = 0;
    const idOf = new Map<string, string>();
    for (const item of seed.shortcuts) {
      const target = item.programId ? { programId: item.programId } : { typed: item.path ?? item.url! };
      try {
        const id = item.recorded
          ? await this.lost(item.name, item.recorded)
          : await this.shortcuts.add({ ...target, name: item.name, description: item.description, pin: item.pin });
        if (item.picture) await this.shortcuts.change(id, { picture: item.picture });
        if (item.alsoCalled) await this.shortcuts.change(id, { alsoCalled: item.alsoCalled });
        await this.openings(id, item.name, item.openings ?? [], halfLifeDays);
        idOf.set(item.name, id);
        made++;
      } catch (error) {
        this.log.warn(`${item.name}: ${(error as Error).message}`);
      }
    }
    await this.gatherings(seed, idOf).catch((error: Error) => this.log.warn(error.message));
    for (const board of seed.boards ?? [])
      await this.board(board, idOf).catch((error: Error) => this.log.warn(error.message));
    for (const sweep of seed.sweeps ?? [])
      await this.sweep(sweep, idOf).catch((error: Error) => this.log.warn(error.message));
    for (const { path, openings } of seed.withoutShortcut ?? []) await this.walked(path, openings);
    // as old as the openings: what was pinned a moment ago is left alone by the plan
    await this.pins.placedSince(SEEDED_WEEKS);
    // a person would not want to undo the seed line by line
    await this.journal.beginStackAnew();
    this.log.log(`the seed made ${made} shortcuts`);
  }

  /** A shortcut to what was there once: no inode of this disk is its. */
  private async lost(
    name: string,
    { path, ...known }: NonNullable<Seed['shortcuts'][number]['recorded']>,
  ): Promise<string> {
    const place = this.places.placeOf(path);
    if (!place) throw new Error('its place is not there');
    const relative = path.slice(place.entity.root.length + 1);
    const identity: Identity = { ...known, type: 'file', path: relative, inode: 0, birth: 1 };
    const { kind } = describe('file', nameOf(relative));
    const row = { target: 'original', kind, place_id: place.entity.id, original_id: null, identity } as const;
    const id = randomUUID();
    await this.journal.act({ act: 'add-shortcut', summary: `Added “${name}”` }, (tx) =>
      this.shortcuts.insert(tx, { id, name, description: '', row }),
    );
    await this.identity.examine([id]);
    return id;
  }

  private async gatherings(seed: Seed, idOf: ReadonlyMap<string, string>): Promise<void> {
    const known = (names: readonly string[] | undefined, ids: ReadonlyMap<string, string>) =>
      (names ?? []).flatMap((name) => ids.get(name) ?? []);
    const bearers = new Map<string, string[]>();
    for (const { name, tags = [], goesWith = [] } of seed.shortcuts) {
      const id = idOf.get(name);
      if (!id) continue;
      for (const tag of tags) bearers.set(tag, [...(bearers.get(tag) ?? []), id]);
      for (const withId of known(goesWith, idOf)) await this.goesWith.add(id, { withId });
    }
    const tagOf = new Map<string, string>();
    for (const [name, shortcutIds] of bearers) tagOf.set(name, await this.tags.add({ name, shortcutIds }));
    const collectionOf = new Map<string, string>();
    for (const c of seed.collections ?? []) {
      const folder = c.path ? await this.originals.locate(c.path).catch(() => undefined) : undefined;
      if (c.type === 'mirror' && !folder) {
        this.log.warn(`${c.name}: its folder is not there`);
        continue;
      }
      const tonight = new Date(new Date().setHours(24, 0, 0, 0)).toISOString();
      const id = await this.collections.add({
        name: c.name,
        type: c.type,
        description: c.description,
        colour: c.colour,
        picture: c.picture,
        ...(c.untilTonight && { until: tonight }),
        shortcutIds: known(c.members, idOf),
        collectionIds: known(c.members, collectionOf),
        ...(folder && { folder: { placeId: folder.placeId, originalId: folder.originalId } }),
      });
      collectionOf.set(c.name, id);
      if (c.pin) await this.pins.pin({ target: 'collection', id }, c.slot);
    }
    for (const { collection, folder } of seed.publications ?? []) {
      const sourceId = collectionOf.get(collection);
      if (sourceId) await this.aliases.publish({ source: 'collection', sourceId, folder });
    }
    for (const search of seed.searches ?? []) await this.sizes(await this.searches.add(search), search.query ?? '');
    for (const { name, keys, filter } of seed.quickFilters ?? []) {
      const { tag, collection, ...rest } = filter;
      await this.quickFilters.add({
        name,
        keys,
        filter: {
          ...rest,
          ...(tag && tagOf.has(tag) && { tag: tagOf.get(tag)! }),
          ...(collection && collectionOf.has(collection) && { collection: collectionOf.get(collection)! }),
        },
      });
    }
  }

  private async sweep(sweep: NonNullable<Seed['sweeps']>[number], idOf: ReadonlyMap<string, string>): Promise<void> {
    const folders = await Promise.all(sweep.folders.map((path) => this.originals.locate(path)));
    await this.sweeps.add({
      ...sweep,
      byItself: false,
      folders: folders.map(({ placeId, originalId }) => ({ placeId, originalId })),
      rules: sweep.rules.map(({ shortcut, ...rule }) => ({
        ...rule,
        ...(shortcut !== undefined && { shortcutId: idOf.get(shortcut) }),
      })),
    });
  }

  private async board({ name, regions }: NonNullable<Seed['boards']>[number], idOf: ReadonlyMap<string, string>) {
    const id = await this.boards.add({ name });
    for (const [i, { name: region, order, items, bundle }] of regions.entries()) {
      // a board begins with one region
      const [first] = (await this.boards.layout(id)).regions;
      const regionId = i === 0 ? first!.id : await this.boards.addRegion(id, { name: region, order });
      if (i === 0) await this.boards.changeRegion(id, regionId, { name: region, order });
      for (const item of items) {
        const [named, x, y] = typeof item === 'string' ? [item] : item;
        const shortcutId = idOf.get(named);
        if (shortcutId) await this.boardItems.put(id, { shortcutIds: [shortcutId], regionId, x, y });
      }
      if (!bundle) continue;
      const shortcutIds = bundle.items.flatMap((item) => idOf.get(item) ?? []);
      await this.boardItems.put(id, { shortcutIds, regionId });
      const lying = (await this.boards.layout(id)).items.filter((item) => shortcutIds.includes(item.shortcutId));
      await this.boardItems.gather(id, { itemIds: lying.map((item) => item.id), name: bundle.name });
      const made = (await this.boards.layout(id)).bundles.find((b) => b.regionId === regionId);
      if (made) await this.boardItems.changeBundle(id, made.id, { x: bundle.x, y: bundle.y });
    }
  }

  /** As if it had been kept for a while: how many there were at the end of each day, by when they were changed last. */
  private async sizes(id: string, query: string): Promise<void> {
    const { answers } = await this.searchAnswers.ask({ query, limit: 500 });
    await this.searchRows.seedSizes(
      id,
      answers.flatMap((a) => a.modified ?? []),
      SEEDED_DAYS,
    );
  }

  /** Openings of what has no shortcut. */
  private async walked(path: string, at: number[]): Promise<void> {
    const found = await this.originals.locate(path).catch(() => undefined);
    if (!found) return;
    const { placeId, originalId } = found;
    await this.openingRows.addOfOriginal({ placeId, originalId, name: nameOf(path) }, at);
  }

  private async openings(id: string, name: string, at: number[], halfLifeDays: number): Promise<void> {
    if (at.length > 0) await this.openingRows.addOfShortcut(id, name, at, halfLifeDays);
  }
}
