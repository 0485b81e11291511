import { describe, expect, it } from '@jest/globals';
import { setImmediate } from 'node:timers/promises';
import type { PlaceId } from '@rellin/contract';
import type { PlaceEvent } from './placeNews.js';

const { PlaceNews } = (await import('../../dist/places/placeNews.js' as string)) as typeof import('./placeNews.js');

const event = (n: number, placeId = 1): PlaceEvent => ({
  kind: 'written',
  placeId: placeId as PlaceId,
  written: { added: n, changed: 0, removed: 0, touched: [], foldersTouched: false, folders: [] },
  whole: false,
});

const numberOf = (e: PlaceEvent) => (e.kind === 'written' ? e.written.added : 0);

/** Takes nothing while it is away. */
class Follower {
  isAway = false;
  readonly took: number[] = [];
  private readonly waits: (() => void)[] = [];

  async afterDisk(e: PlaceEvent): Promise<void> {
    await setImmediate();
    if (this.isAway) throw new Error('PostgreSQL is away');
    this.took.push(numberOf(e));
    for (const go of this.waits.splice(0)) go();
  }

  async hasTaken(count: number): Promise<void> {
    while (this.took.length < count) await new Promise<void>((resolve) => this.waits.push(resolve));
  }
}

describe('news of places', () => {
  it('come later, each once and in order, to whoever could not take them; others do not wait', async () => {
    const news = new PlaceNews();
    const [steady, shaky] = [new Follower(), new Follower()];
    news.followedBy([], [steady, shaky]);
    shaky.isAway = true;
    // two fail at the same time, and one comes while they wait
    expect(await Promise.all([news.tell(event(1)), news.tell(event(2))])).toEqual([false, false]);
    expect(await news.tell(event(3))).toBe(false);
    expect(steady.took).toEqual([1, 2, 3]);
    expect(shaky.took).toEqual([]);
    expect([news.isTaken(1 as PlaceId), news.isTaken(2 as PlaceId)]).toEqual([false, true]);
    shaky.isAway = false;
    await shaky.hasTaken(3);
    await setImmediate();
    expect(news.isTaken(1 as PlaceId)).toBe(true);
    expect(await news.tell(event(4))).toBe(true);
    expect(shaky.took).toEqual([1, 2, 3, 4]);
    expect(steady.took).toEqual([1, 2, 3, 4]);
  });
});
