import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { KINDS } from '@rellin/core/kinds';
import { aReach, aShortcut } from '../testing/page';
import { filterShortcuts, sortShortcuts, SORTS, type SortBy } from './order';

const shortcut = fc
  .record({
    id: fc.uuid(),
    name: fc.constantFrom('2 nets', '10 nets', 'nets', 'Äsche', 'asche', 'Zug'),
    kind: fc.constantFrom(...KINDS),
    perWeek: fc.constantFrom(0, 0.5, 3),
    placeId: fc.constantFrom(1, 2, null),
    addedAt: fc.constantFrom('2026-01-01T00:00:00Z', '2026-05-01T00:00:00Z'),
    lastOpenedAt: fc.constantFrom(null, '2026-11-01T00:00:00Z'),
    reach: fc.constantFrom(aReach(), { best: null, folderRoute: null, routes: [] }),
  })
  .map(aShortcut);

describe('sorting the catalogue', () => {
  it.each(Object.keys(SORTS) as SortBy[])('by %s is total: whatever came in, the same comes out', (by) => {
    fc.assert(
      fc.property(fc.uniqueArray(shortcut, { selector: (s) => s.id, maxLength: 12 }), fc.boolean(), (all, down) => {
        const sorted = sortShortcuts(all, by, down);
        expect(sortShortcuts([...all].reverse(), by, down)).toEqual(sorted);
        expect(new Set(sorted)).toEqual(new Set(all));
        const sign = down ? -1 : 1;
        for (let i = 1; i < sorted.length; i++)
          expect(sign * SORTS[by].compare(sorted[i - 1]!, sorted[i]!)).toBeLessThanOrEqual(0);
      }),
      { seed: 31, numRuns: 200 },
    );
  });
  it('puts 2 before 10, and what cannot be reached last', () => {
    const at = (id: string, name: string, reachable = true) =>
      aShortcut({ id, name, ...(reachable ? {} : { reach: { best: null, folderRoute: null, routes: [] } }) });
    const all = [at('a', '10 nets'), at('b', '2 nets', false)];
    expect(sortShortcuts(all, 'name', false).map((s) => s.name)).toEqual(['2 nets', '10 nets']);
    expect(sortShortcuts(all, 'reach', false).map((s) => s.name)).toEqual(['10 nets', '2 nets']);
  });
  it('falls back to the name for a sort it does not know', () => {
    const all = [aShortcut({ id: 'a', name: 'b' }), aShortcut({ id: 'b', name: 'a' })];
    expect(sortShortcuts(all, 'feathers' as SortBy, false).map((s) => s.name)).toEqual(['a', 'b']);
  });
});

describe('filtering the catalogue', () => {
  it('lets through what meets every condition, and everything without one', () => {
    fc.assert(
      fc.property(fc.array(shortcut, { maxLength: 12 }), fc.constantFrom(null, '1', '2'), (all, place) => {
        const kept = filterShortcuts(all, { kind: 'table', state: 'ready', place });
        expect(kept).toEqual(all.filter((s) => s.kind === 'table' && (place === null || String(s.placeId) === place)));
        expect(filterShortcuts(all, { kind: null, state: null, place: null })).toEqual(all);
      }),
      { seed: 32, numRuns: 200 },
    );
  });
});
