import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import { changeOf, conflictOf, invert, sameValue, type Change, type JournaledRow } from './index.js';

const row = fc.dictionary(
  fc.constantFrom('a', 'b', 'c', 'd'),
  fc.oneof(fc.integer(), fc.string(), fc.constant(null), fc.array(fc.integer(), { maxLength: 3 })),
);

/** Applies a change to a table held as a map, checking it as the server does. */
function apply(table: Map<string, JournaledRow>, change: Change): void {
  expect(conflictOf(change, table.get(change.id))).toBeUndefined();
  if (change.after === null) table.delete(change.id);
  else table.set(change.id, { ...table.get(change.id), ...change.after });
}

describe('changes as data', () => {
  it('any act and its inverse end where they began', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom('1', '2', '3'), fc.option(row)), { maxLength: 12 }), (steps) => {
        const table = new Map<string, JournaledRow>([['1', { a: 1, b: null, c: null, d: null }]]);
        const start = structuredClone([...table]);
        const changes: Change[] = [];
        for (const [id, wanted] of steps) {
          const before = table.get(id) ?? null;
          const full = wanted && { a: null, b: null, c: null, d: null, ...wanted };
          const change = changeOf('t', id, before, full);
          if (!change) continue;
          apply(table, change);
          changes.push(change);
        }
        for (const change of invert(changes)) apply(table, change);
        expect(sameValue(Object.fromEntries(table), Object.fromEntries(start))).toBe(true);
        expect(invert(invert(changes))).toEqual(changes);
      }),
      { seed: 61, numRuns: 500 },
    );
  });
  it('records the changed fields only, and nothing where nothing changed', () => {
    expect(changeOf('t', '1', { a: 1, b: [1] }, { a: 2, b: [1] })).toEqual({
      table: 't',
      id: '1',
      before: { a: 1 },
      after: { a: 2 },
    });
    expect(changeOf('t', '1', { a: 1 }, { a: 1 })).toBeUndefined();
  });
  it('says what stands against a change', () => {
    const change: Change = { table: 't', id: '1', before: { a: 1 }, after: { a: 2 } };
    expect(conflictOf(change, { a: 1, b: 9 })).toBeUndefined();
    expect(conflictOf(change, { a: 3 })).toMatchObject({ kind: 'field-changed-since', field: 'a' });
    expect(conflictOf(change, undefined)).toMatchObject({ kind: 'row-missing' });
    expect(conflictOf({ ...change, before: null }, { a: 1 })).toMatchObject({ kind: 'row-exists' });
  });
});
