import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { ArrayMaxSize, IsArray, IsIn, IsNotEmpty, IsString, MaxLength } from 'class-validator';
import type { PlaceType } from '@rellin/contract';
import { PlacesService } from './places.service.js';
import { Optional, PlaceIdPipe } from '../http/validation.js';

export class NewPlace {
  @IsString() @IsNotEmpty() @MaxLength(4096) root: string;
  @Optional() @IsString() @MaxLength(200) name?: string;
  @Optional() @IsIn(['fixed', 'removable', 'network']) type?: PlaceType;
  @Optional() @IsArray() @ArrayMaxSize(500) @IsString({ each: true }) excludes?: string[];
}

export class PlacePatch {
  @Optional() @IsString() @IsNotEmpty() @MaxLength(200) name?: string;
  @Optional() @IsArray() @ArrayMaxSize(500) @IsString({ each: true }) excludes?: string[];
}

@ApiTags('places')
@Controller('places')
export class PlacesController {
  constructor(private readonly places: PlacesService) {}

  @Get()
  list() {
    return this.places.views();
  }

  @Post()
  add(@Body() body: NewPlace) {
    return this.places.add(body);
  }

  @Patch(':id')
  change(@Param('id', PlaceIdPipe) id: number, @Body() body: PlacePatch) {
    return this.places.change(id, body);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', PlaceIdPipe) id: number) {
    return this.places.remove(id);
  }

  /** Looks through the place again; answers when it has begun. */
  @Post(':id/scan')
  @HttpCode(202)
  scan(@Param('id', PlaceIdPipe) id: number) {
    this.places.need(id);
    void this.places.scan(id);
  }

  @Post(':id/connect')
  @HttpCode(200)
  connect(@Param('id', PlaceIdPipe) id: number) {
    return this.places.switchStandIn(id, true);
  }

  @Post(':id/disconnect')
  @HttpCode(200)
  disconnect(@Param('id', PlaceIdPipe) id: number) {
    return this.places.switchStandIn(id, false);
  }
}
