/** Tells every open page which topics changed; changes within a moment are folded into one message. */
import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { filter, map, Subject, type Observable } from 'rxjs';
import type { Topic } from '@rellin/contract';
import { presentAsker } from './asker.js';

const FOLD_MS = 30;

/** What is known of something else is known no more once that was told to change. */
export interface AfterTold {
  afterTold(topics: readonly Topic[]): void;
}

/** Topics, and the pages that need not be told of them since the answer they waited for does. */
type Told = Map<Topic, Set<string | undefined>>;

@Injectable()
export class EventsService implements OnApplicationShutdown {
  private readonly subject = new Subject<Told>();
  private waiting: Told = new Map();
  private timer: NodeJS.Timeout | undefined;

  followedBy(after: readonly AfterTold[]): void {
    this.subject.subscribe((told) => {
      for (const one of after) one.afterTold([...told.keys()]);
    });
  }

  /** What changed by others than this page. */
  streamFor(page: string | undefined): Observable<Topic[]> {
    return this.subject.pipe(
      map((told) =>
        [...told].flatMap(([topic, by]) => (page !== undefined && by.size === 1 && by.has(page) ? [] : topic)),
      ),
      filter((topics) => topics.length > 0),
    );
  }

  changed(...topics: Topic[]): void {
    const asker = presentAsker();
    for (const topic of topics) {
      asker?.changed.add(topic);
      const by = this.waiting.get(topic) ?? new Set();
      this.waiting.set(topic, by.add(asker?.page));
    }
    this.timer ??= setTimeout(() => {
      this.timer = undefined;
      const told = this.waiting;
      this.waiting = new Map();
      this.subject.next(told);
    }, FOLD_MS);
  }

  onApplicationShutdown(): void {
    clearTimeout(this.timer);
    this.subject.complete();
  }
}
