/**
 * What it takes to make a shortcut, from where one may begin: by the keystroke-level model, as routes to open things
 * are priced (docs/models.md 2).
 */
import type { ReachConstants } from './constants.js';
import { choosing, pointing, totalSeconds, type Operator } from './operators.js';

/** Where one begins: a row in Originals, a path or address copied, a program one knows by name, another window. */
export type AddingFrom = 'row' | 'clipboard' | 'program' | 'other window';

export interface Adding {
  from: AddingFrom;
  /** What is done, a step each. */
  steps: string[];
  operators: Operator[];
  seconds: number;
}

/** A row from the middle of the view, and a window beside this one, in pixels. */
const ROW = { distance: 300, height: 36 };
const WINDOW = { distance: 700, size: 400 };
/** So many letters of a program's name bring it up among some dozens (see `find.mrr` in the bench). */
const LETTERS = 3;

/**
 * All of them, in the order of `AddingFrom`. O(1).
 *
 * @example addingRoutes(REACH_CONSTANTS).every((route) => route.steps.length <= 4) // true
 */
export function addingRoutes(c: ReachConstants): Adding[] {
  const press = (label: string): Operator[] => [
    { label: 'M', seconds: c.M },
    { label: `K for ${label}`, seconds: c.K },
  ];
  const make = (from: AddingFrom, steps: string[], operators: Operator[]): Adding => ({
    from,
    steps,
    operators,
    seconds: totalSeconds(operators),
  });
  return [
    make(
      'row',
      ['press the row', 'N'],
      [
        { label: 'M', seconds: c.M },
        { label: 'H', seconds: c.H },
        { label: 'pointing', seconds: pointing(ROW.distance, ROW.height, c) },
        { label: '2B', seconds: 2 * c.B },
        { label: 'H', seconds: c.H },
        ...press('N'),
      ],
    ),
    make('clipboard', ['Ctrl+V', 'Enter'], [...press('Ctrl'), { label: 'K for V', seconds: c.K }, ...press('Enter')]),
    make(
      'program',
      ['N', 'type the name’s beginning', 'choose it', 'Enter'],
      [
        ...press('N'),
        { label: `${LETTERS}K`, seconds: LETTERS * c.K },
        { label: 'choice of 3', seconds: choosing(3, 0, c) },
        { label: '2K to choose it', seconds: 2 * c.K },
        ...press('Enter'),
      ],
    ),
    make(
      'other window',
      ['drag it onto Rellin', 'Enter'],
      [
        { label: 'M', seconds: c.M },
        { label: 'H', seconds: c.H },
        { label: 'pointing', seconds: pointing(ROW.distance, ROW.height, c) },
        { label: 'B', seconds: c.B },
        { label: 'pointing', seconds: pointing(WINDOW.distance, WINDOW.size, c) },
        { label: 'B', seconds: c.B },
        { label: 'H', seconds: c.H },
        ...press('Enter'),
      ],
    ),
  ];
}
