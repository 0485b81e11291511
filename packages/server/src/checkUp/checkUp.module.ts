import { Module } from '@nestjs/common';
import { ActivityModule } from '../activity/activity.module.js';
import { DiskModule } from '../disk/disk.module.js';
import { IdentityModule } from '../identity/identity.module.js';
import { MemoryIndexModule } from '../memoryIndex/memoryIndex.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PinsModule } from '../pins/pins.module.js';
import { PlacesModule } from '../places/places.module.js';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { CandidatesService } from './candidates.service.js';
import { CheckUpController } from './checkUp.controller.js';
import { CheckUpRepository } from './checkUp.repository.js';
import { CheckUpService } from './checkUp.service.js';

@Module({
  imports: [
    ActivityModule,
    DiskModule,
    IdentityModule,
    MemoryIndexModule,
    OriginalsModule,
    PinsModule,
    PlacesModule,
    ShortcutsModule,
  ],
  controllers: [CheckUpController],
  providers: [CheckUpRepository, CandidatesService, CheckUpService],
  exports: [CheckUpService],
})
export class CheckUpModule {}
