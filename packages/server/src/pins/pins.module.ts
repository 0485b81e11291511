import { Module } from '@nestjs/common';
import { SettingsModule } from '../settings/settings.module.js';
import { PinsController } from './pins.controller.js';
import { PinsService } from './pins.service.js';
import { PinsRepository } from './pins.repository.js';

@Module({
  imports: [SettingsModule],
  controllers: [PinsController],
  providers: [PinsRepository, PinsService],
  exports: [PinsService],
})
export class PinsModule {}
