import { Module } from '@nestjs/common';
import { DiskModule } from '../disk/disk.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { ProgramsModule } from '../programs/programs.module.js';
import { DrawingsService } from './drawings.service.js';
import { PicturesController } from './pictures.controller.js';
import { PicturesService } from './pictures.service.js';
import { PicturesRepository } from './pictures.repository.js';

@Module({
  imports: [DiskModule, OriginalsModule, ProgramsModule],
  controllers: [PicturesController],
  providers: [PicturesRepository, DrawingsService, PicturesService],
  exports: [PicturesService],
})
export class PicturesModule {}
