import { Controller, Get, Header, HttpCode, Param, Post, Query, Req, StreamableFile } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { IsIn, IsString, Matches, MaxLength } from 'class-validator';
import type { FastifyRequest } from 'fastify';
import { bytesOf } from '../http/bodies.js';
import { Rules } from '../http/routeRules.js';
import { PICTURE_LIMIT } from './raster.js';
import { PicturesService } from './pictures.service.js';
import { AsNumber, Optional, PlaceIdPipe, RowIdPipe } from '../http/validation.js';

export class PictureParam {
  @Matches(/^[0-9a-f]{64}$/) id: string;
}

export class ProgramParam {
  @IsString() @MaxLength(500) id: string;
}

export class ThumbnailQuery {
  @Optional() @AsNumber() @IsIn([128, 256, 512]) side?: number;
  /** Changes with the file, so that the browser may keep what it got. */
  @Optional() @IsString() @MaxLength(40) v?: string;
}

const png = (bytes: Buffer) => new StreamableFile(bytes, { type: 'image/png', length: bytes.length });

@ApiTags('pictures')
@Controller('pictures')
export class PicturesController {
  constructor(private readonly pictures: PicturesService) {}

  /** The body is the picture, as application/octet-stream. */
  @Post()
  @HttpCode(200)
  // what is larger than a picture may be is read to its end and then refused with its size
  @Rules({ body: { bytes: 50 * PICTURE_LIMIT } })
  async add(@Req() request: FastifyRequest) {
    return { id: await this.pictures.add(bytesOf(request)) };
  }

  @Get('programs/:id')
  @Header('cache-control', 'private, max-age=3600')
  async ofProgram(@Param() { id }: ProgramParam) {
    return png(await this.pictures.ofProgram(id));
  }

  @Get('originals/:placeId/:id')
  @Header('cache-control', 'private, max-age=86400')
  async thumbnail(
    @Param('placeId', PlaceIdPipe) placeId: number,
    @Param('id', RowIdPipe) id: number,
    @Query() { side }: ThumbnailQuery,
  ) {
    return png(await this.pictures.thumbnail(placeId, id, side ?? 256));
  }

  @Get(':id')
  @Header('cache-control', 'private, max-age=31536000, immutable')
  async one(@Param() { id }: PictureParam) {
    return png(await this.pictures.get(id));
  }
}
