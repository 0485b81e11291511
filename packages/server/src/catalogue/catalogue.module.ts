import { Module } from '@nestjs/common';
import { BoardsModule } from '../boards/boards.module.js';
import { CollectionsModule } from '../collections/collections.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PinsModule } from '../pins/pins.module.js';
import { ReachModule } from '../reach/reach.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { TagsModule } from '../tags/tags.module.js';
import { NewShortcutsService } from './newShortcuts.service.js';
import { ShortcutViewsService } from './shortcutViews.service.js';
import { ShortcutsController } from './shortcuts.controller.js';
import { OpeningsModule } from '../openings/openings.module.js';
import { PlacesModule } from '../places/places.module.js';

@Module({
  imports: [
    BoardsModule,
    CollectionsModule,
    OpeningsModule,
    OriginalsModule,
    PinsModule,
    PlacesModule,
    ReachModule,
    SettingsModule,
    ShortcutsModule,
    TagsModule,
  ],
  controllers: [ShortcutsController],
  providers: [ShortcutViewsService, NewShortcutsService],
  exports: [ShortcutViewsService],
})
export class CatalogueModule {}
