/** What is asked of shortcuts, with its bounds. */
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsInt,
  IsNotEmpty,
  IsString,
  IsUUID,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { Optional, Nullable, IsPlaceId, IsRowId } from '../../http/validation.js';
import type {
  GoesWith,
  NewNames,
  NewShortcut,
  NewShortcuts,
  OpenWith,
  OriginalId,
  PlaceId,
  ProgramId,
  Repoint,
  ShortcutIds,
  ShortcutPatch,
  TypedPath,
} from '@rellin/contract';

export class NewShortcutDto implements NewShortcut {
  @Optional() @IsPlaceId() placeId?: PlaceId;
  @Optional() @IsRowId() originalId?: OriginalId;
  @Optional() @IsString() @MaxLength(500) programId?: ProgramId;
  @Optional() @IsString() @MaxLength(4096) url?: string;
  @Optional() @IsString() @MaxLength(8192) typed?: string;
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsString() @MaxLength(20_000) description?: string;
  @Optional() @IsBoolean() pin?: boolean;
  @Optional() @IsInt() @Min(1) slot?: number;
}

export class NewShortcutsDto implements NewShortcuts {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => NewShortcutDto)
  items: NewShortcutDto[];
  @Optional() @IsArray() @ArrayMaxSize(100) @IsUUID(undefined, { each: true }) collectionIds?: string[];
  @Optional() @IsArray() @ArrayMaxSize(100) @IsUUID(undefined, { each: true }) tagIds?: string[];
  @Optional() @IsBoolean() pin?: boolean;
  @Optional() @IsInt() @Min(1) slot?: number;
}

export class MeantDto implements TypedPath {
  @IsString() @IsNotEmpty() @MaxLength(8192) path: string;
}

export class ShortcutIdsDto implements ShortcutIds {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) ids: string[];
}

export class ShortcutPatchDto implements ShortcutPatch {
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsString() @MaxLength(20_000) description?: string;
  @Optional()
  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @MaxLength(300, { each: true })
  alsoCalled?: string[];
  @Optional() @Nullable() @IsString() @MaxLength(40) keys?: string | null;
  /** As core's parsePicture reads it. */
  @Optional() @IsString() @MaxLength(80) picture?: string;
}

export class OpenWithDto extends ShortcutIdsDto implements OpenWith {
  /** A program's id; null leaves it to the kind and the system. */
  @Nullable() @IsString() @MaxLength(500) programId: ProgramId | null;
}

export class GoesWithDto implements GoesWith {
  @Optional() @IsUUID() withId?: string;
  @Optional() @IsPlaceId() placeId?: PlaceId;
  @Optional() @IsRowId() originalId?: OriginalId;
  @Optional() @IsString() @MaxLength(500) programId?: ProgramId;
  @Optional() @IsString() @MaxLength(8192) typed?: string;
}

export class NewNameDto {
  @IsUUID() id: string;
  @IsString() @MaxLength(300) name: string;
}

export class NewNamesDto implements NewNames {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => NewNameDto)
  names: NewNameDto[];
}

export class RepointDto implements Repoint {
  @IsString() @MaxLength(8192) typed: string;
}
