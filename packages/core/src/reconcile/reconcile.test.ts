import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import { findSwaps, isSameEntry, reconcile, type Known, type Seen } from './index.js';

const seen = (name: string, inode: number, more: Partial<Seen> = {}): Seen => ({
  type: 'file',
  name,
  size: 1,
  mtime: 1,
  birth: 100 + inode,
  inode,
  ...more,
});
const known = (id: number, name: string, inode: number, more: Partial<Seen> = {}): Known => ({
  id,
  ...seen(name, inode, more),
});

describe('reconciling what vanished with what appeared', () => {
  it('joins a rename, whatever else changed', () => {
    const { moves, gone, appeared } = reconcile([known(1, 'a', 7)], [seen('b', 7, { size: 99, mtime: 99 })]);
    expect(moves).toHaveLength(1);
    expect([gone, appeared]).toEqual([[], []]);
  });
  it('does not join another file under a used inode number, nor another type', () => {
    expect(isSameEntry(known(1, 'a', 7), seen('a', 7, { birth: 999 }))).toBe(false);
    expect(isSameEntry(known(1, 'a', 7), seen('a', 7, { type: 'folder' }))).toBe(false);
  });
  it('wants name or content’s date where there are no birth times', () => {
    expect(isSameEntry(known(1, 'a', 7, { birth: 0 }), seen('a', 7, { birth: 0, size: 5 }))).toBe(true);
    expect(isSameEntry(known(1, 'a', 7, { birth: 0 }), seen('b', 7, { birth: 0 }))).toBe(true);
    expect(isSameEntry(known(1, 'a', 7, { birth: 0 }), seen('b', 7, { birth: 0, mtime: 5 }))).toBe(false);
  });
  it('pairs each at most once and loses nothing', () => {
    const inode = fc.integer({ min: 1, max: 6 });
    fc.assert(
      fc.property(fc.array(inode, { maxLength: 12 }), fc.array(inode, { maxLength: 12 }), (before, after) => {
        const gone = before.map((n, i) => known(i, `g${i}`, n));
        const appeared = after.map((n, i) => seen(`a${i}`, n));
        const result = reconcile(gone, appeared);
        expect(result.moves.length + result.gone.length).toBe(gone.length);
        expect(result.moves.length + result.appeared.length).toBe(appeared.length);
        expect(new Set(result.moves.map((m) => m.gone.id)).size).toBe(result.moves.length);
        for (const n of new Set(before)) {
          const possible = Math.min(before.filter((x) => x === n).length, after.filter((x) => x === n).length);
          expect(result.moves.filter((m) => m.gone.inode === n)).toHaveLength(possible);
        }
      }),
      { seed: 51, numRuns: 500 },
    );
  });
});

describe('exchanged paths', () => {
  it('are found once a pair', () => {
    const a = { row: known(1, 'a', 7), now: seen('a', 8) };
    const b = { row: known(2, 'b', 8), now: seen('b', 7) };
    expect(findSwaps([a, b])).toEqual([[a, b]]);
  });
  it('are no exchange where one of them is a new file', () => {
    expect(
      findSwaps([
        { row: known(1, 'a', 7), now: seen('a', 8) },
        { row: known(2, 'b', 8), now: seen('b', 9) },
      ]),
    ).toEqual([]);
  });
});
