import { Module } from '@nestjs/common';
import { FilingModule } from '../filing/filing.module.js';
import { PicturesModule } from '../pictures/pictures.module.js';
import { BinController } from './bin.controller.js';
import { BinService } from './bin.service.js';

@Module({
  imports: [FilingModule, PicturesModule],
  controllers: [BinController],
  providers: [BinService],
})
export class BinModule {}
