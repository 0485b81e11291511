import { Module } from '@nestjs/common';
import { ActivityModule } from '../activity/activity.module.js';
import { DiskModule } from '../disk/disk.module.js';
import { IdentityModule } from '../identity/identity.module.js';
import { IndexingModule } from '../indexing/indexing.module.js';
import { MemoryIndexModule } from '../memoryIndex/memoryIndex.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PlacesModule } from '../places/places.module.js';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { TagsModule } from '../tags/tags.module.js';
import { BinsService } from './bins.service.js';
import { DeletedController } from './deleted.controller.js';
import { DeletedService } from './deleted.service.js';
import { FilingController } from './filing.controller.js';
import { FilingRepository } from './filing.repository.js';
import { FilingService } from './filing.service.js';
import { MoverService } from './mover.service.js';
import { TagsAlongService } from './tagsAlong.service.js';
import { InPlaceService } from './inPlace.service.js';

@Module({
  imports: [
    ActivityModule,
    DiskModule,
    IdentityModule,
    IndexingModule,
    MemoryIndexModule,
    OriginalsModule,
    PlacesModule,
    ShortcutsModule,
    TagsModule,
  ],
  controllers: [FilingController, DeletedController],
  providers: [
    TagsAlongService,
    FilingRepository,
    FilingService,
    MoverService,
    InPlaceService,
    BinsService,
    DeletedService,
  ],
  exports: [BinsService, DeletedService, FilingService, MoverService],
})
export class FilingModule {}
