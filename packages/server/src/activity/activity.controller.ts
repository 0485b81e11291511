import { Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { ActivityService } from './activity.service.js';

@ApiTags('activity')
@Controller('activity')
export class ActivityController {
  constructor(private readonly activity: ActivityService) {}

  @Get()
  list() {
    return this.activity.list();
  }

  @Post(':id/stop')
  @HttpCode(204)
  stop(@Param('id') id: string) {
    this.activity.stop(id);
  }
}
