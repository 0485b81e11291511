import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import { compareNatural, formatBytes, formatMinutes, formatSteps } from './index.js';

describe('times', () => {
  it('have minutes from sixty seconds on', () => {
    expect([0, 0.4, 57.2, 59.6, 421, 1539].map(formatMinutes)).toEqual([
      '0 s',
      '0 s',
      '57 s',
      '1 min 00 s',
      '7 min 01 s',
      '25 min 39 s',
    ]);
  });
});

describe('sizes', () => {
  it('are SI: 1 500 000 B is 1.5 MB (IEC 80000-13)', () => {
    expect([0, 999, 1000, 1536, 41_200, 999_949, 1_500_000, 999_999_999].map(formatBytes)).toEqual([
      '0 B',
      '999 B',
      '1 kB',
      '1.5 kB',
      '41 kB',
      '1 MB',
      '1.5 MB',
      '1 GB',
    ]);
  });
  it('never show more than three figures before the unit', () => {
    fc.assert(
      fc.property(fc.nat({ max: 2 ** 50 }), (n) => {
        expect(parseFloat(formatBytes(n))).toBeLessThan(1000);
      }),
      { seed: 71 },
    );
  });
});

describe('natural order', () => {
  it('puts 2 before 10 and is total', () => {
    expect(['file 10', 'file 2', 'File 1'].sort(compareNatural)).toEqual(['File 1', 'file 2', 'file 10']);
    expect(compareNatural('a', 'A')).not.toBe(0);
  });
  it('counts steps in words', () => {
    expect([formatSteps(1), formatSteps(3)]).toEqual(['1 step', '3 steps']);
  });
});
