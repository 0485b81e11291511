/** What became of places, told to whoever follows: application/pipeline.ts says who, and in which order. */
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { PlaceId } from '@rellin/contract';
import type { Written } from '../indexing/differences.js';

export type PlaceEvent =
  | { kind: 'state'; placeId: PlaceId; state: 'here' | 'away' }
  | { kind: 'written'; placeId: PlaceId; written: Written; whole: boolean };

/** Called after something changed on disk, or a place went or came back; one after the other. */
export interface AfterDisk {
  afterDisk(event: PlaceEvent): Promise<void> | void;
}

/** What must be there before a place is looked through: whoever follows changes knows what they change. */
export interface BeforeScan {
  beforeScan(placeId: PlaceId): Promise<void>;
}

/** What somebody could not take is told again this much later, twice as late each time. */
const AGAIN_MS = 500;
const LATEST_MS = 60_000;
/** What cannot be taken so often is a fault of ours, and must not keep all that comes after it. */
const MOST_TRIES = 10;

@Injectable()
export class PlaceNews implements OnApplicationShutdown {
  private readonly log = new Logger('places');
  private before: readonly BeforeScan[] = [];
  private after: readonly AfterDisk[] = [];
  /** What those who failed have still to be told, in its order. */
  private readonly waiting = new Map<AfterDisk, PlaceEvent[]>();
  private closing = false;

  followedBy(before: readonly BeforeScan[], after: readonly AfterDisk[]): void {
    this.before = before;
    this.after = after;
  }

  async aboutToScan(placeId: PlaceId): Promise<void> {
    for (const one of this.before) await one.beforeScan(placeId);
  }

  /**
   * Whether all have taken it; awaited, so that shortcuts are right before a place counts as verified. The disk does
   * not say twice what happened on it: whoever fails just now (PostgreSQL may be away for a moment) is told again.
   */
  async tell(event: PlaceEvent): Promise<boolean> {
    let isTaken = true;
    for (const one of this.after) if (!(await this.tellOne(one, event))) isTaken = false;
    return isTaken;
  }

  /** Whether nobody has something of this place still to take. */
  isTaken(placeId: PlaceId): boolean {
    return ![...this.waiting.values()].some((events) => events.some((event) => event.placeId === placeId));
  }

  private async tellOne(one: AfterDisk, event: PlaceEvent): Promise<boolean> {
    const waiting = this.waiting.get(one);
    if (waiting) {
      waiting.push(event);
      return false;
    }
    try {
      await one.afterDisk(event);
      return true;
    } catch (error) {
      this.warn(event, error);
      // told at the same time, another may have failed meanwhile
      const others = this.waiting.get(one);
      if (others) others.push(event);
      else {
        this.waiting.set(one, [event]);
        this.tellAgain(one, 1);
      }
      return false;
    }
  }

  private tellAgain(one: AfterDisk, tries: number): void {
    setTimeout(() => void this.tellWaiting(one, tries), Math.min(LATEST_MS, AGAIN_MS * 2 ** (tries - 1))).unref();
  }

  private async tellWaiting(one: AfterDisk, tries: number): Promise<void> {
    const events = this.waiting.get(one)!;
    for (let event = events[0]; event && !this.closing; event = events[0]) {
      try {
        await one.afterDisk(event);
      } catch (error) {
        this.warn(event, error);
        if (tries < MOST_TRIES) return this.tellAgain(one, tries + 1);
        this.log.error(`given up after ${tries} tries: ${event.kind} of place ${event.placeId}`);
      }
      events.shift();
      tries = 1;
    }
    this.waiting.delete(one);
  }

  private warn(event: PlaceEvent, error: unknown): void {
    this.log.warn(`after ${event.kind}: ${(error as Error).stack ?? String(error)}`);
  }

  onApplicationShutdown(): void {
    this.closing = true;
  }
}
