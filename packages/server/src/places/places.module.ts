import { Module } from '@nestjs/common';
import { ActivityModule } from '../activity/activity.module.js';
import { DiskModule } from '../disk/disk.module.js';
import { IndexingModule } from '../indexing/indexing.module.js';
import { LookingService } from './looking.service.js';
import { OfferedFoldersService } from './offeredFolders.service.js';
import { PlaceMonitor } from './placeMonitor.service.js';
import { PlaceNews } from './placeNews.js';
import { PlaceRegistry } from './placeRegistry.js';
import { PlacesController } from './places.controller.js';
import { PlacesRepository } from './places.repository.js';
import { PlaceSearchService } from './placeSearch.service.js';
import { PlacesService } from './places.service.js';
import { ScanScheduler } from './scanScheduler.service.js';
import { UnfitFoldersService } from './unfitFolders.service.js';
import { FolderNamesService } from './folderNames.service.js';

@Module({
  imports: [ActivityModule, DiskModule, IndexingModule],
  controllers: [PlacesController],
  providers: [
    PlaceRegistry,
    PlacesRepository,
    PlaceNews,
    PlaceSearchService,
    UnfitFoldersService,
    PlaceMonitor,
    ScanScheduler,
    FolderNamesService,
    LookingService,
    OfferedFoldersService,
    PlacesService,
  ],
  exports: [
    PlacesRepository,
    PlaceRegistry,
    PlaceNews,
    PlaceMonitor,
    ScanScheduler,
    PlacesService,
    LookingService,
    OfferedFoldersService,
  ],
})
export class PlacesModule {}
