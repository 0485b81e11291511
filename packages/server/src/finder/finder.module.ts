import { Module } from '@nestjs/common';
import { MemoryIndexModule } from '../memoryIndex/memoryIndex.module.js';
import { PlacesModule } from '../places/places.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { TagsModule } from '../tags/tags.module.js';
import { FinderService } from './finder.service.js';
import { FinderRepository } from './finder.repository.js';

@Module({
  imports: [MemoryIndexModule, PlacesModule, SettingsModule, TagsModule],
  providers: [FinderRepository, FinderService],
  exports: [FinderService],
})
export class FinderModule {}
