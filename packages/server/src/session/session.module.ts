import { Module } from '@nestjs/common';
import { EnterController, SessionController } from './session.controller.js';
import { SessionRepository } from './session.repository.js';
import { SessionService } from './session.service.js';

@Module({
  controllers: [EnterController, SessionController],
  providers: [SessionRepository, SessionService],
  exports: [SessionService],
})
export class SessionModule {}
