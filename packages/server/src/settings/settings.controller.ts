import { Body, Controller, Get, Patch } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsNumber,
  IsInt,
  IsObject,
  IsOptional,
  Matches,
  Max,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { FolderRef } from '../collections/collections.controller.js';
import type { Kind } from '@rellin/core/kinds';
import { REACH_CONSTANTS } from '@rellin/core/reach';
import type { SettingsView } from '@rellin/contract';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from './settings.service.js';

/** Kinds whose files may hold text. */
const CONTENT_KINDS: Kind[] = ['text', 'document', 'pdf', 'table', 'web', 'source', 'map'];
const CATALOGUE_SHAPES: SettingsView['catalogueShape'][] = [
  'table',
  'small-tiles',
  'medium-tiles',
  'large-tiles',
  'compact',
];

export class ColumnChoice {
  @Matches(/^[a-z-]{1,20}$/) id: string;
  /** Pixels; without it the column takes what is left. */
  @IsOptional() @IsInt() @Min(40) @Max(1000) width?: number;
}

export class SettingsPatch {
  @IsOptional() @IsInt() @Min(1) @Max(30) pinLimit?: number;
  @IsOptional() @IsNumber() @Min(0.25) @Max(20) pinWorth?: number;
  @IsOptional() @IsIn(['system', 'light', 'dark']) appearance?: SettingsView['appearance'];
  @IsOptional() @IsInt() @Min(1) @Max(90) halfLifeDays?: number;
  @IsOptional() @IsIn(['reach', 'catalogue', 'originals']) startView?: SettingsView['startView'];
  @IsOptional()
  @ValidateIf((_, value) => value !== null)
  @ValidateNested()
  @Type(() => FolderRef)
  startFolder?: FolderRef | null;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(30)
  @ValidateNested({ each: true })
  @Type(() => ColumnChoice)
  catalogueColumns?: ColumnChoice[];
  @IsOptional() @IsIn(CATALOGUE_SHAPES) catalogueShape?: SettingsView['catalogueShape'];
  @IsOptional() @IsArray() @ArrayMaxSize(20) @IsIn(CONTENT_KINDS, { each: true }) contentKinds?: Kind[];
  @IsOptional() @IsInt() @Min(0) @Max(1_000_000_000) contentLimit?: number;
  @IsOptional() @IsObject() reachConstants?: Record<string, number>;
  @IsOptional() @IsIn(['here', 'window', 'key', 'entry']) coming?: SettingsView['coming'];
  @IsOptional() @IsBoolean() recording?: boolean;
  @IsOptional() @IsBoolean() recentFiles?: boolean;
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
