import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsString, IsUUID, MaxLength, ValidateNested } from 'class-validator';
import { PALETTE } from '@rellin/core/palette';
import { FolderRef } from '../collections/collections.controller.js';
import { TagsService } from './tags.service.js';
import { Optional } from '../http/validation.js';

export class BearersBody {
  @Optional() @IsArray() @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) shortcutIds?: string[];
  @Optional() @IsArray() @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) searchIds?: string[];
  @Optional()
  @IsArray()
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => FolderRef)
  originals?: FolderRef[];
}

export class NewTag extends BearersBody {
  @IsString() @MaxLength(100) name: string;
  @Optional() @IsIn(PALETTE) colour?: string;
}

export class TagPatch {
  @Optional() @IsString() @MaxLength(100) name?: string;
  @Optional() @IsIn(PALETTE) colour?: string;
}

@ApiTags('tags')
@Controller('tags')
export class TagsController {
  constructor(private readonly tags: TagsService) {}

  @Get()
  list() {
    return this.tags.list();
  }

  @Post()
  async add(@Body() body: NewTag) {
    const id = await this.tags.add(body);
    return this.tags.one(id);
  }

  @Patch(':id')
  async change(@Param('id', ParseUUIDPipe) id: string, @Body() body: TagPatch) {
    await this.tags.change(id, body);
    return this.tags.one(id);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string) {
    return this.tags.remove(id);
  }

  @Get(':id/bearers')
  tagged(@Param('id', ParseUUIDPipe) id: string) {
    return this.tags.tagged(id);
  }

  @Post(':id/put')
  @HttpCode(200)
  async put(@Param('id', ParseUUIDPipe) id: string, @Body() body: BearersBody) {
    return { tagged: await this.tags.put(id, body) };
  }

  @Post(':id/take')
  @HttpCode(200)
  async take(@Param('id', ParseUUIDPipe) id: string, @Body() body: BearersBody) {
    return { taken: await this.tags.take(id, body) };
  }
}
