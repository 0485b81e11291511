/** Tells every open page which topics changed; changes within a moment are folded into one message. */
import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { Subject, type Observable } from 'rxjs';
import type { Topic } from '@rellin/contract';

const FOLD_MS = 30;

@Injectable()
export class EventsService implements OnApplicationShutdown {
  private readonly subject = new Subject<Topic[]>();
  private waiting = new Set<Topic>();
  private timer: NodeJS.Timeout | undefined;

  get stream(): Observable<Topic[]> {
    return this.subject;
  }

  changed(...topics: Topic[]): void {
    for (const topic of topics) this.waiting.add(topic);
    this.timer ??= setTimeout(() => {
      this.timer = undefined;
      const out = [...this.waiting];
      this.waiting = new Set();
      this.subject.next(out);
    }, FOLD_MS);
  }

  onApplicationShutdown(): void {
    clearTimeout(this.timer);
    this.subject.complete();
  }
}
