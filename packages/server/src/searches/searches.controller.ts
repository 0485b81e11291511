import type { SearchId } from '@rellin/contract';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { SearchAnswersService } from './searchAnswers.service.js';
import { SearchNewsService } from './searchNews.service.js';
import { SearchesService } from './searches.service.js';
import { FromQueryDto } from '../http/shared.dto.js';
import { SearchQuestionDto, SearchPatchDto, NewSearchDto, AnswersQueryDto } from './dto/searches.dto.js';

@ApiTags('searches')
@Controller('searches')
export class SearchesController {
  constructor(
    private readonly searches: SearchesService,
    private readonly asking: SearchAnswersService,
    private readonly news: SearchNewsService,
  ) {}

  @Get()
  list(@Query() query: FromQueryDto) {
    return this.searches.list(query.from === 'bin');
  }

  @Post()
  async add(@Body() body: NewSearchDto) {
    return this.searches.one(await this.searches.add(body));
  }

  @Post('ask')
  @HttpCode(200)
  ask(@Body() body: SearchQuestionDto) {
    return this.asking.ask(body);
  }

  @Get(':id')
  one(@Param('id', ParseUUIDPipe) id: SearchId) {
    return this.searches.one(id);
  }

  @Patch(':id')
  async change(@Param('id', ParseUUIDPipe) id: SearchId, @Body() body: SearchPatchDto) {
    await this.searches.change(id, body);
    return this.searches.one(id);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: SearchId) {
    return this.searches.remove(id);
  }

  @Post(':id/put-back')
  @HttpCode(204)
  putBack(@Param('id', ParseUUIDPipe) id: SearchId) {
    return this.searches.putBack(id);
  }

  @Get(':id/answers')
  answers(@Param('id', ParseUUIDPipe) id: SearchId, @Query() query: AnswersQueryDto) {
    return this.asking.answers(id, query.offset ?? 0, query.limit ?? 100);
  }

  @Get(':id/changes')
  changes(@Param('id', ParseUUIDPipe) id: SearchId) {
    return this.news.changes(id);
  }

  @Post(':id/mark-seen')
  @HttpCode(204)
  markSeen(@Param('id', ParseUUIDPipe) id: SearchId) {
    return this.news.markSeen(id);
  }
}
