import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { REGION_ORDERS, type RegionOrder } from '@rellin/core/board';
import { CollectionsQuery, TargetRef } from '../collections/collections.controller.js';
import { BoardsService } from './boards.service.js';
import { Optional } from '../http/validation.js';

const MOST_COLUMNS = 12;
const MOST_ROWS = 10_000;

export class NewBoardBody {
  @IsString() @MaxLength(300) name: string;
  @Optional() @IsInt() @Min(1) @Max(MOST_COLUMNS) columns?: number;
}

export class BoardPatch {
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsInt() @Min(1) @Max(MOST_COLUMNS) columns?: number;
}

export class NewRegionBody {
  @IsString() @MaxLength(300) name: string;
  @Optional() @IsIn(REGION_ORDERS) order?: RegionOrder;
}

export class RegionPatch {
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsIn(REGION_ORDERS) order?: RegionOrder;
}

export class RegionMove {
  /** The region it stands above; null for the lowest. */
  @ValidateIf((_: object, value: unknown) => value !== null) @IsUUID() before: string | null;
}

export class ArrangeBody {
  @IsIn(REGION_ORDERS.filter((order) => order !== 'free')) by: Exclude<RegionOrder, 'free'>;
}

/** A spot, in cells from a region's corner. */
export class SpotBody {
  @Optional() @IsUUID() regionId?: string;
  @Optional() @IsNumber() @Min(0) @Max(MOST_COLUMNS) x?: number;
  @Optional() @IsNumber() @Min(0) @Max(MOST_ROWS) y?: number;
  /** Exactly there, not in the nearest cell. */
  @Optional() @IsBoolean() exact?: boolean;
}

export class LaidBody extends SpotBody {
  @Optional() @IsArray() @ArrayMaxSize(2000) @IsUUID(undefined, { each: true }) shortcutIds?: string[];
  @Optional()
  @IsArray()
  @ArrayMaxSize(2000)
  @ValidateNested({ each: true })
  @Type(() => TargetRef)
  targets?: TargetRef[];
  /** The item or bundle that they stand before; the end by default. */
  @Optional() @IsUUID() before?: string;
  @Optional() @IsUUID() bundleId?: string;
}

export class ItemIds {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(2000) @IsUUID(undefined, { each: true }) itemIds: string[];
}

/** These under one bracket; or, without them, everything by kind. */
export class BundleBody {
  @Optional() @IsArray() @ArrayMinSize(2) @ArrayMaxSize(2000) @IsUUID(undefined, { each: true }) itemIds?: string[];
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsUUID() regionId?: string;
}

export class BundlePatch extends SpotBody {
  @Optional() @IsString() @MaxLength(300) name?: string;
}

@ApiTags('boards')
@Controller('boards')
export class BoardsController {
  constructor(private readonly boards: BoardsService) {}

  @Get()
  list(@Query() query: CollectionsQuery) {
    return this.boards.list(query.from === 'bin');
  }

  @Post()
  async add(@Body() body: NewBoardBody) {
    return this.boards.plane(await this.boards.add(body));
  }

  @Get(':id')
  plane(@Param('id', ParseUUIDPipe) id: string) {
    return this.boards.plane(id);
  }

  @Patch(':id')
  async change(@Param('id', ParseUUIDPipe) id: string, @Body() patch: BoardPatch) {
    await this.boards.change(id, patch);
    return this.boards.plane(id);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string) {
    return this.boards.remove(id);
  }

  @Post(':id/put-back')
  @HttpCode(204)
  putBack(@Param('id', ParseUUIDPipe) id: string) {
    return this.boards.putBack(id);
  }

  @Post(':id/first')
  @HttpCode(204)
  putFirst(@Param('id', ParseUUIDPipe) id: string) {
    return this.boards.putFirst(id);
  }

  @Post(':id/regions')
  async addRegion(@Param('id', ParseUUIDPipe) id: string, @Body() body: NewRegionBody) {
    await this.boards.addRegion(id, body);
    return this.boards.plane(id);
  }

  @Patch(':id/regions/:regionId')
  async changeRegion(
    @Param('id', ParseUUIDPipe) id: string,
    @Param('regionId', ParseUUIDPipe) regionId: string,
    @Body() patch: RegionPatch,
  ) {
    await this.boards.changeRegion(id, regionId, patch);
    return this.boards.plane(id);
  }

  @Post(':id/regions/:regionId/move')
  @HttpCode(200)
  async moveRegion(
    @Param('id', ParseUUIDPipe) id: string,
    @Param('regionId', ParseUUIDPipe) regionId: string,
    @Body() { before }: RegionMove,
  ) {
    await this.boards.moveRegion(id, regionId, before);
    return this.boards.plane(id);
  }

  @Post(':id/regions/:regionId/arrange')
  @HttpCode(200)
  async arrange(
    @Param('id', ParseUUIDPipe) id: string,
    @Param('regionId', ParseUUIDPipe) regionId: string,
    @Body() { by }: ArrangeBody,
  ) {
    await this.boards.arrangeRegion(id, regionId, by);
    return this.boards.plane(id);
  }

  @Delete(':id/regions/:regionId')
  @HttpCode(204)
  removeRegion(@Param('id', ParseUUIDPipe) id: string, @Param('regionId', ParseUUIDPipe) regionId: string) {
    return this.boards.removeRegion(id, regionId);
  }

  @Post(':id/items')
  @HttpCode(200)
  async put(@Param('id', ParseUUIDPipe) id: string, @Body() body: LaidBody) {
    return { added: await this.boards.put(id, body), plane: await this.boards.plane(id) };
  }

  @Post(':id/items/take-off')
  @HttpCode(204)
  takeOff(@Param('id', ParseUUIDPipe) id: string, @Body() { itemIds }: ItemIds) {
    return this.boards.takeOff(id, itemIds);
  }

  @Post(':id/tidy')
  @HttpCode(200)
  async tidy(@Param('id', ParseUUIDPipe) id: string) {
    return { moved: await this.boards.tidy(id), plane: await this.boards.plane(id) };
  }

  @Post(':id/bundles')
  @HttpCode(200)
  async gather(@Param('id', ParseUUIDPipe) id: string, @Body() body: BundleBody) {
    return { made: await this.boards.gather(id, body), plane: await this.boards.plane(id) };
  }

  @Patch(':id/bundles/:bundleId')
  async changeBundle(
    @Param('id', ParseUUIDPipe) id: string,
    @Param('bundleId', ParseUUIDPipe) bundleId: string,
    @Body() patch: BundlePatch,
  ) {
    await this.boards.changeBundle(id, bundleId, patch);
    return this.boards.plane(id);
  }

  @Post(':id/bundles/:bundleId/ungather')
  @HttpCode(200)
  async ungather(@Param('id', ParseUUIDPipe) id: string, @Param('bundleId', ParseUUIDPipe) bundleId: string) {
    await this.boards.ungather(id, bundleId);
    return this.boards.plane(id);
  }
}
