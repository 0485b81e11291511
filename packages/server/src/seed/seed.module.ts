import { Module } from '@nestjs/common';
import { AliasesModule } from '../aliases/aliases.module.js';
import { BoardsModule } from '../boards/boards.module.js';
import { CollectionsModule } from '../collections/collections.module.js';
import { IdentityModule } from '../identity/identity.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PinsModule } from '../pins/pins.module.js';
import { PlacesModule } from '../places/places.module.js';
import { QuickFiltersModule } from '../quickFilters/quickFilters.module.js';
import { SearchesModule } from '../searches/searches.module.js';
import { SettingsModule } from '../settings/settings.module.js';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { SweepsModule } from '../sweeps/sweeps.module.js';
import { TagsModule } from '../tags/tags.module.js';
import { SeedService } from './seed.service.js';
import { OpeningsModule } from '../openings/openings.module.js';

@Module({
  imports: [
    AliasesModule,
    BoardsModule,
    CollectionsModule,
    IdentityModule,
    OpeningsModule,
    OriginalsModule,
    PinsModule,
    PlacesModule,
    QuickFiltersModule,
    SearchesModule,
    SettingsModule,
    ShortcutsModule,
    SweepsModule,
    TagsModule,
  ],
  providers: [SeedService],
})
export class SeedModule {}
