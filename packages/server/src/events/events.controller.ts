import { Controller, type MessageEvent, Query, Req, Sse } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { interval, map, merge, type Observable, startWith, takeUntil, last } from 'rxjs';
import type { FastifyRequest } from 'fastify';
import { SessionService } from '../session/session.service.js';
import { EventsQueryDto } from './dto/events.dto.js';
import { EventsService } from './events.service.js';

@ApiTags('events')
@Controller('events')
export class EventsController {
  constructor(
    private readonly events: EventsService,
    private readonly sessions: SessionService,
  ) {}

  /**
   * Topics that changed, but by the page that listens: its answers tell them. A beat every 20 s keeps the line open.
   */
  @Sse()
  stream(@Req() { who }: FastifyRequest, @Query() { page }: EventsQueryDto): Observable<MessageEvent> {
    const topics = this.events
      .streamFor(page)
      .pipe(map((changed): MessageEvent => ({ type: 'changed', data: changed })));
    const beat = interval(20_000).pipe(
      startWith(0),
      map((): MessageEvent => ({ type: 'beat', data: {} })),
      takeUntil(topics.pipe(last(null, null))),
    );
    const all = merge(topics, beat);
    // who is signed out hears no more
    return who.session === undefined ? all : all.pipe(takeUntil(this.sessions.endOf(who.session)));
  }
}
