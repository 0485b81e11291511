import { Body, Controller, Get, HttpCode, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsInt,
  IsOptional,
  IsString,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { FolderRef } from '../collections/collections.controller.js';
import { OpeningsService } from './openings.service.js';

export class OpenRequestBody {
  @IsOptional() @IsUUID() shortcutId?: string;
  @IsOptional() @IsInt() @Min(1) placeId?: number;
  @IsOptional() @IsInt() @Min(1) originalId?: number;
  @IsOptional() @IsString() @MaxLength(500) programId?: string;
  @IsOptional() @IsString() @MaxLength(500) withProgramId?: string;
  /** For a program: originals to open with it. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(100)
  @ValidateNested({ each: true })
  @Type(() => FolderRef)
  files?: FolderRef[];
  @Matches(/^[a-z-]{1,30}$/) route: string;
}

export class RecentQuery {
  @IsOptional() @Type(() => Number) @IsInt() @Min(1) @Max(200) limit?: number;
}

@ApiTags('openings')
@Controller('openings')
export class OpeningsController {
  constructor(private readonly openings: OpeningsService) {}

  @Post()
  @HttpCode(200)
  open(@Body() body: OpenRequestBody) {
    return this.openings.open(body);
  }

  @Get()
  recent(@Query() query: RecentQuery) {
    return this.openings.recent(query.limit ?? 20);
  }
}
