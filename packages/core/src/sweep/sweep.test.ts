import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { KINDS } from '../kinds/index.js';
import {
  AGE_BANDS,
  GROUPINGS,
  groupOf,
  groupsOf,
  isDue,
  isUnderWay,
  plainName,
  ruleFor,
  SIZE_BANDS,
  stayReason,
  type Groupable,
  type SweepFacts,
} from './index.js';

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 10, 30);
const MINUTES = 60_000;
const facts = (more: Partial<SweepFacts> = {}): SweepFacts => ({
  ...{ name: 'chart.pdf', type: 'file', modified: NOW - DAY },
  ...{ isKeptByRellin: false, holdsDestination: false, isOpen: false, isUnderWay: false },
  ...more,
});
const why = (more: Partial<SweepFacts>) => stayReason(facts(more), NOW, 10 * MINUTES);

describe('what stays in a sweep', () => {
  it('is what is in use, not whole yet, or kept there by somebody', () => {
    expect(why({})).toBeUndefined();
    expect(why({ type: 'folder' })).toBeUndefined();
    expect(why({ isKeptByRellin: true })).toBe('kept-by-rellin');
    expect(why({ holdsDestination: true })).toBe('destination');
    expect(why({ name: '.directory' })).toBe('hidden');
    expect(why({ type: 'link' })).toBe('not-a-file');
    expect(why({ isUnderWay: true })).toBe('download');
    expect(why({ isOpen: true })).toBe('open');
  });
  it('is what was changed lately, but not what a clock that was set dates to tomorrow', () => {
    expect(why({ modified: NOW - 9 * MINUTES })).toBe('recent');
    expect(why({ modified: NOW - 10 * MINUTES })).toBeUndefined();
    expect(why({ modified: NOW + DAY })).toBeUndefined();
  });
  it('are downloads by their own names, and by those beside them', () => {
    const names = new Set(['chart.pdf', 'chart.pdf.part', 'other.pdf', 'Recording.WAV.CRDOWNLOAD', 'part']);
    expect([...names].filter((name) => isUnderWay(name, names))).toEqual([
      'chart.pdf',
      'chart.pdf.part',
      'Recording.WAV.CRDOWNLOAD',
    ]);
  });
});

describe('the name of a folder by itself', () => {
  it('is told with a folder above where it has no letters', () => {
    expect(plainName('Tides', ['Records'])).toBe('Tides');
    expect(plainName('2026', ['Marrowick', 'Records', 'Tides'])).toBe('Tides › 2026');
    expect(plainName('2026-10', ['Survey', 'Photographs', '2026'])).toBe('Photographs › 2026-10');
    expect(plainName('2026', ['1'])).toBe('2026');
    expect(plainName('海鳥', ['1'])).toBe('海鳥');
  });
});

describe('rules', () => {
  it('the first that matches holds', () => {
    const rules = [10, 5, 1].map((least) => ({ matches: (n: number) => n >= least, to: least }));
    expect([12, 7, 1, 0].map((n) => ruleFor(rules, n))).toEqual([0, 1, 2, undefined]);
  });
});

const things: fc.Arbitrary<Groupable[]> = fc.array(
  fc.record({
    kind: fc.constantFrom(...KINDS),
    size: fc.nat({ max: 400_000_000 }),
    modified: fc.integer({ min: NOW - 3000 * DAY, max: NOW + 2 * DAY }),
    opened: fc.option(fc.integer({ min: NOW - 900 * DAY, max: NOW })),
    origin: fc.constantFrom('', 'marrowick.example', 'Scans'),
    isFolder: fc.boolean(),
  }),
);

describe('groups', () => {
  it('hold each thing once, whatever they are made by, and count what lies in them', () => {
    fc.assert(
      fc.property(things, fc.constantFrom(...GROUPINGS), (list, by) => {
        const groups = groupsOf(list, by, NOW);
        expect(groups.reduce((sum, g) => sum + g.count, 0)).toBe(list.length);
        for (const { key, count, size } of groups) {
          const own = list.filter((t) => groupOf(t, by, NOW) === key);
          expect(own).toHaveLength(count);
          expect(size).toBe(own.reduce((sum, t) => sum + (t.isFolder ? 0 : t.size), 0));
        }
      }),
      { seed: 171 },
    );
  });
  it('have bands in their own order, and all else the largest first', () => {
    fc.assert(
      fc.property(things, (list) => {
        const ages = groupsOf(list, 'age', NOW).map((g) => Number(g.key));
        expect(ages).toEqual([...ages].sort((a, b) => a - b));
        const counts = groupsOf(list, 'kind', NOW).map((g) => g.count);
        expect(counts).toEqual([...counts].sort((a, b) => b - a));
      }),
      { seed: 172 },
    );
  });
  it('end where they say', () => {
    for (const { below } of AGE_BANDS.slice(0, -1)) {
      const at = (ago: number) => Number(groupOf({ ...EMPTY, modified: NOW - ago }, 'age', NOW));
      expect(at(below)).toBe(at(below - 1) + 1);
    }
    for (const { below } of SIZE_BANDS.slice(0, -1)) {
      const at = (size: number) => Number(groupOf({ ...EMPTY, size }, 'size', NOW));
      expect(at(below)).toBe(at(below - 1) + 1);
    }
  });
});
const EMPTY: Groupable = { kind: 'file', size: 0, modified: NOW, opened: null, origin: '', isFolder: false };

describe('a kept sweep', () => {
  const none = { things: null, size: null, days: null };
  const backlog = { things: 47, size: 1.2e9, oldest: NOW - 90 * DAY };
  it('is due when one of its bounds is reached', () => {
    expect(isDue(backlog, none, NOW)).toBe(false);
    expect(isDue(backlog, { ...none, things: 47 }, NOW)).toBe(true);
    expect(isDue(backlog, { ...none, things: 48 }, NOW)).toBe(false);
    expect(isDue(backlog, { ...none, size: 1.2e9 }, NOW)).toBe(true);
    expect(isDue(backlog, { ...none, days: 90 }, NOW)).toBe(true);
    expect(isDue(backlog, { things: 48, size: 2e9, days: 91 }, NOW)).toBe(false);
  });
  it('is never due where nothing lies there', () => {
    expect(isDue({ things: 0, size: 0, oldest: null }, { things: 1, size: 1, days: 1 }, NOW)).toBe(false);
  });
});
