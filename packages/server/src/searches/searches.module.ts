import { Module } from '@nestjs/common';
import { CollectionsModule } from '../collections/collections.module.js';
import { KeysModule } from '../keys/keys.module.js';
import { MemoryIndexModule } from '../memoryIndex/memoryIndex.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PinsModule } from '../pins/pins.module.js';
import { TagsModule } from '../tags/tags.module.js';
import { PublishedAnswersService } from './publishedAnswers.service.js';
import { SearchAnswersService } from './searchAnswers.service.js';
import { SearchNewsService } from './searchNews.service.js';
import { SearchesController } from './searches.controller.js';
import { SearchesRepository } from './searches.repository.js';
import { SearchesService } from './searches.service.js';

@Module({
  imports: [CollectionsModule, KeysModule, MemoryIndexModule, OriginalsModule, PinsModule, TagsModule],
  controllers: [SearchesController],
  providers: [SearchesRepository, SearchesService, PublishedAnswersService, SearchAnswersService, SearchNewsService],
  exports: [SearchesRepository, SearchesService, SearchAnswersService, SearchNewsService],
})
export class SearchesModule {}
