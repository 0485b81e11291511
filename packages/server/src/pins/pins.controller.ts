import type { PinId } from '@rellin/contract';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { PinsService } from './pins.service.js';
import { NewPinDto, NewPinsDto, PinPatchDto } from './dto/pins.dto.js';

@ApiTags('pins')
@Controller('pins')
export class PinsController {
  constructor(private readonly pins: PinsService) {}

  @Get()
  list() {
    return this.pins.list();
  }

  @Post()
  async pin(@Body() body: NewPinDto) {
    await this.pins.pin({ target: body.target, id: body.targetId }, body.slot);
    return this.pins.list();
  }

  @Post('many')
  async pinMany(@Body() body: NewPinsDto) {
    await this.pins.pinMany(body.targetIds);
    return this.pins.list();
  }

  @Patch(':id')
  async move(@Param('id', ParseUUIDPipe) id: PinId, @Body() body: PinPatchDto) {
    if (body.slot !== undefined) await this.pins.move(id, body.slot);
    if (body.aside !== undefined) await this.pins.putAside(id, body.aside);
    if (body.kept !== undefined) await this.pins.keep(id, body.kept);
    return this.pins.list();
  }

  @Delete(':id')
  @HttpCode(204)
  unpin(@Param('id', ParseUUIDPipe) id: PinId) {
    return this.pins.unpin(id);
  }
}
