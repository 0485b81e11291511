import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { crowded, descendantsOf, menuShape, orderMembers, renamedBy, spread, wouldCycle, type Edge } from './index.js';

const ids = fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f');
const edges = fc.array(fc.record({ parent: ids, child: ids }), { maxLength: 20 });

/** The naive oracle: follow every path. */
function reaches(all: readonly Edge[], from: string, to: string, met = new Set<string>()): boolean {
  return all.some(
    (e) => e.parent === from && (e.child === to || (!met.has(e.child) && reaches(all, e.child, to, met.add(e.child)))),
  );
}

describe('nesting', () => {
  it('knows what lies in what at any depth, as following every path does, cycles or not', () => {
    fc.assert(
      fc.property(edges, ids, ids, (all, a, b) => {
        expect(descendantsOf(all, a).has(b)).toBe(reaches(all, a, b));
      }),
      { seed: 41, numRuns: 500 },
    );
  });

  it('lets in every edge but those that would close a cycle: what is built that way never has one', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ parent: ids, child: ids }), { maxLength: 40 }), (tries) => {
        const built: Edge[] = [];
        for (const edge of tries) if (!wouldCycle(built, edge.parent, edge.child)) built.push(edge);
        for (const id of 'abcdef') expect(descendantsOf(built, id).has(id)).toBe(false);
        for (const edge of tries)
          if (!built.some((b) => b.parent === edge.parent && b.child === edge.child))
            expect(edge.parent === edge.child || reaches(built, edge.child, edge.parent)).toBe(true);
      }),
      { seed: 42, numRuns: 500 },
    );
  });
});

describe('own order', () => {
  it('finds room strictly between neighbours, in order, at either end and in an empty list', () => {
    const side = fc.option(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { nil: undefined });
    fc.assert(
      fc.property(side, side, fc.integer({ min: 1, max: 50 }), (x, y, count) => {
        const [before, after] = x !== undefined && y !== undefined ? [Math.min(x, y), Math.max(x, y)] : [x, y];
        const points = spread(before, after, count);
        expect(points).toHaveLength(count);
        if (crowded(before, after, count)) return;
        const line = [before ?? -Infinity, ...points, after ?? Infinity];
        for (let i = 1; i < line.length; i++) expect(line[i]!).toBeGreaterThan(line[i - 1]!);
      }),
      { seed: 43, numRuns: 1000 },
    );
  });

  it('says when halving has used up a gap, before two points fall together', () => {
    let after = 2;
    let moves = 0;
    while (!crowded(1, after, 1)) {
      after = spread(1, after, 1)[0]!;
      moves++;
      expect(after).toBeGreaterThan(1);
    }
    // a double has 52 bits of fraction: from memory of IEEE 754
    expect(moves).toBe(52);
    expect(crowded(1, 1, 1)).toBe(true);
  });
});

describe('order of members', () => {
  const member = fc.record({ id: fc.nat(), keepFirst: fc.boolean(), size: fc.integer({ min: 0, max: 3 }) });
  it('keeps first what is to be first, in own order, whatever sorts the rest; loses nothing; is stable', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(member, { selector: (m) => m.id, maxLength: 15 }),
        fc.boolean(),
        fc.boolean(),
        (members, sorted, descending) => {
          const by = sorted ? (a: { size: number }, b: { size: number }) => a.size - b.size : undefined;
          const shown = orderMembers(members, by, descending);
          const first = members.filter((m) => m.keepFirst);
          expect(shown.slice(0, first.length)).toEqual(first);
          expect(new Set(shown)).toEqual(new Set(members));
          const rest = shown.slice(first.length);
          for (let i = 1; i < rest.length; i++) {
            const [a, b] = [rest[i - 1]!, rest[i]!];
            const difference = by ? (descending ? b.size - a.size : a.size - b.size) : 0;
            expect(difference).toBeLessThanOrEqual(0);
            if (difference === 0) expect(members.indexOf(a)).toBeLessThan(members.indexOf(b));
          }
        },
      ),
      { seed: 44, numRuns: 500 },
    );
  });
});

describe('the shape of a menu', () => {
  it('is a list while it fits, a grid for many small things, or what was chosen', () => {
    expect([menuShape('auto', 7), menuShape('auto', 16), menuShape('auto', 40)]).toEqual(['list', 'list', 'grid']);
    expect([menuShape('list', 40), menuShape('grid', 2)]).toEqual(['list', 'grid']);
  });
});

describe('renaming by a pattern', () => {
  const sources = [
    { name: 'Net 1', original: 'net-a.png' },
    { name: 'Net 2', original: 'net-b.png' },
  ];
  const names = (pattern: string) => {
    const out = renamedBy(pattern, sources);
    return out.ok ? out.names : out.reason;
  };
  it('fills in name, original and number', () => {
    expect(names('Site: {name}')).toEqual(['Site: Net 1', 'Site: Net 2']);
    expect(names('{nnn} {original}')).toEqual(['001 net-a.png', '002 net-b.png']);
    expect(names('{{n} {n}')).toEqual(['{n} 1', '{n} 2']);
  });
  it('replaces plain text, not patterns', () => {
    expect(names('s/Net/Netz/')).toEqual(['Netz 1', 'Netz 2']);
    expect(names('s/./$&/')).toEqual(['Net 1', 'Net 2']);
    expect(names('s/ /\\//')).toEqual(['Net/1', 'Net/2']);
  });
  it('refuses a field there is not and a name that would be empty', () => {
    expect(names('{size}')).toContain('{size} is no field');
    expect(names('   ')).toBe('“Net 1” would have no name');
    expect(names('s/Net 2//')).toBe('“Net 2” would have no name');
  });
  it('leaves a name as it is for “{name}”, whatever is in it', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 30 }), (text) => {
        fc.pre(text.trim() !== '');
        expect(renamedBy('{name}', [{ name: text, original: 'x' }])).toEqual({ ok: true, names: [text.trim()] });
      }),
      { seed: 45, numRuns: 500 },
    );
  });
});
