import { Body, Controller, HttpCode, Post, Query, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsString, IsUUID, MaxLength, ValidateNested } from 'class-validator';
import type { FastifyRequest } from 'fastify';
import { bytesOf } from '../http/bodies.js';
import { Rules } from '../http/routeRules.js';
import type { ClashChoice } from '@rellin/core/filing';
import { FolderRef } from '../collections/collections.controller.js';
import { FilingService } from './filing.service.js';
import { Optional, IsPlaceId, IsRowId } from '../http/validation.js';

/** Files dropped from outside are never held in memory whole; what is larger is no file that a page hands over. */
const UPLOAD_LIMIT = 64 * 1024 ** 3;
const CLASH: ClashChoice[] = ['keep-both', 'replace', 'skip'];

export class IntoBody {
  @Optional() @IsUUID() shortcutId?: string;
  @Optional() @IsPlaceId() placeId?: number;
  @Optional() @IsRowId() originalId?: number;
  @Optional() @IsString() @MaxLength(255) newFolder?: string;
}

export class FilingBody {
  @Optional() @IsArray() @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) shortcutIds?: string[];
  @Optional()
  @IsArray()
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => FolderRef)
  originals?: FolderRef[];
  @ValidateNested() @Type(() => IntoBody) into: IntoBody;
  @IsIn(['move', 'copy']) how: 'move' | 'copy';
  @Optional() @IsIn(CLASH) clash?: ClashChoice;
}

export class UploadQuery extends IntoBody {
  @IsString() @MaxLength(255) name: string;
  @Optional() @IsIn(CLASH) clash?: ClashChoice;
}

@ApiTags('filing')
@Controller('filing')
export class FilingController {
  constructor(private readonly filing: FilingService) {}

  /** Moves or copies originals into a folder; answers with the clashes where there are any and nothing was chosen. */
  @Post()
  @HttpCode(200)
  file(@Body() body: FilingBody) {
    return this.filing.file(body);
  }

  /** The body is the file, as application/octet-stream. */
  @Post('upload')
  @HttpCode(200)
  @Rules({ body: { bytes: UPLOAD_LIMIT } })
  upload(@Query() { name, clash, ...into }: UploadQuery, @Req() request: FastifyRequest) {
    return this.filing.upload(into, name, bytesOf(request), clash);
  }
}
