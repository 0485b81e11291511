import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { IsInt, IsOptional, IsUUID, Max, Min } from 'class-validator';
import { PinsService } from './pins.service.js';

export class NewPin {
  @IsUUID() shortcutId: string;
  @IsOptional() @IsInt() @Min(1) @Max(100) slot?: number;
}

export class PinMove {
  @IsInt() @Min(1) @Max(100) slot: number;
}

@ApiTags('pins')
@Controller('pins')
export class PinsController {
  constructor(private readonly pins: PinsService) {}

  @Get()
  list() {
    return this.pins.list();
  }

  @Post()
  async pin(@Body() body: NewPin) {
    await this.pins.pin(body.shortcutId, body.slot);
    return this.pins.list();
  }

  @Patch(':id')
  async move(@Param('id', ParseUUIDPipe) id: string, @Body() body: PinMove) {
    await this.pins.move(id, body.slot);
    return this.pins.list();
  }

  @Delete(':id')
  @HttpCode(204)
  unpin(@Param('id', ParseUUIDPipe) id: string) {
    return this.pins.unpin(id);
  }
}
