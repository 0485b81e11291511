import { Module } from '@nestjs/common';
import { CONFIG, type Config } from '../config/config.js';
import { DiskModule } from '../disk/disk.module.js';
import { FinderModule } from '../finder/finder.module.js';
import { IdentityModule } from '../identity/identity.module.js';
import { IndexingModule } from '../indexing/indexing.module.js';
import { MemoryIndexModule } from '../memoryIndex/memoryIndex.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PlacesModule } from '../places/places.module.js';
import { ProgramsModule } from '../programs/programs.module.js';
import { ReachModule } from '../reach/reach.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { UsageSummaryService } from './usageSummary.service.js';
import { OPENER, SystemOpener, ViewerOpener } from './opener.js';
import { OpeningsController } from './openings.controller.js';
import { OpeningsRepository } from './openings.repository.js';
import { OpeningsService } from './openings.service.js';
import { UsagePublisherService } from './usagePublisher.service.js';

@Module({
  imports: [
    DiskModule,
    FinderModule,
    IdentityModule,
    IndexingModule,
    MemoryIndexModule,
    OriginalsModule,
    PlacesModule,
    ProgramsModule,
    ReachModule,
    SettingsModule,
    ShortcutsModule,
  ],
  controllers: [OpeningsController],
  providers: [
    OpeningsRepository,
    UsageSummaryService,
    OpeningsService,
    UsagePublisherService,
    {
      provide: OPENER,
      inject: [CONFIG],
      useFactory: (config: Config) => (config.opener === 'viewer' ? new ViewerOpener() : new SystemOpener()),
    },
  ],
  exports: [OpeningsRepository, UsagePublisherService],
})
export class OpeningsModule {}
