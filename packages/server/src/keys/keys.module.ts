import { Module } from '@nestjs/common';
import { SettingsModule } from '../settings/settings.module.js';
import { KeysService } from './keys.service.js';
import { KeysRepository } from './keys.repository.js';

@Module({
  imports: [SettingsModule],
  providers: [KeysRepository, KeysService],
  exports: [KeysService],
})
export class KeysModule {}
