import type { ShortcutId } from '@rellin/contract';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { GoesWithService } from '../shortcuts/goesWith.service.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import { NewShortcutsService } from './newShortcuts.service.js';
import { ShortcutViewsService } from './shortcutViews.service.js';
import { FromQueryDto } from '../http/shared.dto.js';
import {
  MeantDto,
  NewShortcutDto,
  NewShortcutsDto,
  ShortcutIdsDto,
  ShortcutPatchDto,
  OpenWithDto,
  GoesWithDto,
  NewNamesDto,
  RepointDto,
} from './dto/shortcuts.dto.js';

@ApiTags('shortcuts')
@Controller('shortcuts')
export class ShortcutsController {
  constructor(
    private readonly shortcuts: ShortcutsService,
    private readonly views: ShortcutViewsService,
    private readonly goesWith: GoesWithService,
    private readonly fresh: NewShortcutsService,
  ) {}

  @Get()
  list(@Query() query: FromQueryDto) {
    return this.views.list(query.from === 'bin');
  }

  @Post()
  async add(@Body() body: NewShortcutDto) {
    return this.views.detail(await this.shortcuts.add(body));
  }

  @Get('meant')
  meant(@Query() { path }: MeantDto) {
    return this.fresh.meant(path);
  }

  @Post('many')
  addMany(@Body() body: NewShortcutsDto) {
    return this.fresh.add(body);
  }

  @Post('remove')
  @HttpCode(204)
  remove(@Body() body: ShortcutIdsDto) {
    return this.shortcuts.remove(body.ids);
  }

  @Post('open-with')
  @HttpCode(204)
  openWith(@Body() body: OpenWithDto) {
    return this.shortcuts.setOpenWith(body.ids, body.programId);
  }

  @Post('rename')
  @HttpCode(204)
  rename(@Body() body: NewNamesDto) {
    return this.shortcuts.renameMany(body.names);
  }

  @Get(':id')
  detail(@Param('id', ParseUUIDPipe) id: ShortcutId) {
    return this.views.detail(id);
  }

  @Patch(':id')
  async change(@Param('id', ParseUUIDPipe) id: ShortcutId, @Body() body: ShortcutPatchDto) {
    await this.shortcuts.change(id, body);
    return this.views.detail(id);
  }

  @Delete(':id')
  @HttpCode(204)
  removeOne(@Param('id', ParseUUIDPipe) id: ShortcutId) {
    return this.shortcuts.remove([id]);
  }

  @Post(':id/put-back')
  @HttpCode(204)
  putBack(@Param('id', ParseUUIDPipe) id: ShortcutId) {
    return this.shortcuts.putBack(id);
  }

  @Post('acknowledge')
  @HttpCode(204)
  acknowledge(@Body() body: ShortcutIdsDto) {
    return this.shortcuts.acknowledge(body.ids);
  }

  @Post(':id/goes-with')
  @HttpCode(200)
  async addGoesWith(@Param('id', ParseUUIDPipe) id: ShortcutId, @Body() body: GoesWithDto) {
    await this.goesWith.add(id, body);
    return this.views.detail(id);
  }

  @Delete(':id/goes-with/:companionId')
  @HttpCode(204)
  removeGoesWith(
    @Param('id', ParseUUIDPipe) id: ShortcutId,
    @Param('companionId', ParseUUIDPipe) companionId: string,
  ): Promise<void> {
    return this.goesWith.remove(id, companionId);
  }

  @Post(':id/repoint')
  @HttpCode(200)
  async repoint(@Param('id', ParseUUIDPipe) id: ShortcutId, @Body() body: RepointDto) {
    await this.shortcuts.repoint(id, body.typed);
    return this.views.detail(id);
  }
}
