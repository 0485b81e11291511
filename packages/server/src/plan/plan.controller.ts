import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { PlanService } from './plan.service.js';
import { PlanChartsService } from './planCharts.service.js';
import { SuggestionIdsDto, SuggestionAnswerDto } from './dto/plan.dto.js';

@ApiTags('plan')
@Controller('plan')
export class PlanController {
  constructor(
    private readonly plan: PlanService,
    private readonly planCharts: PlanChartsService,
  ) {}

  @Get()
  view() {
    return this.plan.view();
  }

  @Get('charts')
  charts() {
    return this.planCharts.view();
  }

  @Post('apply')
  @HttpCode(204)
  apply(@Body() body: SuggestionIdsDto) {
    return this.plan.apply(body.ids);
  }

  @Post('answer')
  @HttpCode(204)
  answer(@Body() body: SuggestionAnswerDto) {
    return this.plan.answer(body.id, body.answer);
  }

  @Post('ask-again')
  @HttpCode(204)
  askAgain() {
    return this.plan.askAgain();
  }
}
