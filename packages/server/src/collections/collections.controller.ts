import type { CollectionId } from '@rellin/contract';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { CollectionsService } from './collections.service.js';
import { FromQueryDto } from '../http/shared.dto.js';
import {
  NewMembersDto,
  NewCollectionDto,
  CollectionPatchDto,
  MemberIdsDto,
  MemberMoveDto,
  MemberKeepDto,
} from './dto/collections.dto.js';

@ApiTags('collections')
@Controller('collections')
export class CollectionsController {
  constructor(private readonly collections: CollectionsService) {}

  @Get()
  list(@Query() query: FromQueryDto) {
    return this.collections.list(query.from === 'bin');
  }

  @Post()
  async add(@Body() body: NewCollectionDto) {
    return this.collections.one(await this.collections.add(body));
  }

  @Get(':id')
  one(@Param('id', ParseUUIDPipe) id: CollectionId) {
    return this.collections.one(id);
  }

  @Patch(':id')
  async change(@Param('id', ParseUUIDPipe) id: CollectionId, @Body() { revision, ...patch }: CollectionPatchDto) {
    await this.collections.change(id, patch, revision);
    return this.collections.one(id);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: CollectionId) {
    return this.collections.remove([id]);
  }

  @Post(':id/put-back')
  @HttpCode(204)
  putBack(@Param('id', ParseUUIDPipe) id: CollectionId) {
    return this.collections.putBack(id);
  }

  @Get(':id/members')
  members(@Param('id', ParseUUIDPipe) id: CollectionId) {
    return this.collections.members(id);
  }

  @Post(':id/members')
  @HttpCode(200)
  async addMembers(@Param('id', ParseUUIDPipe) id: CollectionId, @Body() { before, ...additions }: NewMembersDto) {
    return { added: await this.collections.addMembers(id, additions, before) };
  }

  @Post(':id/members/remove')
  @HttpCode(204)
  removeMembers(@Param('id', ParseUUIDPipe) id: CollectionId, @Body() { memberIds }: MemberIdsDto) {
    return this.collections.removeMembers(id, memberIds);
  }

  @Post(':id/members/move')
  @HttpCode(200)
  async moveMembers(
    @Param('id', ParseUUIDPipe) id: CollectionId,
    @Body() { memberIds, before, revision }: MemberMoveDto,
  ) {
    await this.collections.moveMembers(id, memberIds, before, revision);
    return this.collections.members(id);
  }

  @Post(':id/members/keep-first')
  @HttpCode(204)
  keepFirst(@Param('id', ParseUUIDPipe) id: CollectionId, @Body() { memberIds, keepFirst }: MemberKeepDto) {
    return this.collections.keepFirst(id, memberIds, keepFirst);
  }

  @Post(':id/empty')
  @HttpCode(200)
  async empty(@Param('id', ParseUUIDPipe) id: CollectionId) {
    return { removed: await this.collections.empty(id) };
  }

  @Post(':id/bring-back')
  @HttpCode(200)
  async bringBack(@Param('id', ParseUUIDPipe) id: CollectionId) {
    return { added: await this.collections.bringBack(id) };
  }
}
