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
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { FolderRef } from '../collections/collections.controller.js';
import type { Kind } from '@rellin/core/kinds';
import { REACH_CONSTANTS } from '@rellin/core/reach';
import type { SettingsView } from '@rellin/contract';
import { KeysService } from '../keys/keys.service.js';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from './settings.service.js';
import { Optional, Nullable } from '../http/validation.js';

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
  @Optional() @IsInt() @Min(40) @Max(1000) width?: number;
}

export class SettingsPatch {
  @Optional() @IsInt() @Min(1) @Max(30) pinLimit?: number;
  @Optional() @IsNumber() @Min(0.25) @Max(20) pinWorth?: number;
  @Optional() @IsIn(['system', 'light', 'dark']) appearance?: SettingsView['appearance'];
  @Optional() @IsInt() @Min(1) @Max(90) halfLifeDays?: number;
  @Optional() @IsIn(['reach', 'catalogue', 'originals']) startView?: SettingsView['startView'];
  @Optional()
  @Nullable()
  @ValidateNested()
  @Type(() => FolderRef)
  startFolder?: FolderRef | null;
  @Optional()
  @IsArray()
  @ArrayMaxSize(30)
  @ValidateNested({ each: true })
  @Type(() => ColumnChoice)
  catalogueColumns?: ColumnChoice[];
  @Optional() @IsIn(CATALOGUE_SHAPES) catalogueShape?: SettingsView['catalogueShape'];
  @Optional() @IsArray() @ArrayMaxSize(20) @IsIn(CONTENT_KINDS, { each: true }) contentKinds?: Kind[];
  @Optional() @IsInt() @Min(0) @Max(1_000_000_000) contentLimit?: number;
  @Optional() @IsObject() reachConstants?: Record<string, number>;
  @Optional() @IsIn(['here', 'window', 'key', 'entry']) coming?: SettingsView['coming'];
  @Optional() @IsIn(['when-alone', 'at-once', 'never']) letterKeys?: SettingsView['letterKeys'];
  @Optional() @IsObject() keyMap?: Record<string, string>;
  @Optional() @IsBoolean() showHidden?: boolean;
  @Optional() @IsBoolean() recording?: boolean;
  @Optional() @IsBoolean() recentFiles?: boolean;
}

@ApiTags('settings')
@Controller('settings')
export class SettingsController {
  constructor(
    private readonly settings: SettingsService,
    private readonly keys: KeysService,
  ) {}

  @Get()
  all() {
    return this.settings.all();
  }

  @Patch()
  async change(@Body() patch: SettingsPatch) {
    if (patch.keyMap) await this.keys.checkMap(patch.keyMap);
    for (const [name, value] of Object.entries(patch.reachConstants ?? {}))
      if (!(name in REACH_CONSTANTS) || typeof value !== 'number' || !(value >= 0 && value <= 60))
        throw new Refusal('not-valid', `${name} must be a number of seconds from 0 to 60.`);
    return this.settings.change(patch);
  }
}
