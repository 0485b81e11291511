/** What is asked of browsing, with its bounds. */
import { IsBoolean, IsString, MaxLength } from 'class-validator';
import { Transform } from 'class-transformer';
import type { ChooserQuery } from '@rellin/contract';
import { Optional } from '../../http/validation.js';

export class ChooserQueryDto implements ChooserQuery {
  @IsString() @MaxLength(4096) path: string;
  @Optional()
  @Transform(({ value }: { value: unknown }) => (value === 'true' ? true : value === 'false' ? false : value))
  @IsBoolean()
  hidden?: boolean;
}
