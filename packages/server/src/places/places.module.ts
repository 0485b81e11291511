import { Module } from '@nestjs/common';
import { ActivityModule } from '../activity/activity.module.js';
import { DiskModule } from '../disk/disk.module.js';
import { IndexingModule } from '../indexing/indexing.module.js';
import { PlaceSearchService } from './placeSearch.service.js';
import { PlacesController } from './places.controller.js';
import { PlacesService } from './places.service.js';

@Module({
  imports: [ActivityModule, DiskModule, IndexingModule],
  controllers: [PlacesController],
  providers: [PlaceSearchService, PlacesService],
  exports: [PlacesService],
})
export class PlacesModule {}
