import { describe, expect, it } from '@jest/globals';
import { seeded } from './index.js';

describe('seeded randomness', () => {
  it('repeats itself with the seed and differs without', () => {
    const run = (seed: number) =>
      Array.from(
        { length: 20 },
        (
          (r) => () =>
            r.int(0, 1e6)
        )(seeded(seed)),
      );
    expect(run(7)).toEqual(run(7));
    expect(run(7)).not.toEqual(run(8));
  });
  it('is even enough and keeps its bounds', () => {
    const r = seeded(3);
    const counts = Array(10).fill(0) as number[];
    for (let i = 0; i < 10_000; i++) counts[r.int(0, 9)]!++;
    for (const n of counts) expect(Math.abs(n - 1000)).toBeLessThan(150);
    const normal = Array.from({ length: 5000 }, () => r.normal());
    expect(Math.abs(normal.reduce((s, x) => s + x, 0) / 5000)).toBeLessThan(0.06);
  });
});
