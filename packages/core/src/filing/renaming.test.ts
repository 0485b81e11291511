import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { renameSteps, type Rename } from './index.js';

const aside = (i: number) => `aside ${i}`;

/** A folder of names and what bears each, changed step by step; a step onto a taken name is a loss. */
function carriedOut(there: readonly string[], steps: readonly Rename[]): Map<string, string> {
  const folder = new Map(there.map((name) => [name, name]));
  for (const { from, to } of steps) {
    expect(folder.has(from)).toBe(true);
    expect(folder.has(to)).toBe(false);
    folder.set(to, folder.get(from)!);
    folder.delete(from);
  }
  return folder;
}

describe('renaming in a folder', () => {
  it('goes along a chain from its end, and round a ring by stepping aside', () => {
    const chain = renameSteps(
      [
        { from: 'a', to: 'b' },
        { from: 'b', to: 'c' },
      ],
      new Set(['a', 'b']),
      aside,
    );
    expect(chain).toMatchObject({
      steps: [
        { from: 'b', to: 'c' },
        { from: 'a', to: 'b' },
      ],
    });
    const ring = renameSteps(
      [
        { from: 'a', to: 'b' },
        { from: 'b', to: 'a' },
      ],
      new Set(['a', 'b']),
      aside,
    );
    expect(ring).toMatchObject({
      steps: [
        { from: 'a', to: 'aside 0' },
        { from: 'b', to: 'a' },
        { from: 'aside 0', to: 'b' },
      ],
    });
  });

  it('does nothing where a name is taken by what stays, by another, or by one that keeps its name', () => {
    const there = new Set(['a', 'b', 'c']);
    expect(renameSteps([{ from: 'a', to: 'c' }], there, aside)).toEqual({ kind: 'clashes', indexes: [0] });
    expect(
      renameSteps(
        [
          { from: 'a', to: 'x' },
          { from: 'b', to: 'x' },
        ],
        there,
        aside,
      ),
    ).toEqual({
      kind: 'clashes',
      indexes: [0, 1],
    });
    expect(
      renameSteps(
        [
          { from: 'a', to: 'b' },
          { from: 'b', to: 'b' },
        ],
        there,
        aside,
      ),
    ).toEqual({
      kind: 'clashes',
      indexes: [0, 1],
    });
  });

  it('brings everything under its new name, nothing over anything, in as few steps as can be', () => {
    const names = ['a', 'b', 'c', 'd', 'e', 'f', 'g'];
    const target = fc.constantFrom(...names, 'x', 'y');
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.constantFrom(...names)),
        fc.array(target, { minLength: 7, maxLength: 7 }),
        (from, to) => {
          const renames = from.map((name, i) => ({ from: name, to: to[i]! }));
          const out = renameSteps(renames, new Set(names), aside);
          const after = names.map((name) => renames.find((r) => r.from === name)?.to ?? name);
          const isUnique = new Set(after).size === after.length;
          expect(out.kind).toBe(isUnique ? 'steps' : 'clashes');
          if (out.kind === 'clashes') {
            const bears = (name: string) => after.filter((other) => other === name).length;
            expect(out.indexes).toEqual(renames.flatMap((r, i) => (bears(r.to) > 1 ? [i] : [])));
            return;
          }
          const folder = carriedOut(names, out.steps);
          expect([...folder].map(([now, was]) => [was, now]).sort()).toEqual(names.map((n, i) => [n, after[i]]).sort());
          const moved = renames.filter((r) => r.from !== r.to).length;
          expect(out.steps.length).toBe(moved + out.steps.filter((s) => s.to.startsWith('aside')).length);
          expect(
            carriedOut(
              [...folder.keys()],
              [...out.steps].reverse().map((s) => ({ from: s.to, to: s.from })),
            ).size,
          ).toBe(7);
        },
      ),
      { seed: 72, numRuns: 3000 },
    );
  });
});
