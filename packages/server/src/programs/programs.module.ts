import { Module } from '@nestjs/common';
import { SettingsModule } from '../settings/settings.module.js';
import { AssociationsService } from './associations.service.js';
import { ProgramsController } from './programs.controller.js';
import { ProgramsService } from './programs.service.js';

@Module({
  imports: [SettingsModule],
  controllers: [ProgramsController],
  providers: [AssociationsService, ProgramsService],
  exports: [AssociationsService, ProgramsService],
})
export class ProgramsModule {}
