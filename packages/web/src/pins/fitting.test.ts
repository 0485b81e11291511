import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { fitting } from './useFitting';

describe('how many labels fit', () => {
  const widths = fc.array(fc.integer({ min: 40, max: 220 }), { maxLength: 20 });

  it('all, where they do; with something put aside, room is kept for the menu', () => {
    expect(fitting([100, 100], 206, false)).toBe(2);
    expect(fitting([100, 100], 205, false)).toBe(0);
    expect(fitting([100, 100], 206, true)).toBe(0);
    expect(fitting([100, 100], 320, true)).toBe(2);
    expect(fitting([], 10, false)).toBe(0);
  });

  it('as many as there is room for beside the menu, and not one more', () => {
    fc.assert(
      fc.property(widths, fc.integer({ min: 0, max: 3000 }), (all, room) => {
        const n = fitting(all, room, true);
        const taken = (k: number) => all.slice(0, k).reduce((sum, w) => sum + w + 6, 104);
        expect(taken(n)).toBeLessThanOrEqual(Math.max(room, 104));
        if (n < all.length) expect(taken(n + 1)).toBeGreaterThan(room);
      }),
      { seed: 52, numRuns: 300 },
    );
  });

  it('never fewer in more room', () => {
    fc.assert(
      fc.property(widths, fc.integer({ min: 0, max: 2000 }), fc.integer({ min: 0, max: 500 }), (all, room, more) => {
        expect(fitting(all, room + more, false)).toBeGreaterThanOrEqual(fitting(all, room, false));
      }),
      { seed: 53, numRuns: 300 },
    );
  });
});
