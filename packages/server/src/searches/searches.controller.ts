import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
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
import type { SearchOrder, SearchShape } from '@rellin/contract';
import { SearchesService } from './searches.service.js';
import { AsNumber, Optional, Nullable } from '../http/validation.js';

const SHAPES: SearchShape[] = ['table', 'tiles', 'folders', 'by-kind', 'by-month', 'by-place'];

export class AskBody {
  @IsString() @MaxLength(2 * LONGEST) query: string;
  @Optional() @Nullable() @IsArray() @ArrayMaxSize(100) @IsInt({ each: true }) places?: number[] | null;
  @Optional() @IsIn(ANSWER_ORDERS) sortBy?: SearchOrder;
  @Optional() @IsBoolean() descending?: boolean;
  @Optional() @IsInt() @Min(0) @Max(1_000_000) offset?: number;
  @Optional() @IsInt() @Min(0) @Max(500) limit?: number;
  /** Count what each row of the builder does. */
  @Optional() @IsBoolean() rows?: boolean;
}

export class SearchPatch {
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

export class NewSearch extends SearchPatch {
  @Optional() @IsArray() @ArrayMaxSize(100) @IsUUID(undefined, { each: true }) tagIds?: string[];
  @Optional() @IsUUID() collectionId?: string;
  /** Pinned there. */
  @Optional() @IsInt() @Min(1) @Max(100) slot?: number;
}

export class AnswersQuery {
  @Optional() @AsNumber() @IsInt() @Min(0) offset?: number;
  @Optional() @AsNumber() @IsInt() @Min(0) @Max(500) limit?: number;
}

export class SearchesQuery {
  @Optional() @IsIn(['catalogue', 'bin']) from?: 'catalogue' | 'bin';
}

@ApiTags('searches')
@Controller('searches')
export class SearchesController {
  constructor(private readonly searches: SearchesService) {}

  @Get()
  list(@Query() query: SearchesQuery) {
    return this.searches.list(query.from === 'bin');
  }

  @Post()
  async add(@Body() body: NewSearch) {
    return this.searches.one(await this.searches.add(body));
  }

  @Post('ask')
  @HttpCode(200)
  ask(@Body() body: AskBody) {
    return this.searches.ask(body);
  }

  @Get(':id')
  one(@Param('id', ParseUUIDPipe) id: string) {
    return this.searches.one(id);
  }

  @Patch(':id')
  async change(@Param('id', ParseUUIDPipe) id: string, @Body() body: SearchPatch) {
    await this.searches.change(id, body);
    return this.searches.one(id);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string) {
    return this.searches.remove(id);
  }

  @Post(':id/put-back')
  @HttpCode(204)
  putBack(@Param('id', ParseUUIDPipe) id: string) {
    return this.searches.putBack(id);
  }

  @Get(':id/answers')
  answers(@Param('id', ParseUUIDPipe) id: string, @Query() query: AnswersQuery) {
    return this.searches.answers(id, query.offset ?? 0, query.limit ?? 100);
  }

  @Get(':id/changes')
  changes(@Param('id', ParseUUIDPipe) id: string) {
    return this.searches.changes(id);
  }

  @Post(':id/look')
  @HttpCode(204)
  look(@Param('id', ParseUUIDPipe) id: string) {
    return this.searches.look(id);
  }
}
