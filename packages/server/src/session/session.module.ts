import { Module } from '@nestjs/common';
import { EnterController, SessionController } from './session.controller.js';
import { SessionService } from './session.service.js';

@Module({
  controllers: [EnterController, SessionController],
  providers: [SessionService],
  exports: [SessionService],
})
export class SessionModule {}
