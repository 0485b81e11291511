import { Module } from '@nestjs/common';
import { SettingsModule } from '../settings/settings.module.js';
import { PinsController } from './pins.controller.js';
import { PinsService } from './pins.service.js';

@Module({
  imports: [SettingsModule],
  controllers: [PinsController],
  providers: [PinsService],
  exports: [PinsService],
})
export class PinsModule {}
