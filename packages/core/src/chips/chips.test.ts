import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { parseQuery } from '../query/index.js';
import { chipsOf } from './index.js';

const CONTEXT = { places: ['Marrowick', 'Field drive'], tags: ['boat', 'field work'] };
const said = (text: string) => chipsOf(text, CONTEXT).map((c) => [text.slice(c.from, c.to), c.where]);

describe('chips of the find line', () => {
  it.each([
    ['tide opened last week', [['opened last week', 'opened:last-week']]],
    [
      'Changed Yesterday pdf',
      [
        ['Changed Yesterday', 'modified:yesterday'],
        ['pdf', 'kind:pdf'],
      ],
    ],
    ['gull from the field drive', [['from the field drive', 'in:"Field drive"']]],
    [
      'photos on Marrowick',
      [
        ['photos', 'kind:picture'],
        ['on Marrowick', 'in:Marrowick'],
      ],
    ],
    ['tagged field work', [['tagged field work', 'tag:"field work"']]],
    ['logs never opened', [['never opened', 'opened:never']]],
    ['from nowhere', []],
    ['last week', []],
    ['file link', []],
    ['', []],
  ])('%s', (text, expected) => expect(said(text)).toEqual(expected));

  it('are conditions that can be read, and lie in the text without touching', () => {
    const word = fc.constantFrom(
      'opened',
      'new',
      'last',
      'week',
      'today',
      'pdf',
      'folders',
      'from',
      'the',
      'field',
      'drive',
      'in',
      'tag',
      'boat',
      'never',
      'x',
    );
    fc.assert(
      fc.property(fc.array(word, { maxLength: 9 }), (words) => {
        const text = words.join('  ');
        let end = 0;
        for (const chip of chipsOf(text, CONTEXT)) {
          expect(chip.from).toBeGreaterThanOrEqual(end);
          expect(parseQuery(chip.where).ok).toBe(true);
          end = chip.to;
        }
        expect(end).toBeLessThanOrEqual(text.length);
      }),
      { seed: 91 },
    );
  });
});
