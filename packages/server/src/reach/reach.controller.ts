import { Controller, Get, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { LikelyService } from './likely.service.js';
import { LimitQueryDto } from '../http/shared.dto.js';

@ApiTags('reach')
@Controller('reach')
export class ReachController {
  constructor(private readonly likely: LikelyService) {}

  @Get('likely')
  next(@Query() query: LimitQueryDto) {
    return this.likely.likely(query.limit ?? 7);
  }
}
