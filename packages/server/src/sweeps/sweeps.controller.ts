import type { SweepId } from '@rellin/contract';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { NewSweepDto, SweepPatchDto, SweepQuestionDto, SweepRequestDto } from './dto/sweeps.dto.js';
import { SweepPlanService } from './sweepPlan.service.js';
import { SweepRunService } from './sweepRun.service.js';
import { SweepsService } from './sweeps.service.js';

@ApiTags('sweeps')
@Controller('sweeps')
export class SweepsController {
  constructor(
    private readonly sweeps: SweepsService,
    private readonly plans: SweepPlanService,
    private readonly runs: SweepRunService,
  ) {}

  @Get()
  list() {
    return this.sweeps.list();
  }

  @Get('log')
  log() {
    return this.runs.logged();
  }

  /** What a sweep would do; nothing is done. */
  @Post('plan')
  @HttpCode(200)
  plan(@Body() body: SweepQuestionDto) {
    return this.plans.plan(body);
  }

  /** In one act; what cannot go is left and said. */
  @Post('run')
  @HttpCode(200)
  run(@Body() body: SweepRequestDto) {
    return this.runs.run(body);
  }

  @Post()
  add(@Body() body: NewSweepDto) {
    return this.sweeps.add(body);
  }

  @Patch(':id')
  change(@Param('id', ParseUUIDPipe) id: SweepId, @Body() body: SweepPatchDto) {
    return this.sweeps.change(id, body);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: SweepId) {
    return this.sweeps.remove(id);
  }
}
