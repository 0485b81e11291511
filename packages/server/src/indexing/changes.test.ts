import { describe, expect, it } from '@jest/globals';
import { addAll, note, PutOffChanges, type Changes } from './changes.js';
import { RestlessFolders } from './restless.js';

describe('changes of folders', () => {
  it('are kept by name until there are too many, and joined without losing any', () => {
    const changes: Changes = new Map();
    note(changes, 1, 'a');
    addAll(
      changes,
      new Map<number, Set<string> | 'all'>([
        [1, new Set(['b'])],
        [2, 'all'],
      ]),
    );
    expect(changes).toEqual(
      new Map<number, unknown>([
        [1, new Set(['a', 'b'])],
        [2, 'all'],
      ]),
    );
    addAll(changes, new Map([[2, new Set(['c'])]]));
    expect(changes.get(2)).toBe('all');
    for (let i = 0; i < 600; i++) note(changes, 1, String(i));
    expect(changes.get(1)).toBe('all');
  });
});

describe('changes that are put off', () => {
  /** A folder that has changed ten times a second for two minutes. */
  const restless = () => {
    const clock = { now: 0 };
    const putOff = new PutOffChanges(new RestlessFolders(() => clock.now));
    for (let i = 0; i < 1200; i++, clock.now += 100) {
      const changes: Changes = new Map();
      if (putOff.heard(changes, 1, `${i}`) === 0) putOff.looked(changes);
    }
    const changes: Changes = new Map();
    putOff.takeAll(changes);
    return { clock, putOff };
  };

  it('come to light two seconds after the last of them, all together, and hold up no other folder', () => {
    const { clock, putOff } = restless();
    const changes: Changes = new Map();
    expect(putOff.heard(changes, 1, 'last')).toBe(2000);
    expect(putOff.heard(changes, 2, 'other')).toBe(0);
    expect(changes).toEqual(new Map([[2, new Set(['other'])]]));
    clock.now += 500;
    expect(putOff.takeDue(changes)).toBe(1500);
    clock.now += 1500;
    expect(putOff.takeDue(changes)).toBeUndefined();
    expect(changes.get(1)).toEqual(new Set(['last']));
    expect(putOff.slowed()).toEqual([1]);
    clock.now += 200_000;
    expect(putOff.slowed()).toEqual([]);
  });

  it('are all there for who waits, at once', () => {
    const { putOff } = restless();
    const changes: Changes = new Map();
    putOff.heard(changes, 1, 'x');
    putOff.takeAll(changes);
    expect(changes.get(1)).toEqual(new Set(['x']));
    putOff.calm(1);
    expect(putOff.heard(new Map(), 1, 'y')).toBe(0);
  });
});
