import { Body, Controller, Delete, Get, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsIn, IsOptional, IsString, MaxLength, ValidateIf, ValidateNested } from 'class-validator';
import { QuickFiltersService } from './quickFilters.service.js';

export class FilterBody {
  @IsOptional() @IsString() @MaxLength(40) kind?: string;
  @IsOptional() @IsString() @MaxLength(40) state?: string;
  @IsOptional() @IsString() @MaxLength(40) place?: string;
  @IsOptional() @IsString() @MaxLength(40) tag?: string;
  @IsOptional() @IsString() @MaxLength(40) collection?: string;
  @IsOptional() @IsString() @MaxLength(40) used?: string;
  @IsOptional() @IsString() @MaxLength(40) sort?: string;
  @IsOptional() @IsIn(['down']) order?: string;
}

export class QuickFilterBody {
  @IsOptional() @IsString() @MaxLength(100) name?: string;
  @IsOptional() @ValidateIf((_, value) => value !== null) @IsString() @MaxLength(40) keys?: string | null;
  @IsOptional() @ValidateNested() @Type(() => FilterBody) filter?: FilterBody;
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
