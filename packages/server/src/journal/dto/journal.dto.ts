/** What is asked of journal, with its bounds. */
import { IsInt, Matches, Max, Min } from 'class-validator';
import { AsNumber, Optional } from '../../http/validation.js';
import type { JournalQuery } from '@rellin/contract';

export class JournalQueryDto implements JournalQuery {
  @Optional() @Matches(/^\d{1,18}$/) before?: string;
  @Optional() @AsNumber() @IsInt() @Min(1) @Max(500) limit?: number;
}

export class JournalParamsDto {
  @Matches(/^\d{1,18}$/) id: string;
}
