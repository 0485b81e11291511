import type { JournalLineId } from '@rellin/contract';
import { Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { RowIdPipe } from '../http/validation.js';
import { JournalService } from './journal.service.js';
import { JournalQueryDto } from './dto/journal.dto.js';

@ApiTags('journal')
@Controller('journal')
export class JournalController {
  constructor(private readonly journal: JournalService) {}

  @Get()
  list(@Query() query: JournalQueryDto) {
    return this.journal.list(query.before, query.limit ?? 100);
  }

  @Post('undo')
  @HttpCode(200)
  undo() {
    return this.journal.undo();
  }

  @Post('redo')
  @HttpCode(200)
  redo() {
    return this.journal.redo();
  }

  @Post(':id/undo')
  @HttpCode(200)
  undoLine(@Param('id', RowIdPipe) id: JournalLineId) {
    return this.journal.undo(id);
  }
}
