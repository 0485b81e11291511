import { munkres } from 'munkres';
import { describe, expect, it } from '@jest/globals';
import { seeded } from '../random/index.js';
import { assign } from './index.js';

const total = (matrix: number[][], chosen: Iterable<number>) =>
  [...chosen].reduce((sum, column, row) => sum + matrix[row]![column]!, 0);

describe('assignment', () => {
  it('has the cost of the reference solver (package munkres) on random matrices, square and wide', () => {
    const random = seeded(61);
    for (let round = 0; round < 200; round++) {
      const rows = random.int(1, 9);
      const columns = random.int(rows, 12);
      const matrix = Array.from({ length: rows }, () => Array.from({ length: columns }, () => random.int(0, 50)));
      const ours = assign(rows, columns, Float64Array.from(matrix.flat()))!;
      const theirs = munkres(matrix);
      expect(new Set(ours).size).toBe(rows);
      expect(total(matrix, ours)).toBe(theirs.reduce((sum, [r, c]) => sum + matrix[r]![c]!, 0));
    }
  });
  it('takes negative costs and real numbers', () => {
    const matrix = [
      [-1.5, 1],
      [-3, 0.25],
    ];
    expect([...assign(2, 2, Float64Array.from(matrix.flat()))!]).toEqual([1, 0]);
  });
  it('says that there is none where a row has no column of its own left', () => {
    expect(assign(2, 1, new Float64Array(2))).toBeUndefined();
    expect(assign(2, 3, Float64Array.of(1, Infinity, Infinity, 1, Infinity, Infinity))).toBeUndefined();
    expect([...assign(2, 3, Float64Array.of(Infinity, Infinity, 2, 0, 1, 2))!]).toEqual([2, 0]);
  });
  it('is nothing for nothing', () => {
    expect([...assign(0, 5, new Float64Array(0))!]).toEqual([]);
  });
});
