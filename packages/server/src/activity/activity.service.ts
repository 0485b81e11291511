/** Long work that is going on, for the header: counts, rate, stop. */
import { Injectable } from '@nestjs/common';
import type { ActivityView } from '@rellin/contract';
import { EventsService } from '../events/events.service.js';
import { Refusal } from '../problems/refusal.js';

interface Running {
  title: string;
  total: number | null;
  done: number;
  startedAt: number;
  stop?: () => void;
}

@Injectable()
export class ActivityService {
  private readonly running = new Map<string, Running>();

  constructor(private readonly events: EventsService) {}

  begin(id: string, title: string, total: number | null, stop?: () => void): void {
    this.running.set(id, { title, total, done: 0, startedAt: performance.now(), stop });
    this.events.changed('activity');
  }

  progress(id: string, done: number): void {
    const work = this.running.get(id);
    if (!work) return;
    work.done = done;
    this.events.changed('activity');
  }

  end(id: string): void {
    if (this.running.delete(id)) this.events.changed('activity');
  }

  stop(id: string): void {
    const work = this.running.get(id);
    if (!work?.stop) throw new Refusal('not-found', 'That work has ended already.');
    work.stop();
  }

  list(): ActivityView[] {
    return [...this.running].map(([id, w]) => ({
      id,
      title: w.title,
      done: w.done,
      total: w.total,
      perSecond: Math.round((1000 * w.done) / Math.max(1, performance.now() - w.startedAt)),
      canStop: w.stop !== undefined,
    }));
  }
}
