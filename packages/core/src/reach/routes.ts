/**
 * Routes to a thing and what each costs in steps and seconds (models.md 2).
 * A step is one act on one thing: a click on a label, a chord, a choice from an open list, opening one folder, a word typed.
 * Where choosing among n is priced it stands for M; the two are never added for the same decision.
 */
import type { ReachConstants } from './constants.js';
import { choosing, pointing, totalSeconds, type Operator } from './operators.js';

export type RouteKind = 'pin-key' | 'pin-click' | 'find' | 'walk';

export interface Route {
  kind: RouteKind;
  steps: number;
  seconds: number;
  operators: Operator[];
}

/** A label on the strip, as it lies on screen; pixels. */
export interface StripLabel {
  centreX: number;
  centreY: number;
  width: number;
  height: number;
}

/** The frame's sizes at the test width; the pointer is taken to rest in the middle of the view. */
export const FRAME = { left: 18, top: 59, height: 38, gap: 6, restX: 554, restY: 433 } as const;

/** Where labels of these texts come to lie on the strip: key cap, tether and text at 14.5 px semi-bold. */
export function layStrip(labels: readonly string[]): StripLabel[] {
  let x = FRAME.left as number;
  return labels.map((label) => {
    const width = 66 + 8 * label.length;
    const at = { centreX: x + width / 2, centreY: FRAME.top + FRAME.height / 2, width, height: FRAME.height };
    x += width + FRAME.gap;
    return at;
  });
}

const route = (kind: RouteKind, steps: number, operators: Operator[]): Route => ({
  kind,
  steps,
  seconds: totalSeconds(operators),
  operators,
});

/** A pin's own key: M + K, and M + K again for each further key of a chord. */
export function byPinKey(keys: number, c: ReachConstants): Route {
  const operators: Operator[] = [];
  for (let i = 0; i < keys; i++) operators.push({ label: 'M', seconds: c.M }, { label: 'K', seconds: c.K });
  return route('pin-key', 1, operators);
}

/** A click on the pin's label: choice among all labels now on the strip, hand to the pointer, pointing, click. */
export function byPinClick(slot: number, strip: readonly StripLabel[], uses: number, c: ReachConstants): Route {
  const label = strip[slot]!;
  const distance = Math.hypot(label.centreX - FRAME.restX, label.centreY - FRAME.restY);
  return route('pin-click', 1, [
    { label: `choice of ${strip.length}`, seconds: choosing(strip.length, uses, c) },
    { label: 'H', seconds: c.H },
    { label: 'pointing', seconds: pointing(distance, Math.min(label.width, label.height), c) },
    { label: '2B', seconds: 2 * c.B },
  ]);
}

/** The find line: its key, the fewest characters that bring the thing into the first three, choice of three, Enter. */
export function byFindLine(characters: number, rank: 1 | 2 | 3, uses: number, c: ReachConstants): Route {
  const operators: Operator[] = [
    { label: 'M', seconds: c.M },
    { label: 'K for /', seconds: c.K },
    { label: `${characters}K`, seconds: characters * c.K },
    { label: 'choice of 3', seconds: choosing(3, uses, c) },
  ];
  if (rank > 1) operators.push({ label: `${rank - 1}K down`, seconds: (rank - 1) * c.K });
  operators.push({ label: 'K for Enter', seconds: c.K });
  return route('find', 3, operators);
}

/**
 * The walk on foot: the view of originals, the place among the places, then one choice and one double click a level.
 * `siblings` are the real numbers of entries on each level from the place down to the thing itself, each ≥ 1.
 */
export function byWalk(places: number, siblings: readonly number[], uses: number, c: ReachConstants): Route {
  const operators: Operator[] = [
    { label: 'H', seconds: c.H },
    { label: 'P to Originals', seconds: c.P },
    { label: '2B', seconds: 2 * c.B },
    { label: `choice of ${places} places`, seconds: choosing(places, uses, c) },
    { label: 'P', seconds: c.P },
    { label: '2B', seconds: 2 * c.B },
  ];
  for (const n of siblings) {
    operators.push(
      { label: `choice of ${n}`, seconds: choosing(Math.min(n, 400), uses, c) },
      { label: 'P', seconds: c.P },
      { label: '4B', seconds: 4 * c.B },
    );
  }
  return route('walk', 2 + siblings.length, operators);
}

/** The quickest of the routes, or `undefined` where there is none. Ties go to fewer steps. */
export function bestRoute(routes: readonly Route[]): Route | undefined {
  return [...routes].sort((a, b) => a.seconds - b.seconds || a.steps - b.steps)[0];
}
