/** What is asked of checkUp, with its bounds. */
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsString,
  IsUUID,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import { Optional, IsPlaceId, IsRowId } from '../../http/validation.js';
import type {
  LeaveAlone,
  MovedFolder,
  OriginalId,
  PlaceId,
  PointRequest,
  PointsRequest,
  ShortcutId,
  Silence,
} from '@rellin/contract';

const MOST = 20_000;

export class PointRequestDto implements PointRequest {
  @IsUUID() shortcutId: ShortcutId;
  @IsPlaceId() placeId: PlaceId;
  @IsRowId() originalId: OriginalId;
}

/** A folder that moved, in words for the journal. */
export class MovedFolderDto implements MovedFolder {
  @IsString() @MaxLength(8192) from: string;
  @IsString() @MaxLength(8192) to: string;
}

export class PointsRequestDto implements PointsRequest {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST)
  @ValidateNested({ each: true })
  @Type(() => PointRequestDto)
  points: PointRequestDto[];
  @Optional() @ValidateNested() @Type(() => MovedFolderDto) moved?: MovedFolderDto;
}

export class LeaveAloneDto implements LeaveAlone {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(MOST) @IsUUID(undefined, { each: true }) shortcutIds: ShortcutId[];
  @IsBoolean() leftAlone: boolean;
}

export class SilenceDto implements Silence {
  @IsString() @MaxLength(100_000) id: string;
}
