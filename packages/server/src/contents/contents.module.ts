import { Module } from '@nestjs/common';
import { ActivityModule } from '../activity/activity.module.js';
import { DiskModule } from '../disk/disk.module.js';
import { MemoryIndexModule } from '../memoryIndex/memoryIndex.module.js';
import { PlacesModule } from '../places/places.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { ContentsService } from './contents.service.js';
import { ContentsRepository } from './contents.repository.js';

@Module({
  imports: [ActivityModule, DiskModule, MemoryIndexModule, PlacesModule, SettingsModule],
  providers: [ContentsRepository, ContentsService],
})
export class ContentsModule {}
