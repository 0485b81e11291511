import type { PlaceId } from '@rellin/contract';
import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { PlaceMonitor } from './placeMonitor.service.js';
import { PlaceRegistry } from './placeRegistry.js';
import { PlacesService } from './places.service.js';
import { ScanScheduler } from './scanScheduler.service.js';
import { PlaceIdPipe } from '../http/validation.js';
import { NewPlaceDto, PlacePatchDto, TypedFolderDto } from './dto/places.dto.js';
import { FolderNamesService } from './folderNames.service.js';

@ApiTags('places')
@Controller('places')
export class PlacesController {
  constructor(
    private readonly places: PlacesService,
    private readonly registry: PlaceRegistry,
    private readonly scans: ScanScheduler,
    private readonly monitor: PlaceMonitor,
    private readonly folderNames: FolderNamesService,
  ) {}

  @Get()
  list() {
    return this.places.list();
  }

  /** Folders that continue a typed path, in a place or not. */
  @Get('complete')
  complete(@Query() { path }: TypedFolderDto) {
    return this.folderNames.complete(path);
  }

  @Post()
  add(@Body() body: NewPlaceDto) {
    return this.places.add(body);
  }

  @Patch(':id')
  change(@Param('id', PlaceIdPipe) id: PlaceId, @Body() body: PlacePatchDto) {
    return this.places.change(id, body);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', PlaceIdPipe) id: PlaceId) {
    return this.places.remove(id);
  }

  /** Looks through the place again; answers when it has begun. */
  @Post(':id/scan')
  @HttpCode(202)
  scan(@Param('id', PlaceIdPipe) id: PlaceId) {
    this.registry.need(id);
    void this.scans.scan(id);
  }

  @Post(':id/connect')
  @HttpCode(200)
  async connect(@Param('id', PlaceIdPipe) id: PlaceId) {
    await this.monitor.switchStandIn(id, true);
    return this.places.one(id);
  }

  @Post(':id/disconnect')
  @HttpCode(200)
  async disconnect(@Param('id', PlaceIdPipe) id: PlaceId) {
    await this.monitor.switchStandIn(id, false);
    return this.places.one(id);
  }
}
