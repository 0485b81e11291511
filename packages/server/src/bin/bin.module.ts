import { Module } from '@nestjs/common';
import { FilingModule } from '../filing/filing.module.js';
import { PicturesModule } from '../pictures/pictures.module.js';
import { BinController } from './bin.controller.js';
import { BinService } from './bin.service.js';
import { BoardsModule } from '../boards/boards.module.js';
import { CollectionsModule } from '../collections/collections.module.js';
import { SearchesModule } from '../searches/searches.module.js';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';

@Module({
  imports: [BoardsModule, CollectionsModule, FilingModule, PicturesModule, SearchesModule, ShortcutsModule],
  controllers: [BinController],
  providers: [BinService],
})
export class BinModule {}
