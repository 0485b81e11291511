/** What is asked of events, with its bounds. */
import { Matches } from 'class-validator';
import type { EventsQuery } from '@rellin/contract';
import { Optional } from '../../http/validation.js';

export class EventsQueryDto implements EventsQuery {
  @Optional() @Matches(/^[\w-]{1,40}$/) page?: string;
}
