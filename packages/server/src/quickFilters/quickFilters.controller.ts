import type { QuickFilterId } from '@rellin/contract';
import { Body, Controller, Delete, Get, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { QuickFiltersService } from './quickFilters.service.js';
import { QuickFilterChangeDto } from './dto/quickFilters.dto.js';

@ApiTags('quick-filters')
@Controller('quick-filters')
export class QuickFiltersController {
  constructor(private readonly quickFilters: QuickFiltersService) {}

  @Get()
  all() {
    return this.quickFilters.all();
  }

  @Post()
  add(@Body() body: QuickFilterChangeDto) {
    return this.quickFilters.add(body);
  }

  @Patch(':id')
  change(@Param('id', ParseUUIDPipe) id: QuickFilterId, @Body() body: QuickFilterChangeDto) {
    return this.quickFilters.change(id, body);
  }

  @Delete(':id')
  remove(@Param('id', ParseUUIDPipe) id: QuickFilterId) {
    return this.quickFilters.remove(id);
  }
}
