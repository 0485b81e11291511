/** Fits the constants of reach to what one did in the exercise, by least squares (docs/models.md 2). */
import { indexOfDifficulty, pointing, type ReachConstants } from '../reach/index.js';
import { leastSquares, withoutPauses, type Line, type Point } from './line.js';

/** One tap: how far the target was, how large, and how long it took from the last. Pixels and seconds. */
export interface Tap {
  distance: number;
  width: number;
  seconds: number;
}

/** One choice in a list: how long the list is, how far the word was from the pointer, and how long it took. */
export interface Chosen {
  length: number;
  distance: number;
  width: number;
  seconds: number;
}

export interface Done {
  taps: readonly Tap[];
  choices: readonly Chosen[];
  /** When each letter was typed, seconds from the first. */
  typed: readonly number[];
}

export type Part = 'taps' | 'choices' | 'typed';

export interface PartFit {
  part: Part;
  /** What was measured: bits, entries or letters against seconds. */
  points: Point[];
  /** Through them; `undefined` where there is none. */
  line: Line | undefined;
  /** The constants it gives; none where the points tell no law. */
  constants: Partial<ReachConstants>;
  /** Why it gives none. */
  reason: 'ok' | 'too-few' | 'no-law';
}

/** With fewer points a line says nothing. */
const FEWEST: Record<Part, number> = { taps: 8, choices: 6, typed: 12 };
/** Nobody is quicker or slower than this: outside of it, something else was measured. Seconds. */
const BOUNDS: Partial<Record<keyof ReachConstants, readonly [number, number]>> = {
  fittsA: [0, 1],
  fittsB: [0.02, 1],
  searchA: [0, 3],
  searchB: [0.005, 1],
  K: [0.04, 2],
};

/**
 * The constants one's own taps, choices and letters give. Each part by itself: one that was left out, or shows no law,
 * leaves its constants as they were. A tap is pointing and a click, `a + b·ID + 2B`; a choice is what is left when the
 * pointing by one's own line is taken off, `a + b·n`; letters come one K after another.
 */
export function fitExercise(done: Done, now: ReachConstants): PartFit[] {
  const taps = fit(
    'taps',
    withoutPauses(done.taps.map((t) => ({ x: indexOfDifficulty(t.distance, t.width), y: t.seconds }))),
    ({ intercept, slope }) => ({ fittsA: Math.max(0, intercept - 2 * now.B), fittsB: slope }),
  );
  const own = { ...now, ...taps.constants };
  const choices = fit(
    'choices',
    withoutPauses(
      done.choices.map((c) => ({
        x: c.length,
        y: Math.max(0, c.seconds - pointing(c.distance, c.width, own) - 2 * now.B),
      })),
    ),
    ({ intercept, slope }) => ({ searchA: Math.max(0, intercept), searchB: slope }),
  );
  const typed = fit('typed', lettersOf(done.typed), ({ slope }) => ({ K: slope }));
  return [taps, choices, typed];
}

/** All that the parts give, rounded to the milliseconds one can mean. */
export function fittedConstants(fits: readonly PartFit[]): Partial<ReachConstants> {
  const all = Object.assign({}, ...fits.map((f) => f.constants)) as Partial<ReachConstants>;
  return Object.fromEntries(Object.entries(all).map(([name, value]) => [name, Math.round(value * 1000) / 1000]));
}

function fit(part: Part, points: Point[], constantsOf: (line: Line) => Partial<ReachConstants>): PartFit {
  if (points.length < FEWEST[part]) return { part, points, line: undefined, constants: {}, reason: 'too-few' };
  const line = leastSquares(points);
  const constants = line ? constantsOf(line) : {};
  const isLaw =
    line !== undefined &&
    Object.entries(constants).every(([name, value]) => {
      const [low, high] = BOUNDS[name as keyof ReachConstants]!;
      return value >= low && value <= high;
    });
  return isLaw
    ? { part, points, line, constants, reason: 'ok' }
    : { part, points, line, constants: {}, reason: 'no-law' };
}

/** Letters by number and time; a pause in between is taken out, so that what comes after it moves up. */
function lettersOf(typed: readonly number[]): Point[] {
  const gaps = typed.slice(1).map((at, i) => ({ x: i, y: at - typed[i]! }));
  let at = 0;
  return withoutPauses(gaps).map(({ y }, i) => ({ x: i + 1, y: (at += y) }));
}
