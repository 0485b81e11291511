import { Module } from '@nestjs/common';
import { MemoryIndexModule } from '../memoryIndex/memoryIndex.module.js';
import { PlacesModule } from '../places/places.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { TagsModule } from '../tags/tags.module.js';
import { FinderService } from './finder.service.js';

@Module({
  imports: [MemoryIndexModule, PlacesModule, SettingsModule, TagsModule],
  providers: [FinderService],
  exports: [FinderService],
})
export class FinderModule {}
