import { Module } from '@nestjs/common';
import { OriginalsModule } from '../originals/originals.module.js';
import { PlacesModule } from '../places/places.module.js';
import { BelongsController } from './belongs.controller.js';
import { BelongsService } from './belongs.service.js';

@Module({
  imports: [OriginalsModule, PlacesModule],
  controllers: [BelongsController],
  providers: [BelongsService],
  exports: [BelongsService],
})
export class BelongsModule {}
