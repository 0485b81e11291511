import { Module } from '@nestjs/common';
import { BoardsModule } from '../boards/boards.module.js';
import { FinderModule } from '../finder/finder.module.js';
import { MemoryIndexModule } from '../memoryIndex/memoryIndex.module.js';
import { PinsModule } from '../pins/pins.module.js';
import { PlacesModule } from '../places/places.module.js';
import { ProgramsModule } from '../programs/programs.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { LikelyService } from './likely.service.js';
import { ReachController } from './reach.controller.js';
import { ReachRepository } from './reach.repository.js';
import { ReachService } from './reach.service.js';

@Module({
  imports: [BoardsModule, FinderModule, MemoryIndexModule, PinsModule, PlacesModule, ProgramsModule, SettingsModule],
  controllers: [ReachController],
  providers: [ReachRepository, LikelyService, ReachService],
  exports: [LikelyService, ReachService],
})
export class ReachModule {}
