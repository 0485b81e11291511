import { type DynamicModule, Module } from '@nestjs/common';
import { ActivityController } from './activity/activity.controller.js';
import { ActivityService } from './activity/activity.service.js';
import { AliasesController } from './aliases/aliases.controller.js';
import { AliasesService } from './aliases/aliases.service.js';
import { ByHandService } from './aliases/byHand.service.js';
import { FoundLinksService } from './aliases/foundLinks.service.js';
import { LinkScopeRepository } from './aliases/linkScope.repository.js';
import { LinksService } from './aliases/links.service.js';
import { MenusService } from './aliases/menus.service.js';
import { WantedLinksService } from './aliases/wantedLinks.service.js';
import { WrittenLinksRepository } from './aliases/writtenLinks.repository.js';
import { BinController } from './bin/bin.controller.js';
import { BinService } from './bin/bin.service.js';
import { BoardsController } from './boards/boards.controller.js';
import { BoardsRepository } from './boards/boards.repository.js';
import { BoardsService } from './boards/boards.service.js';
import { CandidatesService } from './checkUp/candidates.service.js';
import { CheckUpController } from './checkUp/checkUp.controller.js';
import { CheckUpService } from './checkUp/checkUp.service.js';
import { CollectionsController } from './collections/collections.controller.js';
import { CollectionsRepository } from './collections/collections.repository.js';
import { CollectionsService } from './collections/collections.service.js';
import { CONFIG, type Config } from './config/config.js';
import { ContentsService } from './contents/contents.service.js';
import { DatabaseModule } from './database/database.module.js';
import { DiskService } from './disk/disk.service.js';
import { FilingController } from './filing/filing.controller.js';
import { MoverService } from './filing/mover.service.js';
import { FilingService } from './filing/filing.service.js';
import { FindController } from './find/find.controller.js';
import { FinderService } from './finder/finder.service.js';
import { HealthController } from './health/health.controller.js';
import { IdentityService } from './identity/identity.service.js';
import { DigestsService } from './identity/digests.service.js';
import { LookingService } from './identity/looking.service.js';
import { IndexerService } from './indexing/indexer.service.js';
import { KeysService } from './keys/keys.service.js';
import { JournalModule } from './journal/journal.module.js';
import { MemoryIndexService } from './memoryIndex/memoryIndex.service.js';
import { OPENER, SystemOpener, ViewerOpener } from './openings/opener.js';
import { OpeningsController } from './openings/openings.controller.js';
import { OpeningsService } from './openings/openings.service.js';
import { OriginalsController } from './originals/originals.controller.js';
import { OriginalsRepository } from './originals/originals.repository.js';
import { OriginalsService } from './originals/originals.service.js';
import { PicturesController } from './pictures/pictures.controller.js';
import { PicturesService } from './pictures/pictures.service.js';
import { PinsController } from './pins/pins.controller.js';
import { PinsService } from './pins/pins.service.js';
import { PlaceSearchService } from './places/placeSearch.service.js';
import { PlacesController } from './places/places.controller.js';
import { PlacesService } from './places/places.service.js';
import { AssociationsService } from './programs/associations.service.js';
import { ProgramsController } from './programs/programs.controller.js';
import { ProgramsService } from './programs/programs.service.js';
import { QuickFiltersController } from './quickFilters/quickFilters.controller.js';
import { QuickFiltersService } from './quickFilters/quickFilters.service.js';
import { KnownUseService } from './openings/knownUse.service.js';
import { UsageToldService } from './openings/usageTold.service.js';
import { RecentFilesService } from './recentFiles/recentFiles.service.js';
import { LikelyService } from './reach/likely.service.js';
import { ReachController } from './reach/reach.controller.js';
import { PlanController } from './plan/plan.controller.js';
import { PlanService } from './plan/plan.service.js';
import { PlanChartsService } from './plan/planCharts.service.js';
import { ReachService } from './reach/reach.service.js';
import { SeedService } from './seed/seed.service.js';
import { SearchesController } from './searches/searches.controller.js';
import { SearchesService } from './searches/searches.service.js';
import { EventsController } from './events/events.controller.js';
import { EnterController, SessionController } from './session/session.controller.js';
import { SessionService } from './session/session.service.js';
import { SettingsController } from './settings/settings.controller.js';
import { SettingsService } from './settings/settings.service.js';
import { GoesWithService } from './shortcuts/goesWith.service.js';
import { ShortcutsController } from './catalogue/shortcuts.controller.js';
import { ShortcutsService } from './shortcuts/shortcuts.service.js';
import { ShortcutViewsService } from './catalogue/shortcutViews.service.js';
import { TagsController } from './tags/tags.controller.js';
import { TagsService } from './tags/tags.service.js';

@Module({})
export class AppModule {
  static with(config: Config): DynamicModule {
    return {
      module: AppModule,
      global: true,
      imports: [DatabaseModule, JournalModule],
      controllers: [
        ActivityController,
        AliasesController,
        BinController,
        BoardsController,
        CheckUpController,
        CollectionsController,
        EnterController,
        EventsController,
        FilingController,
        FindController,
        HealthController,
        OpeningsController,
        OriginalsController,
        PicturesController,
        PinsController,
        PlacesController,
        PlanController,
        ProgramsController,
        QuickFiltersController,
        ReachController,
        SearchesController,
        SessionController,
        SettingsController,
        ShortcutsController,
        TagsController,
      ],
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: OPENER, useFactory: () => (config.opener === 'viewer' ? new ViewerOpener() : new SystemOpener()) },
        ActivityService,
        AliasesService,
        AssociationsService,
        BinService,
        BoardsRepository,
        BoardsService,
        ByHandService,
        CandidatesService,
        CheckUpService,
        CollectionsRepository,
        CollectionsService,
        ContentsService,
        DigestsService,
        DiskService,
        GoesWithService,
        TagsService,
        FilingService,
        FinderService,
        FoundLinksService,
        IdentityService,
        IndexerService,
        KeysService,
        KnownUseService,
        UsageToldService,
        RecentFilesService,
        LikelyService,
        LinkScopeRepository,
        LinksService,
        LookingService,
        MemoryIndexService,
        MenusService,
        MoverService,
        OpeningsService,
        OriginalsRepository,
        OriginalsService,
        PicturesService,
        PinsService,
        PlaceSearchService,
        PlacesService,
        PlanService,
        PlanChartsService,
        ProgramsService,
        QuickFiltersService,
        ReachService,
        SearchesService,
        SeedService,
        SessionService,
        SettingsService,
        ShortcutsService,
        ShortcutViewsService,
        WantedLinksService,
        WrittenLinksRepository,
      ],
      exports: [CONFIG],
    };
  }
}
