import { Module } from '@nestjs/common';
import { KeysModule } from '../keys/keys.module.js';
import { QuickFiltersController } from './quickFilters.controller.js';
import { QuickFiltersService } from './quickFilters.service.js';
import { QuickFiltersRepository } from './quickFilters.repository.js';

@Module({
  imports: [KeysModule],
  controllers: [QuickFiltersController],
  providers: [QuickFiltersRepository, QuickFiltersService],
  exports: [QuickFiltersService],
})
export class QuickFiltersModule {}
