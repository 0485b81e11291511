/** What several endpoints are asked by, with its bounds. */
import { IsIn, IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import type {
  FromQuery,
  LimitQuery,
  ListShape,
  OriginalId,
  OriginalRef,
  PlaceId,
  ProgramId,
  TargetRef,
} from '@rellin/contract';
import { AsNumber, IsPlaceId, IsRowId, Optional } from './validation.js';

export const LIST_SHAPES: ListShape[] = ['table', 'small-tiles', 'medium-tiles', 'large-tiles', 'compact', 'preview'];

export class OriginalRefDto implements OriginalRef {
  @IsPlaceId() placeId: PlaceId;
  @IsRowId() originalId: OriginalId;
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
