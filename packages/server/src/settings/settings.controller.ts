import { Body, Controller, Get, Patch } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { IsIn, IsInt, IsObject, IsOptional, Max, Min } from 'class-validator';
import { REACH_CONSTANTS } from '@rellin/core/reach';
import type { SettingsView } from '@rellin/contract';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from './settings.service.js';

export class SettingsPatch {
  @IsOptional() @IsInt() @Min(1) @Max(30) pinLimit?: number;
  @IsOptional() @IsIn(['system', 'light', 'dark']) appearance?: SettingsView['appearance'];
  @IsOptional() @IsInt() @Min(1) @Max(90) halfLifeDays?: number;
  @IsOptional() @IsIn(['reach', 'catalogue', 'originals']) startView?: SettingsView['startView'];
  @IsOptional() @IsObject() reachConstants?: Record<string, number>;
}

@ApiTags('settings')
@Controller('settings')
export class SettingsController {
  constructor(private readonly settings: SettingsService) {}

  @Get()
  all() {
    return this.settings.all();
  }

  @Patch()
  change(@Body() patch: SettingsPatch) {
    for (const [name, value] of Object.entries(patch.reachConstants ?? {}))
      if (!(name in REACH_CONSTANTS) || typeof value !== 'number' || !(value >= 0 && value <= 60))
        throw new Refusal('not-valid', `${name} must be a number of seconds from 0 to 60.`);
    return this.settings.change(patch);
  }
}
