import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsBoolean, IsIn, IsInt, IsUUID, Max, Min } from 'class-validator';
import type { PinTarget } from '@rellin/contract';
import { PinsService } from './pins.service.js';
import { Optional } from '../http/validation.js';

export class NewPin {
  @IsIn(['shortcut', 'collection', 'tag', 'search']) target: PinTarget;
  @IsUUID() targetId: string;
  @Optional() @IsInt() @Min(1) @Max(100) slot?: number;
}

export class NewPins {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(100) @IsUUID(undefined, { each: true }) targetIds: string[];
}

export class PinPatch {
  @Optional() @IsInt() @Min(1) @Max(100) slot?: number;
  @Optional() @IsBoolean() aside?: boolean;
  @Optional() @IsBoolean() kept?: boolean;
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
    await this.pins.pin({ target: body.target, id: body.targetId }, body.slot);
    return this.pins.list();
  }

  @Post('many')
  async pinMany(@Body() body: NewPins) {
    await this.pins.pinMany(body.targetIds);
    return this.pins.list();
  }

  @Patch(':id')
  async move(@Param('id', ParseUUIDPipe) id: string, @Body() body: PinPatch) {
    if (body.slot !== undefined) await this.pins.move(id, body.slot);
    if (body.aside !== undefined) await this.pins.putAside(id, body.aside);
    if (body.kept !== undefined) await this.pins.keep(id, body.kept);
    return this.pins.list();
  }

  @Delete(':id')
  @HttpCode(204)
  unpin(@Param('id', ParseUUIDPipe) id: string) {
    return this.pins.unpin(id);
  }
}
