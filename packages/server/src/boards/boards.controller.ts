import type { BoardId, BundleId, RegionId } from '@rellin/contract';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { BoardsService } from './boards.service.js';
import { FromQueryDto } from '../http/shared.dto.js';
import {
  NewBoardDto,
  BoardPatchDto,
  NewRegionDto,
  RegionPatchDto,
  RegionMoveDto,
  ArrangeDto,
  LaidDto,
  ItemIdsDto,
  NewBundleDto,
  BundlePatchDto,
} from './dto/boards.dto.js';
import { BoardItemsService } from './boardItems.service.js';

@ApiTags('boards')
@Controller('boards')
export class BoardsController {
  constructor(
    private readonly boards: BoardsService,
    private readonly items: BoardItemsService,
  ) {}

  @Get()
  list(@Query() query: FromQueryDto) {
    return this.boards.list(query.from === 'bin');
  }

  @Post()
  async add(@Body() body: NewBoardDto) {
    return this.boards.layout(await this.boards.add(body));
  }

  @Get(':id')
  layout(@Param('id', ParseUUIDPipe) id: BoardId) {
    return this.boards.layout(id);
  }

  @Patch(':id')
  async change(@Param('id', ParseUUIDPipe) id: BoardId, @Body() patch: BoardPatchDto) {
    await this.boards.change(id, patch);
    return this.boards.layout(id);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: BoardId) {
    return this.boards.remove(id);
  }

  @Post(':id/put-back')
  @HttpCode(204)
  putBack(@Param('id', ParseUUIDPipe) id: BoardId) {
    return this.boards.putBack(id);
  }

  @Post(':id/first')
  @HttpCode(204)
  putFirst(@Param('id', ParseUUIDPipe) id: BoardId) {
    return this.boards.putFirst(id);
  }

  @Post(':id/regions')
  async addRegion(@Param('id', ParseUUIDPipe) id: BoardId, @Body() body: NewRegionDto) {
    await this.boards.addRegion(id, body);
    return this.boards.layout(id);
  }

  @Patch(':id/regions/:regionId')
  async changeRegion(
    @Param('id', ParseUUIDPipe) id: BoardId,
    @Param('regionId', ParseUUIDPipe) regionId: RegionId,
    @Body() patch: RegionPatchDto,
  ) {
    await this.boards.changeRegion(id, regionId, patch);
    return this.boards.layout(id);
  }

  @Post(':id/regions/:regionId/move')
  @HttpCode(200)
  async moveRegion(
    @Param('id', ParseUUIDPipe) id: BoardId,
    @Param('regionId', ParseUUIDPipe) regionId: RegionId,
    @Body() { before }: RegionMoveDto,
  ) {
    await this.boards.moveRegion(id, regionId, before);
    return this.boards.layout(id);
  }

  @Post(':id/regions/:regionId/arrange')
  @HttpCode(200)
  async arrange(
    @Param('id', ParseUUIDPipe) id: BoardId,
    @Param('regionId', ParseUUIDPipe) regionId: RegionId,
    @Body() { by }: ArrangeDto,
  ) {
    await this.boards.arrangeRegion(id, regionId, by);
    return this.boards.layout(id);
  }

  @Delete(':id/regions/:regionId')
  @HttpCode(204)
  removeRegion(@Param('id', ParseUUIDPipe) id: BoardId, @Param('regionId', ParseUUIDPipe) regionId: RegionId) {
    return this.boards.removeRegion(id, regionId);
  }

  @Post(':id/items')
  @HttpCode(200)
  async put(@Param('id', ParseUUIDPipe) id: BoardId, @Body() body: LaidDto) {
    return { added: await this.items.put(id, body), layout: await this.boards.layout(id) };
  }

  @Post(':id/items/take-off')
  @HttpCode(204)
  takeOff(@Param('id', ParseUUIDPipe) id: BoardId, @Body() { itemIds }: ItemIdsDto) {
    return this.items.takeOff(id, itemIds);
  }

  @Post(':id/tidy')
  @HttpCode(200)
  async tidy(@Param('id', ParseUUIDPipe) id: BoardId) {
    return { moved: await this.items.tidy(id), layout: await this.boards.layout(id) };
  }

  @Post(':id/bundles')
  @HttpCode(200)
  async gather(@Param('id', ParseUUIDPipe) id: BoardId, @Body() body: NewBundleDto) {
    return { made: await this.items.gather(id, body), layout: await this.boards.layout(id) };
  }

  @Patch(':id/bundles/:bundleId')
  async changeBundle(
    @Param('id', ParseUUIDPipe) id: BoardId,
    @Param('bundleId', ParseUUIDPipe) bundleId: BundleId,
    @Body() patch: BundlePatchDto,
  ) {
    await this.items.changeBundle(id, bundleId, patch);
    return this.boards.layout(id);
  }

  @Post(':id/bundles/:bundleId/ungather')
  @HttpCode(200)
  async ungather(@Param('id', ParseUUIDPipe) id: BoardId, @Param('bundleId', ParseUUIDPipe) bundleId: BundleId) {
    await this.items.ungather(id, bundleId);
    return this.boards.layout(id);
  }
}
