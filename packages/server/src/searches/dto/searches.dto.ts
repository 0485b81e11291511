/** What is asked of searches, with its bounds. */
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsString,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { ANSWER_ORDERS } from '@rellin/core/memoryIndex';
import { LONGEST } from '@rellin/core/query';
import type { CollectionId, SearchOrder, SearchShape, TagId } from '@rellin/contract';
import { LIST_SHAPES } from '../../http/shared.dto.js';
import { AsNumber, Optional, Nullable } from '../../http/validation.js';
import type { SearchQuestion, SearchPatch, NewSearch, AnswersQuery } from '@rellin/contract';

const SHAPES: SearchShape[] = [...LIST_SHAPES, 'folders', 'by-kind', 'by-month', 'by-place'];

export class SearchQuestionDto implements SearchQuestion {
  @IsString() @MaxLength(2 * LONGEST) query: string;
  @Optional() @Nullable() @IsArray() @ArrayMaxSize(100) @IsInt({ each: true }) places?: number[] | null;
  @Optional() @IsIn(ANSWER_ORDERS) sortBy?: SearchOrder;
  @Optional() @IsBoolean() descending?: boolean;
  @Optional() @IsInt() @Min(0) @Max(1_000_000) offset?: number;
  @Optional() @IsInt() @Min(0) @Max(500) limit?: number;
  /** Count what each row of the builder does. */
  @Optional() @IsBoolean() rows?: boolean;
}

export class SearchPatchDto implements SearchPatch {
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsString() @MaxLength(20_000) description?: string;
  @Optional() @IsString() @MaxLength(LONGEST) query?: string;
  @Optional() @Nullable() @IsArray() @ArrayMaxSize(100) @IsInt({ each: true }) places?: number[] | null;
  @Optional() @IsIn(SHAPES) showAs?: SearchShape;
  @Optional() @IsIn(ANSWER_ORDERS) sortBy?: SearchOrder;
  @Optional() @IsBoolean() descending?: boolean;
  @Optional() @IsInt() @Min(1) @Max(5000) most?: number;
  @Optional() @Matches(/^[a-z]{0,20}$/) colour?: string;
  @Optional() @Nullable() @IsString() @MaxLength(40) keys?: string | null;
  @Optional() @IsBoolean() muted?: boolean;
}

export class NewSearchDto extends SearchPatchDto implements NewSearch {
  @Optional() @IsArray() @ArrayMaxSize(100) @IsUUID(undefined, { each: true }) tagIds?: TagId[];
  @Optional() @IsUUID() collectionId?: CollectionId;
  /** Pinned there. */
  @Optional() @IsInt() @Min(1) @Max(100) slot?: number;
}

export class AnswersQueryDto implements AnswersQuery {
  @Optional() @AsNumber() @IsInt() @Min(0) offset?: number;
  @Optional() @AsNumber() @IsInt() @Min(0) @Max(500) limit?: number;
}
