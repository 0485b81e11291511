import { Module } from '@nestjs/common';
import { BoardsModule } from '../boards/boards.module.js';
import { CheckUpModule } from '../checkUp/checkUp.module.js';
import { CollectionsModule } from '../collections/collections.module.js';
import { FinderModule } from '../finder/finder.module.js';
import { KeysModule } from '../keys/keys.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PinsModule } from '../pins/pins.module.js';
import { ReachModule } from '../reach/reach.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { TagsModule } from '../tags/tags.module.js';
import { PlanController } from './plan.controller.js';
import { PlanApplier } from './planApplier.service.js';
import { PlanInputsService } from './planInputs.service.js';
import { PlanRepository } from './plan.repository.js';
import { PlanService } from './plan.service.js';
import { PlanChartsService } from './planCharts.service.js';
import { OpeningsModule } from '../openings/openings.module.js';

@Module({
  imports: [
    BoardsModule,
    CheckUpModule,
    CollectionsModule,
    FinderModule,
    KeysModule,
    OpeningsModule,
    OriginalsModule,
    PinsModule,
    ReachModule,
    SettingsModule,
    ShortcutsModule,
    TagsModule,
  ],
  controllers: [PlanController],
  providers: [PlanRepository, PlanInputsService, PlanApplier, PlanService, PlanChartsService],
})
export class PlanModule {}
