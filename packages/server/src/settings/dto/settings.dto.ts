/** What is asked of settings, with its bounds. */
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
import type { Kind } from '@rellin/core/kinds';
import type { FolderShape, ListShape, SettingsView } from '@rellin/contract';
import { Optional, Nullable } from '../../http/validation.js';
import type { SettingsPatch } from '@rellin/contract';
import { LIST_SHAPES, OriginalRefDto } from '../../http/shared.dto.js';

/** Kinds whose files may hold text. */
const CONTENT_KINDS: Kind[] = ['text', 'document', 'pdf', 'table', 'web', 'source', 'map'];

const CATALOGUE_SHAPES: SettingsView['catalogueShape'][] = [
  'table',
  'small-tiles',
  'medium-tiles',
  'large-tiles',
  'compact',
];

export class ColumnChoiceDto {
  @Matches(/^[a-z-]{1,20}$/) id: string;
  /** Pixels; without it the column takes what is left. */
  @Optional() @IsInt() @Min(40) @Max(1000) width?: number;
}

class ListShapesDto {
  @Optional() @IsIn([...LIST_SHAPES, 'side-by-side']) originals?: FolderShape;
  @Optional() @IsIn(LIST_SHAPES) members?: ListShape;
}

export class SettingsPatchDto implements SettingsPatch {
  @Optional() @IsInt() @Min(1) @Max(30) pinLimit?: number;
  @Optional() @IsNumber() @Min(0.25) @Max(20) pinWorth?: number;
  @Optional() @IsIn(['system', 'light', 'dark']) appearance?: SettingsView['appearance'];
  @Optional() @IsInt() @Min(1) @Max(90) halfLifeDays?: number;
  @Optional() @IsIn(['reach', 'catalogue', 'originals', 'boards']) startView?: SettingsView['startView'];
  @Optional()
  @Nullable()
  @ValidateNested()
  @Type(() => OriginalRefDto)
  startFolder?: OriginalRefDto | null;
  @Optional()
  @IsArray()
  @ArrayMaxSize(30)
  @ValidateNested({ each: true })
  @Type(() => ColumnChoiceDto)
  catalogueColumns?: ColumnChoiceDto[];
  @Optional() @ValidateNested() @Type(() => ListShapesDto) listShapes?: ListShapesDto;
  @Optional() @IsIn(CATALOGUE_SHAPES) catalogueShape?: SettingsView['catalogueShape'];
  @Optional() @IsArray() @ArrayMaxSize(20) @IsIn(CONTENT_KINDS, { each: true }) contentKinds?: Kind[];
  @Optional() @IsInt() @Min(0) @Max(1_000_000_000) contentLimit?: number;
  @Optional() @IsObject() reachConstants?: Record<string, number>;
  @Optional() @IsIn(['here', 'window', 'key', 'entry']) coming?: SettingsView['coming'];
  @Optional() @IsIn(['when-alone', 'at-once', 'never']) letterKeys?: SettingsView['letterKeys'];
  @Optional() @IsObject() keyMap?: Record<string, string>;
  @Optional() @IsIn(['open', 'done', 'skipped']) setUp?: SettingsView['setUp'];
  @Optional() @IsBoolean() showHidden?: boolean;
  @Optional() @IsBoolean() recording?: boolean;
  @Optional() @IsBoolean() recentFiles?: boolean;
}
