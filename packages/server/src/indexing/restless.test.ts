import { describe, expect, it } from '@jest/globals';
import { RestlessFolders } from './restless.js';

/** A folder that changes every `every` ms for `ms`, looked at as soon as it may be; the times of the looks. */
function churn(folders: RestlessFolders, clock: { now: number }, ms: number, every: number): number[] {
  const looks: number[] = [];
  for (const end = clock.now + ms; clock.now < end; clock.now += every)
    if (folders.changed(1) === 0) {
      folders.looked(1);
      looks.push(clock.now);
    }
  return looks;
}

describe('folders that change without rest', () => {
  it('are looked at as any other for half a minute, then ever more rarely, at least once a minute', () => {
    const clock = { now: 0 };
    const folders = new RestlessFolders(() => clock.now);
    const looks = churn(folders, clock, 3_600_000, 100);
    expect(looks.filter((at) => at < 30_000)).toHaveLength(300);
    const gaps = looks.filter((at) => at >= 30_000).map((at, i, all) => at - (all[i - 1] ?? at));
    expect(gaps.slice(1, 8)).toEqual([1000, 2000, 4000, 8000, 16000, 32000, 60000]);
    expect(Math.max(...gaps)).toBe(60_000);
    expect(looks.length).toBeLessThan(300 + 70);
    expect(folders.slowed()).toEqual([1]);
  });

  it('are as any other again after a rest, and at once where somebody wants to see them', () => {
    const clock = { now: 0 };
    const folders = new RestlessFolders(() => clock.now);
    churn(folders, clock, 120_000, 100);
    expect(folders.left(1)).toBeGreaterThan(0);
    folders.calm(1);
    expect([folders.left(1), folders.changed(1), folders.slowed()]).toEqual([0, 0, []]);
    churn(folders, clock, 120_000, 100);
    clock.now += 121_000;
    expect(folders.slowed()).toEqual([]);
    expect(folders.changed(1)).toBe(0);
  });

  it('are looked at as soon as they pause, however rarely that was before', () => {
    const clock = { now: 0 };
    const folders = new RestlessFolders(() => clock.now);
    churn(folders, clock, 300_000, 100);
    expect(folders.changed(1)).toBe(2000);
    clock.now += 1500;
    expect(folders.left(1)).toBe(500);
    clock.now += 500;
    expect(folders.left(1)).toBe(0);
  });

  it('are none where there are pauses, however long it goes on, and never hold up another', () => {
    const clock = { now: 0 };
    const folders = new RestlessFolders(() => clock.now);
    expect(churn(folders, clock, 600_000, 2100)).toHaveLength(286);
    churn(folders, clock, 60_000, 50);
    expect([folders.changed(2), folders.left(2)]).toEqual([0, 0]);
  });
});
