/** What one is asked to do in the exercise: drawn by a seed, so that it can be done again. */
import type { Random } from '../random/index.js';

/** A target to be tapped, pixels from the corner of the field. */
export interface Target {
  x: number;
  y: number;
  /** Its width and height. */
  size: number;
}

const SIZES = [20, 32, 56, 96];

/**
 * Targets of four sizes in turn, near and far in turn, so that the difficulties spread from easy to hard. The first is
 * where one starts from. All lie wholly in a field of this size, which is at least 200 pixels each way.
 */
export function targetsIn(random: Random, width: number, height: number, count: number): Target[] {
  const place = (size: number) => ({
    x: size / 2 + random.next() * (width - size),
    y: size / 2 + random.next() * (height - size),
    size,
  });
  const out: Target[] = [{ x: width / 2, y: height / 2, size: 40 }];
  const diagonal = Math.hypot(width, height);
  for (let i = 1; i < count; i++) {
    const last = out[i - 1]!;
    const size = SIZES[i % SIZES.length]!;
    const wanted = diagonal * (i % 3 === 0 ? 0.15 : i % 3 === 1 ? 0.35 : 0.6);
    // of some places that one whose distance is nearest to what is wanted
    const tries = Array.from({ length: 24 }, () => place(size));
    const far = (t: Target) => Math.abs(Math.hypot(t.x - last.x, t.y - last.y) - wanted);
    out.push(tries.reduce((best, t) => (far(t) < far(best) ? t : best)));
  }
  return out;
}

/** Words that are told apart at a glance; none begins like another. */
const WORDS = [
  'anchor', 'barley', 'candle', 'driftwood', 'ember', 'ferry', 'gannet', 'harbour', 'island', 'juniper', 'kettle',
  'lantern', 'marram', 'nettle', 'oyster', 'pebble', 'quarry', 'rudder', 'saltmarsh', 'thistle', 'urchin', 'village',
  'willow', 'yarrow',
]; // prettier-ignore

export interface Choice {
  words: string[];
  /** Which of them is asked for. */
  asked: number;
}

/** Lists of these lengths, in an order one cannot know, each with one word to find. */
export function choicesOf(random: Random, lengths: readonly number[]): Choice[] {
  return lengths.map((length) => {
    const words = [...WORDS];
    for (let i = words.length - 1; i > 0; i--) {
      const k = random.int(0, i);
      [words[i], words[k]] = [words[k]!, words[i]!];
    }
    return { words: words.slice(0, length), asked: random.int(0, length - 1) };
  });
}

/** Short, middling and long menus, mixed. */
export const CHOICE_LENGTHS: readonly number[] = [3, 12, 6, 18, 9, 4, 15, 7, 20, 10, 5, 14];

export const LINES: readonly string[] = [
  'the tide turns at the north point before noon',
  'three boats came home with the evening wind',
  'light on the water and a slow swell from the west',
];
