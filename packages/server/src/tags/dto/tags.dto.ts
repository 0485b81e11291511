/** What is asked of tags, with its bounds. */
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsString, IsUUID, MaxLength, ValidateNested } from 'class-validator';
import { PALETTE } from '@rellin/core/palette';
import { Optional } from '../../http/validation.js';
import type { Bearers, NewTag, SearchId, ShortcutId, TagPatch } from '@rellin/contract';
import { OriginalRefDto } from '../../http/shared.dto.js';

export class BearersDto implements Bearers {
  @Optional() @IsArray() @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) shortcutIds?: ShortcutId[];
  @Optional() @IsArray() @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) searchIds?: SearchId[];
  @Optional()
  @IsArray()
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => OriginalRefDto)
  originals?: OriginalRefDto[];
}

export class NewTagDto extends BearersDto implements NewTag {
  @IsString() @MaxLength(100) name: string;
  @Optional() @IsIn(PALETTE) colour?: string;
}

export class TagPatchDto implements TagPatch {
  @Optional() @IsString() @MaxLength(100) name?: string;
  @Optional() @IsIn(PALETTE) colour?: string;
}
