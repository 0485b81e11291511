import { Body, Controller, Get, HttpCode, Param, ParseUUIDPipe, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsISO8601,
  IsInt,
  IsString,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { FolderRef } from '../collections/collections.controller.js';
import { KnownUseService } from './knownUse.service.js';
import { OpeningsService } from './openings.service.js';
import { AsNumber, Optional, IsPlaceId, IsRowId } from '../http/validation.js';

export class OpenRequestBody {
  @Optional() @IsUUID() shortcutId?: string;
  @Optional() @IsPlaceId() placeId?: number;
  @Optional() @IsRowId() originalId?: number;
  @Optional() @IsString() @MaxLength(500) programId?: string;
  @Optional() @IsString() @MaxLength(500) withProgramId?: string;
  /** For a program: originals to open with it. */
  @Optional()
  @IsArray()
  @ArrayMaxSize(100)
  @ValidateNested({ each: true })
  @Type(() => FolderRef)
  files?: FolderRef[];
  @Matches(/^[a-z-]{1,30}$/) route: string;
  /** False on the quiet screen: it is opened, and nothing of it is kept. */
  @Optional() @IsBoolean() record?: boolean;
  /** Answered only when it is known how it went, within about two seconds. */
  @Optional() @IsBoolean() wait?: boolean;
}

export class RecentQuery {
  @Optional() @AsNumber() @IsInt() @Min(1) @Max(200) limit?: number;
}

export class ForgetBody {
  @Optional() @IsUUID() shortcutId?: string;
  @Optional() @IsISO8601() from?: string;
  @Optional() @IsISO8601() to?: string;
}

@ApiTags('openings')
@Controller('openings')
export class OpeningsController {
  constructor(
    private readonly openings: OpeningsService,
    private readonly knownUse: KnownUseService,
  ) {}

  @Post()
  @HttpCode(200)
  open(@Body() body: OpenRequestBody) {
    return this.openings.open(body);
  }

  /** Answers when it is known that a pending opening went well; a problem where it did not. */
  @Get(':id/outcome')
  @HttpCode(204)
  outcome(@Param('id', ParseUUIDPipe) id: string) {
    return this.openings.outcomeOf(id);
  }

  @Get()
  recent(@Query() query: RecentQuery) {
    return this.openings.recent(query.limit ?? 20);
  }

  @Get('known')
  known() {
    return this.knownUse.view();
  }

  @Get('all')
  all() {
    return this.knownUse.all();
  }

  @Post('forget')
  @HttpCode(200)
  async forget(@Body() { shortcutId, from, to }: ForgetBody) {
    const forgotten = await this.knownUse.forget({
      ...(shortcutId && { shortcutId }),
      ...(from && { from: new Date(from) }),
      ...(to && { to: new Date(to) }),
    });
    return { forgotten };
  }
}
