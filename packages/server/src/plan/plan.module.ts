import { Module } from '@nestjs/common';
import { CheckUpModule } from '../checkUp/checkUp.module.js';
import { FinderModule } from '../finder/finder.module.js';
import { KeysModule } from '../keys/keys.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PinsModule } from '../pins/pins.module.js';
import { ReachModule } from '../reach/reach.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { TagsModule } from '../tags/tags.module.js';
import { PlanController } from './plan.controller.js';
import { PlanService } from './plan.service.js';
import { PlanChartsService } from './planCharts.service.js';

@Module({
  imports: [
    CheckUpModule,
    FinderModule,
    KeysModule,
    OriginalsModule,
    PinsModule,
    ReachModule,
    SettingsModule,
    ShortcutsModule,
    TagsModule,
  ],
  controllers: [PlanController],
  providers: [PlanChartsService, PlanService],
})
export class PlanModule {}
