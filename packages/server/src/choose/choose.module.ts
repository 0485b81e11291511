import { Module } from '@nestjs/common';
import { OpeningsModule } from '../openings/openings.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PlacesModule } from '../places/places.module.js';
import { ChooseController } from './choose.controller.js';
import { ChooseService } from './choose.service.js';

@Module({
  imports: [OpeningsModule, OriginalsModule, PlacesModule],
  controllers: [ChooseController],
  providers: [ChooseService],
})
export class ChooseModule {}
