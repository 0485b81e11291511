/** What several endpoints are asked by, with its bounds. */
import { IsIn, IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import type { FromQuery, LimitQuery, OriginalRef, TargetRef } from '@rellin/contract';
import { AsNumber, IsPlaceId, IsRowId, Optional } from './validation.js';

export class OriginalRefDto implements OriginalRef {
  @IsPlaceId() placeId: number;
  @IsRowId() originalId: number;
}

export class TargetRefDto implements TargetRef {
  @Optional() @IsPlaceId() placeId?: number;
  @Optional() @IsRowId() originalId?: number;
  @Optional() @IsString() @MaxLength(500) programId?: string;
  @Optional() @IsString() @MaxLength(8192) typed?: string;
}

export class FromQueryDto implements FromQuery {
  @Optional() @IsIn(['catalogue', 'bin']) from?: 'catalogue' | 'bin';
}

export class LimitQueryDto implements LimitQuery {
  @Optional() @AsNumber() @IsInt() @Min(1) @Max(200) limit?: number;
}
