import { Body, Controller, Get, HttpCode, Param, ParseUUIDPipe, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { UsageSummaryService } from './usageSummary.service.js';
import { OpeningsService } from './openings.service.js';
import { LimitQueryDto } from '../http/shared.dto.js';
import { OpenRequestDto, ForgetDto } from './dto/openings.dto.js';

@ApiTags('openings')
@Controller('openings')
export class OpeningsController {
  constructor(
    private readonly openings: OpeningsService,
    private readonly usage: UsageSummaryService,
  ) {}

  @Post()
  @HttpCode(200)
  open(@Body() body: OpenRequestDto) {
    return this.openings.open(body);
  }

  /** Answers when it is known that a pending opening went well; a problem where it did not. */
  @Get(':id/outcome')
  @HttpCode(204)
  outcome(@Param('id', ParseUUIDPipe) id: string) {
    return this.openings.outcomeOf(id);
  }

  @Get()
  recent(@Query() query: LimitQueryDto) {
    return this.openings.recent(query.limit ?? 20);
  }

  @Get('summary')
  summary() {
    return this.usage.view();
  }

  @Get('all')
  all() {
    return this.usage.all();
  }

  @Post('forget')
  @HttpCode(200)
  async forget(@Body() { shortcutId, from, to }: ForgetDto) {
    const forgotten = await this.usage.forget({
      ...(shortcutId && { shortcutId }),
      ...(from && { from: new Date(from) }),
      ...(to && { to: new Date(to) }),
    });
    return { forgotten };
  }
}
