/** All features, joined by the pipeline; configuration, database, journal and events are there for each of them. */
import { type DynamicModule, Module } from '@nestjs/common';
import { ActivityModule } from './activity/activity.module.js';
import { AliasesModule } from './aliases/aliases.module.js';
import { BelongsModule } from './belongs/belongs.module.js';
import { BinModule } from './bin/bin.module.js';
import { BoardsModule } from './boards/boards.module.js';
import { CatalogueModule } from './catalogue/catalogue.module.js';
import { CheckUpModule } from './checkUp/checkUp.module.js';
import { ChooseModule } from './choose/choose.module.js';
import { CollectionsModule } from './collections/collections.module.js';
import { ContentsModule } from './contents/contents.module.js';
import { DatabaseModule } from './database/database.module.js';
import { DiskModule } from './disk/disk.module.js';
import { EventsModule } from './events/events.module.js';
import { ExampleModule } from './example/example.module.js';
import { FilingModule } from './filing/filing.module.js';
import { FindModule } from './find/find.module.js';
import { FinderModule } from './finder/finder.module.js';
import { HealthModule } from './health/health.module.js';
import { IdentityModule } from './identity/identity.module.js';
import { IndexingModule } from './indexing/indexing.module.js';
import { JournalModule } from './journal/journal.module.js';
import { KeysModule } from './keys/keys.module.js';
import { MemoryIndexModule } from './memoryIndex/memoryIndex.module.js';
import { OpeningsModule } from './openings/openings.module.js';
import { OriginalsModule } from './originals/originals.module.js';
import { PicturesModule } from './pictures/pictures.module.js';
import { PinsModule } from './pins/pins.module.js';
import { PlacesModule } from './places/places.module.js';
import { PlanModule } from './plan/plan.module.js';
import { ProgramsModule } from './programs/programs.module.js';
import { QuickFiltersModule } from './quickFilters/quickFilters.module.js';
import { ReachModule } from './reach/reach.module.js';
import { RecentFilesModule } from './recentFiles/recentFiles.module.js';
import { SearchesModule } from './searches/searches.module.js';
import { SeedModule } from './seed/seed.module.js';
import { SessionModule } from './session/session.module.js';
import { SetUpModule } from './setUp/setUp.module.js';
import { SettingsModule } from './settings/settings.module.js';
import { ShortcutsModule } from './shortcuts/shortcuts.module.js';
import { SweepsModule } from './sweeps/sweeps.module.js';
import { TagsModule } from './tags/tags.module.js';
import { Pipeline } from './application/pipeline.js';
import { CONFIG, type Config } from './config/config.js';

@Module({
  imports: [
    ActivityModule,
    AliasesModule,
    BelongsModule,
    BinModule,
    BoardsModule,
    CatalogueModule,
    CheckUpModule,
    ChooseModule,
    CollectionsModule,
    ContentsModule,
    DatabaseModule,
    DiskModule,
    EventsModule,
    ExampleModule,
    FilingModule,
    FindModule,
    FinderModule,
    HealthModule,
    IdentityModule,
    IndexingModule,
    JournalModule,
    KeysModule,
    MemoryIndexModule,
    OpeningsModule,
    OriginalsModule,
    PicturesModule,
    PinsModule,
    PlacesModule,
    PlanModule,
    ProgramsModule,
    QuickFiltersModule,
    ReachModule,
    RecentFilesModule,
    SearchesModule,
    SeedModule,
    SessionModule,
    SetUpModule,
    SettingsModule,
    ShortcutsModule,
    SweepsModule,
    TagsModule,
  ],
})
export class AppModule {
  static with(config: Config): DynamicModule {
    return {
      module: AppModule,
      global: true,
      providers: [{ provide: CONFIG, useValue: config }, Pipeline],
      exports: [CONFIG],
    };
  }
}
