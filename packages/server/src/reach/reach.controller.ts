import { Controller, Get, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { IsInt, Max, Min } from 'class-validator';
import { LikelyService } from './likely.service.js';
import { AsNumber, Optional } from '../http/validation.js';

export class LikelyQuery {
  @Optional() @AsNumber() @IsInt() @Min(1) @Max(50) limit?: number;
}

@ApiTags('reach')
@Controller('reach')
export class ReachController {
  constructor(private readonly likely: LikelyService) {}

  @Get('likely')
  next(@Query() query: LikelyQuery) {
    return this.likely.likely(query.limit ?? 7);
  }
}
