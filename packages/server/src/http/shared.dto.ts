/** What several endpoints are asked by, with its bounds. */
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsString,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import type { ClashChoice } from '@rellin/core/filing';
import type {
  FromQuery,
  LimitQuery,
  ListShape,
  OriginalId,
  OriginalRef,
  OriginalRefs,
  PlaceId,
  ProgramId,
  TargetRef,
} from '@rellin/contract';
import { AsNumber, IsPlaceId, IsRowId, Optional } from './validation.js';

export const LIST_SHAPES: ListShape[] = ['table', 'small-tiles', 'medium-tiles', 'large-tiles', 'compact', 'preview'];

export const CLASH_CHOICES: ClashChoice[] = ['keep-both', 'replace', 'skip'];

export class OriginalRefDto implements OriginalRef {
  @IsPlaceId() placeId: PlaceId;
  @IsRowId() originalId: OriginalId;
}

export class OriginalRefsDto implements OriginalRefs {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => OriginalRefDto)
  originals: OriginalRefDto[];
}

export class TargetRefDto implements TargetRef {
  @Optional() @IsPlaceId() placeId?: PlaceId;
  @Optional() @IsRowId() originalId?: OriginalId;
  @Optional() @IsString() @MaxLength(500) programId?: ProgramId;
  @Optional() @IsString() @MaxLength(8192) typed?: string;
}

export class FromQueryDto implements FromQuery {
  @Optional() @IsIn(['catalogue', 'bin']) from?: 'catalogue' | 'bin';
}

export class LimitQueryDto implements LimitQuery {
  @Optional() @AsNumber() @IsInt() @Min(1) @Max(200) limit?: number;
}
