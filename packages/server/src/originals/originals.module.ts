import { Module } from '@nestjs/common';
import { DiskModule } from '../disk/disk.module.js';
import { IndexingModule } from '../indexing/indexing.module.js';
import { PlacesModule } from '../places/places.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { OriginalsController } from './originals.controller.js';
import { OriginalsRepository } from './originals.repository.js';
import { OriginalsService } from './originals.service.js';

@Module({
  imports: [DiskModule, IndexingModule, PlacesModule, SettingsModule],
  controllers: [OriginalsController],
  providers: [OriginalsRepository, OriginalsService],
  exports: [OriginalsRepository, OriginalsService],
})
export class OriginalsModule {}
