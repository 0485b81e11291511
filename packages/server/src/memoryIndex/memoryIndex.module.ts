import { Module } from '@nestjs/common';
import { PlacesModule } from '../places/places.module.js';
import { MemoryIndexService } from './memoryIndex.service.js';

@Module({
  imports: [PlacesModule],
  providers: [MemoryIndexService],
  exports: [MemoryIndexService],
})
export class MemoryIndexModule {}
