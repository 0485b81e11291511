import { Body, Controller, Delete, Get, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsIn, IsString, MaxLength, ValidateNested } from 'class-validator';
import { QuickFiltersService } from './quickFilters.service.js';
import { Optional, Nullable } from '../http/validation.js';

export class FilterBody {
  @Optional() @IsString() @MaxLength(40) kind?: string;
  @Optional() @IsString() @MaxLength(40) state?: string;
  @Optional() @IsString() @MaxLength(40) place?: string;
  @Optional() @IsString() @MaxLength(40) tag?: string;
  @Optional() @IsString() @MaxLength(40) collection?: string;
  @Optional() @IsString() @MaxLength(40) used?: string;
  @Optional() @IsString() @MaxLength(40) sort?: string;
  @Optional() @IsIn(['down']) order?: string;
}

export class QuickFilterBody {
  @Optional() @IsString() @MaxLength(100) name?: string;
  @Optional() @Nullable() @IsString() @MaxLength(40) keys?: string | null;
  @Optional() @ValidateNested() @Type(() => FilterBody) filter?: FilterBody;
}

@ApiTags('quick-filters')
@Controller('quick-filters')
export class QuickFiltersController {
  constructor(private readonly quickFilters: QuickFiltersService) {}

  @Get()
  all() {
    return this.quickFilters.all();
  }

  @Post()
  add(@Body() body: QuickFilterBody) {
    return this.quickFilters.add(body);
  }

  @Patch(':id')
  change(@Param('id', ParseUUIDPipe) id: string, @Body() body: QuickFilterBody) {
    return this.quickFilters.change(id, body);
  }

  @Delete(':id')
  remove(@Param('id', ParseUUIDPipe) id: string) {
    return this.quickFilters.remove(id);
  }
}
