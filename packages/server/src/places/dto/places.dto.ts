/** What is asked of places, with its bounds. */
import { ArrayMaxSize, IsArray, IsIn, IsNotEmpty, IsString, MaxLength } from 'class-validator';
import type { PlaceType } from '@rellin/contract';
import { Optional } from '../../http/validation.js';
import type { NewPlace, PlacePatch, TypedPath } from '@rellin/contract';

export class NewPlaceDto implements NewPlace {
  @IsString() @IsNotEmpty() @MaxLength(4096) root: string;
  @Optional() @IsString() @MaxLength(200) name?: string;
  @Optional() @IsIn(['fixed', 'removable', 'network']) type?: PlaceType;
  @Optional() @IsArray() @ArrayMaxSize(500) @IsString({ each: true }) excludes?: string[];
}

export class PlacePatchDto implements PlacePatch {
  @Optional() @IsString() @IsNotEmpty() @MaxLength(200) name?: string;
  @Optional() @IsArray() @ArrayMaxSize(500) @IsString({ each: true }) excludes?: string[];
}

export class TypedFolderDto implements TypedPath {
  @IsString() @MaxLength(4096) path: string;
}
