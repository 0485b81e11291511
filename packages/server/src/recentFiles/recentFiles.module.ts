import { Module } from '@nestjs/common';
import { OpeningsModule } from '../openings/openings.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PlacesModule } from '../places/places.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { RecentFilesRepository } from './recentFiles.repository.js';
import { RecentFilesService } from './recentFiles.service.js';

@Module({
  imports: [OpeningsModule, OriginalsModule, PlacesModule, SettingsModule],
  providers: [RecentFilesRepository, RecentFilesService],
})
export class RecentFilesModule {}
