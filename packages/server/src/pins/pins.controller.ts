import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsUUID,
  Max,
  Min,
} from 'class-validator';
import type { PinTarget } from '@rellin/contract';
import { PinsService } from './pins.service.js';

export class NewPin {
  @IsIn(['shortcut', 'collection', 'tag', 'search']) target: PinTarget;
  @IsUUID() targetId: string;
  @IsOptional() @IsInt() @Min(1) @Max(100) slot?: number;
}

export class NewPins {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(100) @IsUUID(undefined, { each: true }) targetIds: string[];
}

export class PinPatch {
  @IsOptional() @IsInt() @Min(1) @Max(100) slot?: number;
  @IsOptional() @IsBoolean() aside?: boolean;
  @IsOptional() @IsBoolean() kept?: boolean;
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
