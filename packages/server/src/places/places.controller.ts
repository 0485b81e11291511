import type { PlaceId } from '@rellin/contract';
import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { PlacesService } from './places.service.js';
import { PlaceIdPipe } from '../http/validation.js';
import { NewPlaceDto, PlacePatchDto } from './dto/places.dto.js';

@ApiTags('places')
@Controller('places')
export class PlacesController {
  constructor(private readonly places: PlacesService) {}

  @Get()
  list() {
    return this.places.views();
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
    this.places.need(id);
    void this.places.scan(id);
  }

  @Post(':id/connect')
  @HttpCode(200)
  connect(@Param('id', PlaceIdPipe) id: PlaceId) {
    return this.places.switchStandIn(id, true);
  }

  @Post(':id/disconnect')
  @HttpCode(200)
  disconnect(@Param('id', PlaceIdPipe) id: PlaceId) {
    return this.places.switchStandIn(id, false);
  }
}
