/** What is asked of pictures, with its bounds. */
import { IsIn, IsString, Matches, MaxLength } from 'class-validator';
import { AsNumber, Optional } from '../../http/validation.js';

export class PictureParamDto {
  @Matches(/^[0-9a-f]{64}$/) id: string;
}

export class ProgramParamDto {
  @IsString() @MaxLength(500) id: string;
}

export class DrawingQueryDto {
  /** Changes with the file, so that the browser may keep what it got. */
  @Optional() @IsString() @MaxLength(40) v?: string;
}

export class ThumbnailQueryDto extends DrawingQueryDto {
  @Optional() @AsNumber() @IsIn([128, 256, 512]) side?: number;
}
