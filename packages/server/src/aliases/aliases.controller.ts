import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsBoolean, IsIn, IsString, IsUUID, MaxLength, ValidateIf, ValidateNested } from 'class-validator';
import type { PublicationSource } from '@rellin/contract';
import { AliasesService } from './aliases.service.js';
import { FoundLinksService } from './foundLinks.service.js';
import { Optional, IsPlaceId, IsRowId } from '../http/validation.js';

export class NewAliasBody {
  @IsUUID() shortcutId: string;
  /** A path as typed. */
  @IsString() @MaxLength(8192) folder: string;
  @Optional() @IsString() @MaxLength(500) name?: string;
}

export class NewPublicationBody {
  @IsIn(['collection', 'tag', 'search']) source: PublicationSource;
  @IsUUID() sourceId: string;
  @ValidateIf((b: NewPublicationBody) => b.asMenu !== true) @IsString() @MaxLength(8192) folder?: string;
  @Optional() @IsString() @MaxLength(500) name?: string;
  @Optional() @IsBoolean() ordered?: boolean;
  @Optional() @IsBoolean() asMenu?: boolean;
}

export class OriginalBody {
  @IsPlaceId() placeId: number;
  @IsRowId() originalId: number;
}

export class TakeLinkBody extends OriginalBody {
  /** What it is to lead to instead. */
  @Optional() @ValidateNested() @Type(() => OriginalBody) to?: OriginalBody;
}

@ApiTags('aliases')
@Controller('aliases')
export class AliasesController {
  constructor(
    private readonly aliases: AliasesService,
    private readonly found: FoundLinksService,
  ) {}

  @Get()
  list() {
    return this.aliases.aliases();
  }

  @Post()
  add(@Body() body: NewAliasBody) {
    return this.aliases.add(body);
  }

  @Get('found')
  links() {
    return this.found.list();
  }

  @Post('take')
  take(@Body() { to, ...link }: TakeLinkBody) {
    return this.found.take(link, to);
  }

  @Get('publications')
  publications() {
    return this.aliases.publications();
  }

  @Post('publications')
  publish(@Body() body: NewPublicationBody) {
    return this.aliases.publish(body);
  }

  @Delete('publications/:id')
  @HttpCode(204)
  unpublish(@Param('id', ParseUUIDPipe) id: string) {
    return this.aliases.unpublish(id);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string) {
    return this.aliases.remove(id);
  }
}
