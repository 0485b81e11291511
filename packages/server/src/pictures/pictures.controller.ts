import type { OriginalId, PlaceId } from '@rellin/contract';
import { Controller, Get, Header, HttpCode, Param, Post, Query, Req, Res, StreamableFile } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { bytesOf } from '../http/bodies.js';
import { Rules } from '../http/routeRules.js';
import { PICTURE_LIMIT } from './raster.js';
import { PicturesService } from './pictures.service.js';
import { PlaceIdPipe, RowIdPipe } from '../http/validation.js';
import { DrawingQueryDto, PictureParamDto, ProgramParamDto, ThumbnailQueryDto } from './dto/pictures.dto.js';

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
  async ofProgram(@Param() { id }: ProgramParamDto, @Res({ passthrough: true }) reply: FastifyReply) {
    const bytes = await this.pictures.ofProgram(id);
    if (bytes) return png(bytes);
    // nobody's error: the page shows the kind's mark instead
    void reply.status(204);
    return undefined;
  }

  @Get('originals/:placeId/:id')
  @Header('cache-control', 'private, max-age=86400')
  async thumbnail(
    @Param('placeId', PlaceIdPipe) placeId: PlaceId,
    @Param('id', RowIdPipe) id: OriginalId,
    @Query() { side }: ThumbnailQueryDto,
  ) {
    return png(await this.pictures.thumbnail(placeId, id, side ?? 256));
  }

  @Get('drawings/:placeId/:id')
  @Header('cache-control', 'private, max-age=86400')
  async drawing(
    @Param('placeId', PlaceIdPipe) placeId: PlaceId,
    @Param('id', RowIdPipe) id: OriginalId,
    @Query() _: DrawingQueryDto,
    @Res({ passthrough: true }) reply: FastifyReply,
  ) {
    const gone = new AbortController();
    reply.raw.once('close', () => gone.abort());
    return png(await this.pictures.drawing(placeId, id, gone.signal));
  }

  @Get(':id')
  @Header('cache-control', 'private, max-age=31536000, immutable')
  async one(@Param() { id }: PictureParamDto) {
    return png(await this.pictures.get(id));
  }
}
