import { Module } from '@nestjs/common';
import { DiskModule } from '../disk/disk.module.js';
import { IdentityModule } from '../identity/identity.module.js';
import { KeysModule } from '../keys/keys.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PinsModule } from '../pins/pins.module.js';
import { PlacesModule } from '../places/places.module.js';
import { ProgramsModule } from '../programs/programs.module.js';
import { GoesWithService } from './goesWith.service.js';
import { ShortcutsRepository } from './shortcuts.repository.js';
import { ShortcutsService } from './shortcuts.service.js';

@Module({
  imports: [DiskModule, IdentityModule, KeysModule, OriginalsModule, PinsModule, PlacesModule, ProgramsModule],
  providers: [ShortcutsRepository, GoesWithService, ShortcutsService],
  exports: [ShortcutsRepository, GoesWithService, ShortcutsService],
})
export class ShortcutsModule {}
