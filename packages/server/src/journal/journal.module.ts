import { Global, Module } from '@nestjs/common';
import { EventsService } from '../events/events.service.js';
import { JournalController } from './journal.controller.js';
import { JournalService } from './journal.service.js';

@Global()
@Module({
  controllers: [JournalController],
  providers: [JournalService, EventsService],
  exports: [JournalService, EventsService],
})
export class JournalModule {}
