/** What is asked of pins, with its bounds. */
import { ArrayMaxSize, ArrayMinSize, IsArray, IsBoolean, IsIn, IsInt, IsUUID, Max, Min } from 'class-validator';
import type { PinTarget } from '@rellin/contract';
import { Optional } from '../../http/validation.js';
import type { NewPin, NewPins, PinPatch } from '@rellin/contract';

export class NewPinDto implements NewPin {
  @IsIn(['shortcut', 'collection', 'tag', 'search']) target: PinTarget;
  @IsUUID() targetId: string;
  @Optional() @IsInt() @Min(1) @Max(100) slot?: number;
}

export class NewPinsDto implements NewPins {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(100) @IsUUID(undefined, { each: true }) targetIds: string[];
}

export class PinPatchDto implements PinPatch {
  @Optional() @IsInt() @Min(1) @Max(100) slot?: number;
  @Optional() @IsBoolean() aside?: boolean;
  @Optional() @IsBoolean() kept?: boolean;
}
