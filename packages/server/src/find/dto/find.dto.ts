/** What is asked of find, with its bounds. */
import { IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import { AsNumber, Optional } from '../../http/validation.js';
import type { FindQuery } from '@rellin/contract';

export class FindQueryDto implements FindQuery {
  @IsString() @MaxLength(300) q: string;
  @Optional() @AsNumber() @IsInt() @Min(1) @Max(100) limit?: number;
  /** Narrows by a condition in the language of saved searches. */
  @Optional() @IsString() @MaxLength(2000) where?: string;
}
