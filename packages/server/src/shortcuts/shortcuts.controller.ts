import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsString,
  IsUUID,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { GoesWithService } from './goesWith.service.js';
import { ShortcutsService } from './shortcuts.service.js';
import { ShortcutViewsService } from './shortcutViews.service.js';
import { Optional, Nullable, IsPlaceId, IsRowId } from '../http/validation.js';

export class NewShortcut {
  @Optional() @IsPlaceId() placeId?: number;
  @Optional() @IsRowId() originalId?: number;
  @Optional() @IsString() @MaxLength(500) programId?: string;
  @Optional() @IsString() @MaxLength(4096) url?: string;
  @Optional() @IsString() @MaxLength(8192) typed?: string;
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsString() @MaxLength(20_000) description?: string;
  @Optional() @IsBoolean() pin?: boolean;
  @Optional() @IsInt() @Min(1) slot?: number;
}

export class ShortcutIds {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) ids: string[];
}

export class ShortcutPatch {
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsString() @MaxLength(20_000) description?: string;
  @Optional()
  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @MaxLength(300, { each: true })
  alsoCalled?: string[];
  @Optional() @Nullable() @IsString() @MaxLength(40) keys?: string | null;
  /** As core's parsePicture reads it. */
  @Optional() @IsString() @MaxLength(80) picture?: string;
}

export class OpenWithBody extends ShortcutIds {
  /** A program's id; null leaves it to the kind and the system. */
  @Nullable() @IsString() @MaxLength(500) programId: string | null;
}

export class GoesWithBody {
  @Optional() @IsUUID() withId?: string;
  @Optional() @IsPlaceId() placeId?: number;
  @Optional() @IsRowId() originalId?: number;
  @Optional() @IsString() @MaxLength(500) programId?: string;
  @Optional() @IsString() @MaxLength(8192) typed?: string;
}

export class NewName {
  @IsUUID() id: string;
  @IsString() @MaxLength(300) name: string;
}

export class NewNames {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => NewName)
  names: NewName[];
}

export class RepointRequest {
  @IsString() @MaxLength(8192) typed: string;
}

export class ListQuery {
  @Optional() @IsIn(['catalogue', 'bin']) from?: 'catalogue' | 'bin';
}

@ApiTags('shortcuts')
@Controller('shortcuts')
export class ShortcutsController {
  constructor(
    private readonly shortcuts: ShortcutsService,
    private readonly views: ShortcutViewsService,
    private readonly goesWith: GoesWithService,
  ) {}

  @Get()
  list(@Query() query: ListQuery) {
    return this.views.list(query.from === 'bin');
  }

  @Post()
  async add(@Body() body: NewShortcut) {
    return this.views.detail(await this.shortcuts.add(body));
  }

  @Post('remove')
  @HttpCode(204)
  remove(@Body() body: ShortcutIds) {
    return this.shortcuts.remove(body.ids);
  }

  @Post('open-with')
  @HttpCode(204)
  openWith(@Body() body: OpenWithBody) {
    return this.shortcuts.setOpenWith(body.ids, body.programId);
  }

  @Post('rename')
  @HttpCode(204)
  rename(@Body() body: NewNames) {
    return this.shortcuts.renameMany(body.names);
  }

  @Get(':id')
  detail(@Param('id', ParseUUIDPipe) id: string) {
    return this.views.detail(id);
  }

  @Patch(':id')
  async change(@Param('id', ParseUUIDPipe) id: string, @Body() body: ShortcutPatch) {
    await this.shortcuts.change(id, body);
    return this.views.detail(id);
  }

  @Delete(':id')
  @HttpCode(204)
  removeOne(@Param('id', ParseUUIDPipe) id: string) {
    return this.shortcuts.remove([id]);
  }

  @Post(':id/put-back')
  @HttpCode(204)
  putBack(@Param('id', ParseUUIDPipe) id: string) {
    return this.shortcuts.putBack(id);
  }

  @Post('acknowledge')
  @HttpCode(204)
  acknowledge(@Body() body: ShortcutIds) {
    return this.shortcuts.acknowledge(body.ids);
  }

  @Post(':id/goes-with')
  @HttpCode(200)
  async addGoesWith(@Param('id', ParseUUIDPipe) id: string, @Body() body: GoesWithBody) {
    await this.goesWith.add(id, body);
    return this.views.detail(id);
  }

  @Delete(':id/goes-with/:companionId')
  @HttpCode(204)
  removeGoesWith(
    @Param('id', ParseUUIDPipe) id: string,
    @Param('companionId', ParseUUIDPipe) companionId: string,
  ): Promise<void> {
    return this.goesWith.remove(id, companionId);
  }

  @Post(':id/repoint')
  @HttpCode(200)
  async repoint(@Param('id', ParseUUIDPipe) id: string, @Body() body: RepointRequest) {
    await this.shortcuts.repoint(id, body.typed);
    return this.views.detail(id);
  }
}
