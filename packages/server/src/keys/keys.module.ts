import { Module } from '@nestjs/common';
import { SettingsModule } from '../settings/settings.module.js';
import { KeysService } from './keys.service.js';

@Module({
  imports: [SettingsModule],
  providers: [KeysService],
  exports: [KeysService],
})
export class KeysModule {}
