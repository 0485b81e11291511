import { Global, Module } from '@nestjs/common';
import { EventsController } from '../events/events.controller.js';
import { EventsService } from '../events/events.service.js';
import { JournalController } from './journal.controller.js';
import { JournalService } from './journal.service.js';

@Global()
@Module({
  controllers: [JournalController, EventsController],
  providers: [JournalService, EventsService],
  exports: [JournalService, EventsService],
})
export class JournalModule {}
