/** What is asked of openings, with its bounds. */
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsISO8601,
  IsString,
  IsUUID,
  Matches,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import { Optional, IsPlaceId, IsRowId } from '../../http/validation.js';
import type { Forget, OpenRequest, OriginalId, PlaceId, ProgramId, ShortcutId } from '@rellin/contract';
import { OriginalRefDto } from '../../http/shared.dto.js';

export class OpenRequestDto implements OpenRequest {
  @Optional() @IsUUID() shortcutId?: ShortcutId;
  @Optional() @IsPlaceId() placeId?: PlaceId;
  @Optional() @IsRowId() originalId?: OriginalId;
  @Optional() @IsString() @MaxLength(500) programId?: ProgramId;
  @Optional() @IsString() @MaxLength(500) withProgramId?: ProgramId;
  /** For a program: originals to open with it. */
  @Optional()
  @IsArray()
  @ArrayMaxSize(100)
  @ValidateNested({ each: true })
  @Type(() => OriginalRefDto)
  files?: OriginalRefDto[];
  @Matches(/^[a-z-]{1,30}$/) route: string;
  /** False on the quiet screen: it is opened, and nothing of it is kept. */
  @Optional() @IsBoolean() record?: boolean;
  /** Answered only when it is known how it went, within about two seconds. */
  @Optional() @IsBoolean() wait?: boolean;
}

export class ForgetDto implements Forget {
  @Optional() @IsUUID() shortcutId?: ShortcutId;
  @Optional() @IsISO8601() from?: string;
  @Optional() @IsISO8601() to?: string;
}
