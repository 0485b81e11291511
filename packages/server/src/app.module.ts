import { type DynamicModule, Module } from '@nestjs/common';
import { ActivityController } from './activity/activity.controller.js';
import { ActivityService } from './activity/activity.service.js';
import { BinController } from './bin/bin.controller.js';
import { BinService } from './bin/bin.service.js';
import { CollectionsController } from './collections/collections.controller.js';
import { CollectionsRepository } from './collections/collections.repository.js';
import { CollectionsService } from './collections/collections.service.js';
import { CONFIG, type Config } from './config/config.js';
import { DatabaseModule } from './database/database.module.js';
import { FilingController } from './filing/filing.controller.js';
import { FilingService } from './filing/filing.service.js';
import { FindController } from './find/find.controller.js';
import { FindService } from './find/find.service.js';
import { HealthController } from './health/health.controller.js';
import { IdentityService } from './identity/identity.service.js';
import { IndexerService } from './indexing/indexer.service.js';
import { KeysService } from './keys/keys.service.js';
import { JournalModule } from './journal/journal.module.js';
import { OPENER, SystemOpener, ViewerOpener } from './openings/opener.js';
import { OpeningsController } from './openings/openings.controller.js';
import { OpeningsService } from './openings/openings.service.js';
import { OriginalsController } from './originals/originals.controller.js';
import { OriginalsRepository } from './originals/originals.repository.js';
import { OriginalsService } from './originals/originals.service.js';
import { PinsController } from './pins/pins.controller.js';
import { PinsService } from './pins/pins.service.js';
import { PlacesController } from './places/places.controller.js';
import { PlacesService } from './places/places.service.js';
import { ProgramsController } from './programs/programs.controller.js';
import { ProgramsService } from './programs/programs.service.js';
import { ReachService } from './reach/reach.service.js';
import { SeedService } from './seed/seed.service.js';
import { EnterController, SessionController } from './session/session.controller.js';
import { SessionService } from './session/session.service.js';
import { SettingsController } from './settings/settings.controller.js';
import { SettingsService } from './settings/settings.service.js';
import { GoesWithService } from './shortcuts/goesWith.service.js';
import { ShortcutsController } from './shortcuts/shortcuts.controller.js';
import { ShortcutsService } from './shortcuts/shortcuts.service.js';
import { ShortcutViewsService } from './shortcuts/shortcutViews.service.js';
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
        BinController,
        CollectionsController,
        EnterController,
        FilingController,
        FindController,
        HealthController,
        OpeningsController,
        OriginalsController,
        PinsController,
        PlacesController,
        ProgramsController,
        SessionController,
        SettingsController,
        ShortcutsController,
        TagsController,
      ],
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: OPENER, useFactory: () => (config.opener === 'viewer' ? new ViewerOpener() : new SystemOpener()) },
        ActivityService,
        BinService,
        CollectionsRepository,
        CollectionsService,
        GoesWithService,
        TagsService,
        FilingService,
        FindService,
        IdentityService,
        IndexerService,
        KeysService,
        OpeningsService,
        OriginalsRepository,
        OriginalsService,
        PinsService,
        PlacesService,
        ProgramsService,
        ReachService,
        SeedService,
        SessionService,
        SettingsService,
        ShortcutsService,
        ShortcutViewsService,
      ],
      exports: [CONFIG],
    };
  }
}
