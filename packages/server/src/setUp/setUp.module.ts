import { Module } from '@nestjs/common';
import { BoardsModule } from '../boards/boards.module.js';
import { CollectionsModule } from '../collections/collections.module.js';
import { KeysModule } from '../keys/keys.module.js';
import { PinsModule } from '../pins/pins.module.js';
import { PlacesModule } from '../places/places.module.js';
import { ProgramsModule } from '../programs/programs.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { SetUpController } from './setUp.controller.js';
import { SetUpService } from './setUp.service.js';
import { TracesService } from './traces.service.js';
import { UsedThingsService } from './usedThings.service.js';

@Module({
  imports: [
    BoardsModule,
    CollectionsModule,
    KeysModule,
    PinsModule,
    PlacesModule,
    ProgramsModule,
    SettingsModule,
    ShortcutsModule,
  ],
  controllers: [SetUpController],
  providers: [TracesService, UsedThingsService, SetUpService],
})
export class SetUpModule {}
