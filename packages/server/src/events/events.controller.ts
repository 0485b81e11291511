import { Controller, type MessageEvent, Sse } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { interval, map, merge, type Observable, startWith, takeUntil, last } from 'rxjs';
import { EventsService } from './events.service.js';

@ApiTags('events')
@Controller('events')
export class EventsController {
  constructor(private readonly events: EventsService) {}

  /** Topics that changed; a beat every 20 s keeps the line open. */
  @Sse()
  stream(): Observable<MessageEvent> {
    const topics = this.events.stream.pipe(map((changed): MessageEvent => ({ type: 'changed', data: changed })));
    const beat = interval(20_000).pipe(
      startWith(0),
      map((): MessageEvent => ({ type: 'beat', data: {} })),
      takeUntil(this.events.stream.pipe(last(null, null))),
    );
    return merge(topics, beat);
  }
}
