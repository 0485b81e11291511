import { Module } from '@nestjs/common';
import { CatalogueModule } from '../catalogue/catalogue.module.js';
import { CollectionsModule } from '../collections/collections.module.js';
import { FinderModule } from '../finder/finder.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { SearchesModule } from '../searches/searches.module.js';
import { FindController } from './find.controller.js';

@Module({
  imports: [CatalogueModule, CollectionsModule, FinderModule, OriginalsModule, SearchesModule],
  controllers: [FindController],
})
export class FindModule {}
