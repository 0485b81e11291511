import { Global, Module } from '@nestjs/common';
import { SessionModule } from '../session/session.module.js';
import { EventsController } from './events.controller.js';
import { EventsService } from './events.service.js';

@Global()
@Module({
  imports: [SessionModule],
  controllers: [EventsController],
  providers: [EventsService],
  exports: [EventsService],
})
export class EventsModule {}
