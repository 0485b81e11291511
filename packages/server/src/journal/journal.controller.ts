import { Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { IsInt, Matches, Max, Min } from 'class-validator';
import { JournalService } from './journal.service.js';
import { AsNumber, Optional } from '../http/validation.js';

export class JournalQuery {
  @Optional() @Matches(/^\d{1,18}$/) before?: string;
  @Optional() @AsNumber() @IsInt() @Min(1) @Max(500) limit?: number;
}

export class JournalParams {
  @Matches(/^\d{1,18}$/) id: string;
}

@ApiTags('journal')
@Controller('journal')
export class JournalController {
  constructor(private readonly journal: JournalService) {}

  @Get()
  list(@Query() query: JournalQuery) {
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
  undoLine(@Param() params: JournalParams) {
    return this.journal.undo(params.id);
  }
}
