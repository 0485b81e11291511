import fc from 'fast-check';
import { expect, it } from '@jest/globals';
import { grouped, piecesOf } from './index.js';

it('pieces of a list are the list again, none empty, all but the last of the size', () => {
  fc.assert(
    fc.property(fc.array(fc.nat()), fc.integer({ min: 1, max: 9 }), (list, size) => {
      const pieces = piecesOf(list, size);
      expect(pieces.flat()).toEqual(list);
      pieces.forEach((piece, i) => {
        if (i < pieces.length - 1) expect(piece).toHaveLength(size);
        else expect(piece.length).toBeGreaterThan(0);
      });
    }),
    { seed: 91, numRuns: 300 },
  );
});

it('groups keep the order of the list, and lose nothing', () => {
  const groups = grouped(new Set([5, 2, 8, 3, 1]), (n) => (n % 2 ? 'odd' : 'even'));
  expect([...groups]).toEqual([
    ['odd', [5, 3, 1]],
    ['even', [2, 8]],
  ]);
});
