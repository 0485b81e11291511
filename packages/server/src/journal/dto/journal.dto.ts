/** What is asked of journal, with its bounds. */
import { IsInt, Max, Min } from 'class-validator';
import { AsNumber, IsRowId, Optional } from '../../http/validation.js';
import type { JournalQuery } from '@rellin/contract';

export class JournalQueryDto implements JournalQuery {
  @Optional() @IsRowId() before?: number;
  @Optional() @AsNumber() @IsInt() @Min(1) @Max(500) limit?: number;
}
