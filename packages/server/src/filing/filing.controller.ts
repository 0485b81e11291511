import { Body, Controller, HttpCode, Post, Query, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  IsUUID,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import type { FastifyRequest } from 'fastify';
import type { Readable } from 'node:stream';
import type { ClashChoice } from '@rellin/core/filing';
import { FolderRef } from '../collections/collections.controller.js';
import { FilingService } from './filing.service.js';

const CLASH: ClashChoice[] = ['keep-both', 'replace', 'skip'];

export class IntoBody {
  @IsOptional() @IsUUID() shortcutId?: string;
  @IsOptional() @Type(() => Number) @IsInt() @Min(1) placeId?: number;
  @IsOptional() @Type(() => Number) @IsInt() @Min(1) originalId?: number;
  @IsOptional() @IsString() @MaxLength(255) newFolder?: string;
}

export class FilingBody {
  @IsOptional() @IsArray() @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) shortcutIds?: string[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => FolderRef)
  originals?: FolderRef[];
  @ValidateNested() @Type(() => IntoBody) into: IntoBody;
  @IsIn(['move', 'copy']) how: 'move' | 'copy';
  @IsOptional() @IsIn(CLASH) clash?: ClashChoice;
}

export class UploadQuery extends IntoBody {
  @IsString() @MaxLength(255) name: string;
  @IsOptional() @IsIn(CLASH) clash?: ClashChoice;
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
  upload(@Query() { name, clash, ...into }: UploadQuery, @Req() request: FastifyRequest) {
    return this.filing.upload(into, name, request.body as Readable, clash);
  }
}
