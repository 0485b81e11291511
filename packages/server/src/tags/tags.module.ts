import { Module } from '@nestjs/common';
import { OriginalsModule } from '../originals/originals.module.js';
import { PinsModule } from '../pins/pins.module.js';
import { PublicationsModule } from '../publications/publications.module.js';
import { TagsController } from './tags.controller.js';
import { TagsRepository } from './tags.repository.js';
import { TagsService } from './tags.service.js';

@Module({
  imports: [OriginalsModule, PinsModule, PublicationsModule],
  controllers: [TagsController],
  providers: [TagsRepository, TagsService],
  exports: [TagsRepository, TagsService],
})
export class TagsModule {}
