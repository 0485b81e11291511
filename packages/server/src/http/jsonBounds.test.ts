import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { beyondBounds } from './jsonBounds.js';

const bytes = (text: string) => new TextEncoder().encode(text);
const BOUNDS = { depth: 4, keys: 5, items: 6 };

/** The same by definition: of a value that was parsed. */
function isBeyond(value: unknown, depth = 0): boolean {
  if (typeof value !== 'object' || value === null) return false;
  const list = Object.values(value);
  if (depth + 1 > BOUNDS.depth) return true;
  if (list.length > (Array.isArray(value) ? BOUNDS.items : BOUNDS.keys)) return true;
  return list.some((one) => isBeyond(one, depth + 1));
}

describe('bounds of a JSON text', () => {
  it('are those of its value, for any value and any text in it', () => {
    const any = fc.letrec((tie) => ({
      value: fc.oneof(
        { depthSize: 'large' },
        fc.string(),
        fc.constantFrom('{"a":[', '\\"', '","', '\\', ']}'),
        fc.integer(),
        fc.array(tie('value'), { maxLength: 8 }),
        fc.dictionary(fc.string(), tie('value'), { maxKeys: 7 }),
      ),
    })).value;
    fc.assert(
      fc.property(any, fc.boolean(), (value, spaced) => {
        const text = JSON.stringify(value, null, spaced ? 1 : 0);
        expect(beyondBounds(bytes(text), BOUNDS) !== undefined).toBe(isBeyond(value));
      }),
      { seed: 13, numRuns: 2000 },
    );
  });

  it('are told of any bytes at all, JSON or not', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (any) => {
        beyondBounds(any, BOUNDS);
      }),
      { seed: 14 },
    );
  });

  it('cost as much as the text is long: a hundred times as deep or as wide takes no longer for each byte', () => {
    const steps = (text: string) => {
      let reads = 0;
      const counted = new Proxy(bytes(text), {
        get: (target, key) => {
          if (typeof key === 'string' && /^\d+$/.test(key)) reads++;
          return Reflect.get(target, key) as unknown;
        },
      });
      beyondBounds(counted, { depth: 1e6, keys: 1e6, items: 1e6 });
      return reads / text.length;
    };
    const deep = (n: number) => '['.repeat(n) + ']'.repeat(n);
    expect(steps(deep(20_000)) / steps(deep(200))).toBeLessThan(1.1);
    const text = (n: number) => `"${'\\"'.repeat(n)}"`;
    expect(steps(text(20_000)) / steps(text(200))).toBeLessThan(1.1);
  });
});
