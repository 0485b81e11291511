import type { TagId } from '@rellin/contract';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { TagsService } from './tags.service.js';
import { BearersDto, NewTagDto, TagPatchDto } from './dto/tags.dto.js';

@ApiTags('tags')
@Controller('tags')
export class TagsController {
  constructor(private readonly tags: TagsService) {}

  @Get()
  list() {
    return this.tags.list();
  }

  @Post()
  async add(@Body() body: NewTagDto) {
    const id = await this.tags.add(body);
    return this.tags.one(id);
  }

  @Patch(':id')
  async change(@Param('id', ParseUUIDPipe) id: TagId, @Body() body: TagPatchDto) {
    await this.tags.change(id, body);
    return this.tags.one(id);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: TagId) {
    return this.tags.remove(id);
  }

  @Get(':id/bearers')
  tagged(@Param('id', ParseUUIDPipe) id: TagId) {
    return this.tags.tagged(id);
  }

  @Post(':id/put')
  @HttpCode(200)
  async put(@Param('id', ParseUUIDPipe) id: TagId, @Body() body: BearersDto) {
    return { tagged: await this.tags.put(id, body) };
  }

  @Post(':id/take')
  @HttpCode(200)
  async take(@Param('id', ParseUUIDPipe) id: TagId, @Body() body: BearersDto) {
    return { taken: await this.tags.take(id, body) };
  }
}
