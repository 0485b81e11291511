import { Module } from '@nestjs/common';
import { CollectionsModule } from '../collections/collections.module.js';
import { DiskModule } from '../disk/disk.module.js';
import { IndexingModule } from '../indexing/indexing.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PlacesModule } from '../places/places.module.js';
import { ProgramsModule } from '../programs/programs.module.js';
import { PublicationsModule } from '../publications/publications.module.js';
import { SearchesModule } from '../searches/searches.module.js';
import { ShortcutsModule } from '../shortcuts/shortcuts.module.js';
import { TagsModule } from '../tags/tags.module.js';
import { AliasesController } from './aliases.controller.js';
import { AliasesRepository } from './aliases.repository.js';
import { AliasesService } from './aliases.service.js';
import { ManualLinkChangesService } from './manualLinkChanges.service.js';
import { FoundLinksService } from './foundLinks.service.js';
import { LinkScopeRepository } from './linkScope.repository.js';
import { LinksService } from './links.service.js';
import { MenusService } from './menus.service.js';
import { DesiredLinksService } from './desiredLinks.service.js';
import { WrittenLinksRepository } from './writtenLinks.repository.js';

@Module({
  imports: [
    CollectionsModule,
    DiskModule,
    IndexingModule,
    OriginalsModule,
    PlacesModule,
    ProgramsModule,
    PublicationsModule,
    SearchesModule,
    ShortcutsModule,
    TagsModule,
  ],
  controllers: [AliasesController],
  providers: [
    AliasesRepository,
    AliasesService,
    ManualLinkChangesService,
    FoundLinksService,
    LinkScopeRepository,
    LinksService,
    MenusService,
    DesiredLinksService,
    WrittenLinksRepository,
  ],
  exports: [AliasesService],
})
export class AliasesModule {}
