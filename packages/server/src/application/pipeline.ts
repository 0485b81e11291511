/**
 * What follows what. No service subscribes to another by itself: one that has to do something when the catalogue, the
 * disk or the programs change has the method of that name, and stands here in the order in which it is called. How to
 * add one is in docs/architecture.md.
 */
import { Injectable, type OnApplicationBootstrap, type OnModuleInit, type Type } from '@nestjs/common';
import { ModuleRef } from '@nestjs/core';
import { LinksService } from '../aliases/links.service.js';
import { BelongsService } from '../belongs/belongs.service.js';
import { BinService } from '../bin/bin.service.js';
import { BoardItemsService } from '../boards/boardItems.service.js';
import { CheckUpService } from '../checkUp/checkUp.service.js';
import { CollectionsService } from '../collections/collections.service.js';
import { ContentsService } from '../contents/contents.service.js';
import { EventsService, type AfterTold } from '../events/events.service.js';
import { ExampleService } from '../example/example.service.js';
import { FilingService } from '../filing/filing.service.js';
import { FinderService } from '../finder/finder.service.js';
import { DigestsService } from '../identity/digests.service.js';
import { IdentityService } from '../identity/identity.service.js';
import { IndexerService, type AfterLook } from '../indexing/indexer.service.js';
import { JournalService, type AfterAct, type WithinAct } from '../journal/journal.service.js';
import { MemoryIndexService, type AfterIndex } from '../memoryIndex/memoryIndex.service.js';
import { OpeningsService } from '../openings/openings.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PicturesService } from '../pictures/pictures.service.js';
import { PlaceMonitor } from '../places/placeMonitor.service.js';
import { PlaceNews, type AfterDisk, type BeforeScan } from '../places/placeNews.js';
import { PlacesService } from '../places/places.service.js';
import { ScanScheduler } from '../places/scanScheduler.service.js';
import { PlanService } from '../plan/plan.service.js';
import { AssociationsService } from '../programs/associations.service.js';
import { ProgramsService, type AfterPrograms } from '../programs/programs.service.js';
import { LikelyService } from '../reach/likely.service.js';
import { RecentFilesService } from '../recentFiles/recentFiles.service.js';
import { SearchNewsService } from '../searches/searchNews.service.js';
import { SeedService } from '../seed/seed.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { SweepRunService } from '../sweeps/sweepRun.service.js';
import { SweepsService } from '../sweeps/sweeps.service.js';

interface Starts {
  start(): Promise<void> | void;
}

type All<T> = readonly Type<T>[];

/**
 * In the act's own transaction, also of an undo and a redo: rows derived from rows first, then files, which are slow.
 */
const withinAct: All<WithinAct> = [
  IdentityService,
  OpeningsService,
  BoardItemsService,
  CollectionsService,
  SweepRunService,
  AssociationsService,
  FilingService,
];

/**
 * Once the act can no longer fail: what was known is forgotten first, then what tells threads, then what writes to
 * disk.
 */
const afterAct: All<AfterAct> = [
  SettingsService,
  PlanService,
  LikelyService,
  CheckUpService,
  PlacesService,
  MemoryIndexService,
  FinderService,
  SearchNewsService,
  ContentsService,
  IdentityService,
  FilingService,
  SweepsService,
  RecentFilesService,
  LinksService,
];

/** Before a place is looked through. */
const beforeScan: All<BeforeScan> = [MemoryIndexService];

/**
 * After something changed on disk, or a place came or went, one after the other: whether it is looked through, the
 * index in memory, filings that were left half-way, where
 * shortcuts lead now, then what is made from that: links, digests, contents, published searches, the check-up;
 * last what other programs opened in a new place.
 */
const afterDisk: All<AfterDisk> = [
  ScanScheduler,
  OriginalsService,
  MemoryIndexService,
  FinderService,
  FilingService,
  IdentityService,
  LinksService,
  DigestsService,
  ContentsService,
  SearchNewsService,
  CheckUpService,
  BelongsService,
  SweepsService,
  RecentFilesService,
];

/** After the indexing thread looked at a place. */
const afterLook: All<AfterLook> = [ScanScheduler];

/** After the index in memory found that kept answers changed. */
const afterIndex: All<AfterIndex> = [SearchNewsService];

/** After programs were installed, changed or removed. */
const afterPrograms: All<AfterPrograms> = [PicturesService, IdentityService, LinksService];

/** After pages were told that something changed. */
const afterTold: All<AfterTold> = [PlanService, CheckUpService];

/**
 * Before the server listens, one after the other. Searches first, so that their answers are kept from the first look
 * on; then places, and what looks at their files; links once everything they show is known; the seed into a server that
 * works.
 */
const start: All<Starts> = [
  SearchNewsService,
  PlacesService,
  PlaceMonitor,
  ScanScheduler,
  MemoryIndexService,
  DigestsService,
  ContentsService,
  FilingService,
  IdentityService,
  FinderService,
  CollectionsService,
  BinService,
  CheckUpService,
  LinksService,
  SeedService,
  RecentFilesService,
  SweepsService,
  ExampleService,
];

export const PIPELINE = {
  withinAct,
  afterAct,
  beforeScan,
  afterDisk,
  afterLook,
  afterIndex,
  afterPrograms,
  afterTold,
  start,
} as const;

/** Joins the parts by the lists above, then starts them. */
@Injectable()
export class Pipeline implements OnModuleInit, OnApplicationBootstrap {
  constructor(private readonly modules: ModuleRef) {}

  private all<T>(types: All<T>): T[] {
    return types.map((type) => this.modules.get(type, { strict: false }));
  }

  onModuleInit(): void {
    const { modules } = this;
    const get = <T>(type: Type<T>): T => modules.get(type, { strict: false });
    get(JournalService).followedBy(this.all(withinAct), this.all(afterAct));
    get(PlaceNews).followedBy(this.all(beforeScan), this.all(afterDisk));
    get(IndexerService).followedBy(this.all(afterLook));
    get(MemoryIndexService).followedBy(this.all(afterIndex));
    get(ProgramsService).followedBy(this.all(afterPrograms));
    get(EventsService).followedBy(this.all(afterTold));
  }

  async onApplicationBootstrap(): Promise<void> {
    for (const one of this.all(start)) await one.start();
  }
}
