import { Body, Controller, HttpCode, Post, Query, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyRequest } from 'fastify';
import { bytesOf } from '../http/bodies.js';
import { Rules } from '../http/routeRules.js';
import { OriginalRefsDto } from '../http/shared.dto.js';
import { FilingService } from './filing.service.js';
import { InPlaceService } from './inPlace.service.js';
import { FilingRequestDto, FilingTargetDto, OriginalNamesDto, UploadQueryDto } from './dto/filing.dto.js';

/** Files dropped from outside are never held in memory whole; what is larger is no file that a page hands over. */
const UPLOAD_LIMIT = 64 * 1024 ** 3;

@ApiTags('filing')
@Controller('filing')
export class FilingController {
  constructor(
    private readonly filing: FilingService,
    private readonly inPlace: InPlaceService,
  ) {}

  /** Moves or copies originals into a folder; answers with the clashes where there are any and nothing was chosen. */
  @Post()
  @HttpCode(200)
  file(@Body() body: FilingRequestDto) {
    return this.filing.file(body);
  }

  /** An empty folder; answers with its path. */
  @Post('folder')
  @HttpCode(200)
  async makeFolder(@Body() body: FilingTargetDto) {
    return { path: await this.filing.makeFolder(body) };
  }

  /** Renames originals where they are, in one act; where a name is taken nothing is renamed. */
  @Post('rename')
  @HttpCode(200)
  rename(@Body() body: OriginalNamesDto) {
    return this.inPlace.rename(body);
  }

  /** A copy of each original beside it, in one act. */
  @Post('duplicate')
  @HttpCode(200)
  async duplicate(@Body() { originals }: OriginalRefsDto) {
    return { copied: await this.inPlace.duplicate(originals) };
  }

  /** The body is the file, as application/octet-stream. */
  @Post('upload')
  @HttpCode(200)
  @Rules({ body: { bytes: UPLOAD_LIMIT } })
  upload(@Query() { name, clash, ...into }: UploadQueryDto, @Req() request: FastifyRequest) {
    return this.filing.upload(into, name, bytesOf(request), clash);
  }
}
