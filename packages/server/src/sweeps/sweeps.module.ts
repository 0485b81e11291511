import { Module } from '@nestjs/common';
import { ActivityModule } from '../activity/activity.module.js';
import { BelongsModule } from '../belongs/belongs.module.js';
import { DiskModule } from '../disk/disk.module.js';
import { FilingModule } from '../filing/filing.module.js';
import { IndexingModule } from '../indexing/indexing.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PinsModule } from '../pins/pins.module.js';
import { PlacesModule } from '../places/places.module.js';
import { SearchesModule } from '../searches/searches.module.js';
import { TagsModule } from '../tags/tags.module.js';
import { SweepPlanService } from './sweepPlan.service.js';
import { SweepRunService } from './sweepRun.service.js';
import { SweepsController } from './sweeps.controller.js';
import { SweepsRepository } from './sweeps.repository.js';
import { SweepsService } from './sweeps.service.js';
import { SweptFolders } from './sweptFolders.service.js';

@Module({
  imports: [
    ActivityModule,
    BelongsModule,
    DiskModule,
    FilingModule,
    IndexingModule,
    OriginalsModule,
    PinsModule,
    PlacesModule,
    SearchesModule,
    TagsModule,
  ],
  controllers: [SweepsController],
  providers: [SweepsRepository, SweptFolders, SweepPlanService, SweepRunService, SweepsService],
  exports: [SweepsService],
})
export class SweepsModule {}
