import { Body, Controller, Get, Patch } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { REACH_CONSTANTS } from '@rellin/core/reach';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from './settings.service.js';
import { SettingsPatchDto } from './dto/settings.dto.js';

@ApiTags('settings')
@Controller('settings')
export class SettingsController {
  constructor(private readonly settings: SettingsService) {}

  @Get()
  all() {
    return this.settings.all();
  }

  @Patch()
  async change(@Body() patch: SettingsPatchDto) {
    for (const [name, value] of Object.entries(patch.reachConstants ?? {}))
      if (!(name in REACH_CONSTANTS) || typeof value !== 'number' || !(value >= 0 && value <= 60))
        throw new Refusal('not-valid', `${name} must be a number of seconds from 0 to 60.`);
    return this.settings.change(patch);
  }
}
