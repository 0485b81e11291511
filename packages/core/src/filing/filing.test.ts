import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { freeName, namesFor, type ClashChoice } from './index.js';

const name = fc.constantFrom('log.csv', 'log (2).csv', 'map.png', 'notes', '.hidden', 'a.tar.gz');
const incoming = fc.array(fc.record({ name, isFolder: fc.boolean() }), { maxLength: 12 });
const there = fc.uniqueArray(name).map((names) => new Set(names));

describe('a free name', () => {
  it('counts up before the extension', () => {
    const taken = new Set(['log.csv', 'log (2).csv', 'Trays.old', '.hidden']);
    expect(freeName('log.csv', (n) => taken.has(n))).toBe('log (3).csv');
    expect(freeName('fresh.csv', (n) => taken.has(n))).toBe('fresh.csv');
    expect(freeName('Trays.old', (n) => taken.has(n), true)).toBe('Trays.old (2)');
    expect(freeName('.hidden', (n) => taken.has(n))).toBe('.hidden (2)');
  });
  it('never grows past what a file system takes', () => {
    for (const long of ['x'.repeat(251) + '.txt', '漢'.repeat(83) + '.txt', '🐦'.repeat(62) + '.png']) {
      const free = freeName(long, (n) => n === long);
      expect(new TextEncoder().encode(free).length).toBeLessThanOrEqual(255);
      expect(free.endsWith(long.slice(-4))).toBe(true);
      expect(free).toContain(' (2)');
    }
  });
});

describe('names for what is filed', () => {
  it('reports clashes and decides nothing without a choice', () => {
    const out = namesFor(
      [
        { name: 'a', isFolder: false },
        { name: 'b', isFolder: false },
      ],
      new Set(['b']),
    );
    expect(out).toEqual({ kind: 'clashes', indexes: [1] });
  });

  it('by any choice: no two under one name, nothing overwritten unless it was asked to replace, all accounted for', () => {
    fc.assert(
      fc.property(
        incoming,
        there,
        fc.constantFrom<ClashChoice>('keep-both', 'replace', 'skip'),
        (things, known, choice) => {
          const out = namesFor(things, known, choice);
          if (out.kind !== 'names') throw new Error('it was decided');
          const names = out.filed.map((f) => f.name);
          expect(new Set(names).size).toBe(names.length);
          for (const f of out.filed) {
            expect(f.replaces).toBe((known as Set<string>).has(f.name));
            if (f.replaces) expect([choice, f.name]).toEqual(['replace', things[f.index]!.name]);
          }
          const all = [...out.filed.map((f) => f.index), ...out.skipped].sort((a, b) => a - b);
          expect(all).toEqual(things.map((_, i) => i));
          if (choice !== 'skip') expect(out.skipped).toEqual([]);
          else expect(names).toEqual(out.filed.map((f) => things[f.index]!.name));
        },
      ),
      { seed: 71, numRuns: 1000 },
    );
  });
});
