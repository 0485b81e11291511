/** What is asked of the first steps, with its bounds. */
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsNotEmpty, IsString, MaxLength, ValidateNested } from 'class-validator';
import type { ChosenAddress, SetUpRequest, TypedPath, WayOfWorking } from '@rellin/contract';
import { Optional } from '../../http/validation.js';

class ChosenAddressDto implements ChosenAddress {
  @IsString() @IsNotEmpty() @MaxLength(4096) url: string;
  @IsString() @MaxLength(200) name: string;
}

export class SetUpDto implements SetUpRequest {
  @IsArray() @ArrayMaxSize(100) @IsString({ each: true }) @MaxLength(4096, { each: true }) folders: string[];
  @IsArray() @ArrayMaxSize(500) @IsString({ each: true }) @MaxLength(4200, { each: true }) things: string[];
  @Optional()
  @IsArray()
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => ChosenAddressDto)
  addresses?: ChosenAddressDto[];
  @IsIn(['rows', 'board']) way: WayOfWorking;
}

export class CountedFolderDto implements TypedPath {
  @IsString() @IsNotEmpty() @MaxLength(4096) path: string;
}
