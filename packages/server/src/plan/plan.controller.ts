import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { ArrayMaxSize, ArrayNotEmpty, IsArray, IsIn, IsString, MaxLength } from 'class-validator';
import { PlanService } from './plan.service.js';
import { PlanChartsService } from './planCharts.service.js';

export class ApplyBody {
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(200)
  @IsString({ each: true })
  @MaxLength(2000, { each: true })
  ids: string[];
}

export class AnswerBody {
  @IsString() @MaxLength(2000) id: string;
  @IsIn(['later', 'never']) answer: 'later' | 'never';
}

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
  apply(@Body() body: ApplyBody) {
    return this.plan.apply(body.ids);
  }

  @Post('answer')
  @HttpCode(204)
  answer(@Body() body: AnswerBody) {
    return this.plan.answer(body.id, body.answer);
  }

  @Post('ask-again')
  @HttpCode(204)
  askAgain() {
    return this.plan.askAgain();
  }
}
