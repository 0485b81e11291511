import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { AliasesService } from './aliases.service.js';
import { FoundLinksService } from './foundLinks.service.js';
import { NewAliasDto, PublishRequestDto, TakeLinkDto } from './dto/aliases.dto.js';

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
  add(@Body() body: NewAliasDto) {
    return this.aliases.add(body);
  }

  @Get('found')
  links() {
    return this.found.list();
  }

  @Post('take')
  take(@Body() { to, ...link }: TakeLinkDto) {
    return this.found.take(link, to);
  }

  @Get('publications')
  publications() {
    return this.aliases.publications();
  }

  @Post('publications')
  publish(@Body() body: PublishRequestDto) {
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
