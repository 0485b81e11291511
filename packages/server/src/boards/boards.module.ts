import { Module } from '@nestjs/common';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { BoardsController } from './boards.controller.js';
import { BoardsRepository } from './boards.repository.js';
import { BoardsService } from './boards.service.js';

@Module({
  imports: [ShortcutsModule],
  controllers: [BoardsController],
  providers: [BoardsRepository, BoardsService],
  exports: [BoardsRepository, BoardsService],
})
export class BoardsModule {}
