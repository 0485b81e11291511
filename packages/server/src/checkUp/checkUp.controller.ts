import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { CheckUpService } from './checkUp.service.js';
import { PointsRequestDto, LeaveAloneDto, SilenceDto } from './dto/checkUp.dto.js';

@ApiTags('check-up')
@Controller('check-up')
export class CheckUpController {
  constructor(private readonly checkUp: CheckUpService) {}

  @Get()
  view() {
    return this.checkUp.view();
  }

  @Get('review')
  review() {
    return this.checkUp.review();
  }

  /** Begins; how it goes on is told with the activity, where it can be stopped. */
  @Post('now')
  @HttpCode(202)
  now() {
    void this.checkUp.now().catch(() => undefined);
  }

  @Post('point')
  @HttpCode(204)
  point(@Body() body: PointsRequestDto) {
    return this.checkUp.point(body.points, body.moved);
  }

  @Post('leave')
  @HttpCode(204)
  leave(@Body() body: LeaveAloneDto) {
    return this.checkUp.leave(body.shortcutIds, body.leftAlone);
  }

  @Post('silence')
  @HttpCode(204)
  silence(@Body() body: SilenceDto) {
    return this.checkUp.silence(body.id);
  }
}
