import { Module } from '@nestjs/common';
import { KeysModule } from '../keys/keys.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { CollectionsController } from './collections.controller.js';
import { CollectionsRepository } from './collections.repository.js';
import { CollectionsService } from './collections.service.js';

@Module({
  imports: [KeysModule, OriginalsModule, ShortcutsModule],
  controllers: [CollectionsController],
  providers: [CollectionsRepository, CollectionsService],
  exports: [CollectionsRepository, CollectionsService],
})
export class CollectionsModule {}
