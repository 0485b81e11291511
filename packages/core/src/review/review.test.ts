import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import { LONG_LOST_AFTER, NEVER_OPENED_AFTER, review, STALE_AFTER, type ReviewItem } from './index.js';

const NOW = 1_800_000_000_000;
const item = (id: string, more: Partial<ReviewItem> = {}): ReviewItem => ({
  id,
  name: id,
  kind: 'text',
  target: `1/${id}`,
  content: null,
  size: null,
  folder: null,
  pinned: false,
  addedAt: NOW - 1000,
  openedAt: NOW - 1000,
  lostSince: null,
  ...more,
});
const found = (items: ReviewItem[], collections: { id: string; members: string[] }[] = []) =>
  review(items, collections, NOW).map(({ kind, items: of, collections: and }) => [kind, ...of, ...and]);

describe('the review', () => {
  it('names duplicates once, the one to keep first', () => {
    expect(
      found([
        item('a', { target: 'x', content: 'c' }),
        item('b', { target: 'x', content: 'c', pinned: true }),
        item('c', { content: 'd', openedAt: null }),
        item('d', { content: 'd' }),
        item('e', { name: 'Tide table', size: 40 }),
        item('f', { name: 'tide-table (1)', size: 40 }),
        item('g', { name: 'Tide tabel copy 2', size: 40 }),
        // a number, or a word, tells one from another
        item('h', { name: 'Tide table 2', size: 40 }),
        item('i', { name: 'North cliff', size: 50 }),
        item('j', { name: 'South cliff', size: 50 }),
      ]),
    ).toEqual([
      ['same-original', 'b', 'a'],
      ['same-content', 'd', 'c'],
      ['alike', 'e', 'f', 'g'],
    ]);
  });
  it('finds what a pinned folder shows anyway, what is long lost, never opened or stale', () => {
    expect(
      found([
        item('folder', { pinned: true, target: '1/7' }),
        item('inside', { folder: '1/7' }),
        item('also pinned', { folder: '1/7', pinned: true }),
        item('lost', { lostSince: NOW - LONG_LOST_AFTER - 1 }),
        item('lost lately', { lostSince: NOW - 1, openedAt: null, addedAt: 0 }),
        item('never', { openedAt: null, addedAt: NOW - NEVER_OPENED_AFTER - 1 }),
        item('new', { openedAt: null }),
        item('stale', { openedAt: NOW - STALE_AFTER - 1 }),
      ]),
    ).toEqual([
      ['shadowed', 'inside'],
      ['long-lost', 'lost'],
      ['never-opened', 'never'],
      ['stale', 'stale'],
    ]);
  });
  it('calls collections the same from four members in five on', () => {
    const members = (n: number, extra: string[] = []) => [...Array.from({ length: n }, (_, i) => String(i)), ...extra];
    const pair = (a: string[], b: string[]) =>
      found(
        [],
        [
          { id: 'A', members: a },
          { id: 'B', members: b },
        ],
      );
    // 4 of 5 in all: Jaccard 0.8; 3 of 5: 0.6
    expect(pair(members(4), members(4, ['x']))).toEqual([['same-members', 'B', 'A']]);
    expect(pair(members(3, ['y']), members(3, ['x']))).toEqual([]);
    expect(pair(members(2), members(2))).toEqual([]);
  });
  it('says of each pair what its definition says, whatever there is', () => {
    const sets = fc.array(fc.uniqueArray(fc.constantFrom(...'abcdefg'), { maxLength: 7 }), { maxLength: 6 });
    fc.assert(
      fc.property(sets, (all) => {
        const collections = all.map((members, i) => ({ id: String(i), members }));
        const wanted = new Set<string>();
        for (const a of collections)
          for (const b of collections) {
            if (a.id >= b.id || a.members.length < 3 || b.members.length < 3) continue;
            const both = a.members.filter((m) => b.members.includes(m)).length;
            if (both / (a.members.length + b.members.length - both) >= 0.8) wanted.add(`${a.id} ${b.id}`);
          }
        const got = review([], collections, NOW).map((g) => [...g.collections].sort().join(' '));
        expect(new Set(got)).toEqual(wanted);
      }),
      { seed: 55 },
    );
  });
});
