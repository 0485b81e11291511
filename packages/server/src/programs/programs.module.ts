import { Module } from '@nestjs/common';
import { SettingsModule } from '../settings/settings.module.js';
import { AssociationsService } from './associations.service.js';
import { ProgramsController } from './programs.controller.js';
import { ProgramsService } from './programs.service.js';
import { ProgramsRepository } from './programs.repository.js';

@Module({
  imports: [SettingsModule],
  controllers: [ProgramsController],
  providers: [ProgramsRepository, AssociationsService, ProgramsService],
  exports: [AssociationsService, ProgramsService],
})
export class ProgramsModule {}
