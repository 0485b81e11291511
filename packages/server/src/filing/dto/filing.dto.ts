/** What is asked of filing, with its bounds. */
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsString,
  IsUUID,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import type { ClashChoice } from '@rellin/core/filing';
import { Optional, IsPlaceId, IsRowId } from '../../http/validation.js';
import type {
  FilingRequest,
  FilingTarget,
  OriginalId,
  OriginalName,
  OriginalNames,
  PlaceId,
  ShortcutId,
  UploadQuery,
} from '@rellin/contract';
import { CLASH_CHOICES, OriginalRefDto } from '../../http/shared.dto.js';

export class FilingTargetDto implements FilingTarget {
  @Optional() @IsUUID() shortcutId?: ShortcutId;
  @Optional() @IsPlaceId() placeId?: PlaceId;
  @Optional() @IsRowId() originalId?: OriginalId;
  @Optional() @IsString() @MaxLength(255) newFolder?: string;
}

export class FilingRequestDto implements FilingRequest {
  @Optional() @IsArray() @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) shortcutIds?: ShortcutId[];
  @Optional()
  @IsArray()
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => OriginalRefDto)
  originals?: OriginalRefDto[];
  @ValidateNested() @Type(() => FilingTargetDto) into: FilingTargetDto;
  @IsIn(['move', 'copy']) how: 'move' | 'copy';
  @Optional() @IsIn(CLASH_CHOICES) clash?: ClashChoice;
}

class OriginalNameDto extends OriginalRefDto implements OriginalName {
  @IsString() @MaxLength(255) name: string;
}

export class OriginalNamesDto implements OriginalNames {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => OriginalNameDto)
  names: OriginalNameDto[];
}

export class UploadQueryDto extends FilingTargetDto implements UploadQuery {
  @IsString() @MaxLength(255) name: string;
  @Optional() @IsIn(CLASH_CHOICES) clash?: ClashChoice;
}
