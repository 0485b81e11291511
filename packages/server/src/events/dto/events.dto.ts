/** What is asked of events, with its bounds. */
import { Matches } from 'class-validator';
import type { EventsQuery } from '@rellin/contract';
import { Optional } from '../../http/validation.js';
import { PAGE_NAME } from '../asker.js';

export class EventsQueryDto implements EventsQuery {
  @Optional() @Matches(PAGE_NAME) page?: string;
}
