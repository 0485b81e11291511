/** What is asked of originals, with its bounds. */
import { IsIn, IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import { type EntrySort } from '../originals.service.js';
import { AsNumber, Optional, IsRowId } from '../../http/validation.js';
import type { FolderQuery, OriginalId, TypedPath } from '@rellin/contract';

export class FolderQueryDto implements FolderQuery {
  @Optional() @IsIn(['name', 'kind', 'size', 'modified']) sort?: EntrySort;
  @Optional() @IsIn(['up', 'down']) order?: 'up' | 'down';
  @Optional() @AsNumber() @IsInt() @Min(0) offset?: number;
  @Optional() @AsNumber() @IsInt() @Min(1) @Max(500) limit?: number;
  /** An entry whose position is asked for. */
  @Optional() @IsRowId() at?: OriginalId;
}

export class TypedPathDto implements TypedPath {
  @IsString() @MaxLength(8192) path: string;
}
