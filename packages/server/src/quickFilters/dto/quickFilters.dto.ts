/** What is asked of quickFilters, with its bounds. */
import { Type } from 'class-transformer';
import { IsIn, IsString, MaxLength, ValidateNested } from 'class-validator';
import { Optional, Nullable } from '../../http/validation.js';
import type { CatalogueFilter, QuickFilterChange } from '@rellin/contract';

export class CatalogueFilterDto implements CatalogueFilter {
  @Optional() @IsString() @MaxLength(40) kind?: string;
  @Optional() @IsString() @MaxLength(40) state?: string;
  @Optional() @IsString() @MaxLength(40) place?: string;
  @Optional() @IsString() @MaxLength(40) tag?: string;
  @Optional() @IsString() @MaxLength(40) collection?: string;
  @Optional() @IsString() @MaxLength(40) used?: string;
  @Optional() @IsString() @MaxLength(40) sort?: string;
  @Optional() @IsIn(['down']) order?: string;
}

export class QuickFilterChangeDto implements QuickFilterChange {
  @Optional() @IsString() @MaxLength(100) name?: string;
  @Optional() @Nullable() @IsString() @MaxLength(40) keys?: string | null;
  @Optional() @ValidateNested() @Type(() => CatalogueFilterDto) filter?: CatalogueFilterDto;
}
