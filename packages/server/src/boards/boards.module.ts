import { Module } from '@nestjs/common';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { BoardsController } from './boards.controller.js';
import { BoardsRepository } from './boards.repository.js';
import { BoardsService } from './boards.service.js';
import { BoardActs } from './boardActs.service.js';
import { BoardItemsService } from './boardItems.service.js';

@Module({
  imports: [ShortcutsModule],
  controllers: [BoardsController],
  providers: [BoardsRepository, BoardActs, BoardsService, BoardItemsService],
  exports: [BoardsRepository, BoardsService, BoardItemsService],
})
export class BoardsModule {}
