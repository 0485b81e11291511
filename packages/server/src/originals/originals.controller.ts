import type { OriginalId, PlaceId } from '@rellin/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { previewKindOf, servedType } from './previewKind.js';
import { OriginalsService } from './originals.service.js';
import { DiskService } from '../disk/disk.service.js';
import { PlaceIdPipe, RowIdPipe } from '../http/validation.js';
import { FolderQueryDto, TypedPathDto } from './dto/originals.dto.js';

@ApiTags('originals')
@Controller('originals')
export class OriginalsController {
  constructor(
    private readonly originals: OriginalsService,
    private readonly disk: DiskService,
  ) {}

  @Post('locate')
  @HttpCode(200)
  locate(@Body() body: TypedPathDto) {
    return this.originals.locate(body.path);
  }

  @Get('complete')
  complete(@Query() query: TypedPathDto) {
    return this.originals.complete(query.path);
  }

  @Get('standard-folders')
  standardFolders() {
    return this.originals.standardFolders();
  }

  @Get(':placeId/folder/:id')
  folder(
    @Param('placeId', PlaceIdPipe) placeId: PlaceId,
    @Param('id', RowIdPipe) id: OriginalId,
    @Query() query: FolderQueryDto,
  ) {
    return this.originals.folder(placeId, id, {
      sort: query.sort ?? 'name',
      descending: query.order === 'down',
      offset: query.offset ?? 0,
      limit: query.limit ?? 200,
      at: query.at,
    });
  }

  @Get(':placeId/:id')
  original(@Param('placeId', PlaceIdPipe) placeId: PlaceId, @Param('id', RowIdPipe) id: OriginalId) {
    return this.originals.original(placeId, id);
  }

  /**
   * The bytes, inert: sandboxed, unsniffed, and as plain text wherever that is what the viewer shows. Takes a range.
   */
  @Get(':placeId/:id/content')
  async content(
    @Param('placeId', PlaceIdPipe) placeId: PlaceId,
    @Param('id', RowIdPipe) id: OriginalId,
    @Req() request: FastifyRequest,
    @Res() reply: FastifyReply,
  ): Promise<void> {
    const { row, path } = await this.originals.whereabouts(placeId, id);
    const file = await this.disk.open(placeId, path);
    const { size } = file;
    const range = parseRange(request.headers.range, size);
    if (range === 'unsatisfiable') {
      await file.close();
      void reply.status(416).header('content-range', `bytes */${size}`).send();
      return;
    }
    const [start, end] = range ?? [0, size - 1];
    void reply
      .status(range ? 206 : 200)
      .header('content-type', servedType(previewKindOf(row.kind, row.name), row.name))
      .header('content-length', String(Math.max(0, end - start + 1)))
      .header('accept-ranges', 'bytes')
      .header('x-content-type-options', 'nosniff')
      .header('content-security-policy', "sandbox; default-src 'none'; style-src 'unsafe-inline'")
      .header('cache-control', 'private, no-cache');
    if (range) void reply.header('content-range', `bytes ${start}-${end}/${size}`);
    if (size === 0) {
      await file.close();
      void reply.send('');
    } else void reply.send(this.disk.stream(file, start, end));
  }
}

/** One byte range (RFC 9110 section 14.1.2); several are answered with the whole. */
function parseRange(header: string | undefined, size: number): [number, number] | 'unsatisfiable' | undefined {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '');
  if (!match || (match[1] === '' && match[2] === '')) return undefined;
  const from = match[1] === '' ? Math.max(0, size - Number(match[2])) : Number(match[1]);
  const to = match[1] === '' || match[2] === '' ? size - 1 : Math.min(size - 1, Number(match[2]));
  return from > to || from >= size ? 'unsatisfiable' : [from, to];
}
