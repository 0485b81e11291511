/**
 * What the find line matches: an item folded and read once, a query read once, and the quality one has in the other.
 * Sets of letters, in 32 bits, spare most looks at the text.
 */
import { fold } from './fold.js';
import {
  bestRunQuality,
  headsOf,
  isLetter,
  MOST_FACTOR,
  mostFuzzy,
  mostInOrder,
  orderQuality,
  SLIP_FROM,
  slipQuality,
  slipWeight,
  wordStarts,
} from './wordMatch.js';

export interface FindItem {
  id: string;
  group: 'shortcut' | 'collection' | 'search' | 'original';
  name: string;
  alsoCalled?: readonly string[];
  tags?: readonly string[];
  description?: string;
  /** The folders above, shown and matched as one text. */
  trail?: string;
  /** Usage weight now, ≥ 0. */
  weight?: number;
}

export const FIELD_WEIGHT = { name: 1, alsoCalled: 0.95, tags: 0.8, trail: 0.5, description: 0.45 } as const;

export interface Field {
  weight: number;
  folded: string;
  starts: readonly boolean[];
  /** Where its words begin. */
  headsAt: readonly number[];
  letters: number;
  /** The first and the second letters of its words; with JOINED where one begins right behind another. */
  heads: number;
  seconds: number;
}

export interface Entry {
  item: FindItem;
  /** Its number in the sets of letters; -1 before it has one. */
  slot: number;
  /** It was taken out. */
  gone: boolean;
  letters: number;
  /** Of all its fields. */
  heads: number;
  /** The most words that one of its fields has. */
  words: number;
  /** What use makes of its quality. */
  factor: number;
  /** The name first, then by falling weight. */
  fields: Field[];
}

/** A bit no letter has. */
const JOINED = 1 << 31;

function letterBit(code: number): number {
  if (code >= 97 && code <= 122) return 1 << (code - 97);
  if (code >= 48 && code <= 57) return 1 << 26;
  return code > 127 ? 1 << 27 : 0;
}

function letterSet(text: string): number {
  let set = 0;
  for (let i = 0; i < text.length; i++) set |= letterBit(text.charCodeAt(i));
  return set;
}

function bitCount(x: number): number {
  let n = 0;
  for (; x; x &= x - 1) n++;
  return n;
}

function fieldOf(weight: number, folded: string, starts: readonly boolean[]): Field {
  const headsAt = headsOf(starts);
  const joined = headsAt.some((at) => at > 0 && isLetter(folded.charCodeAt(at - 1)));
  const heads = letterSet(headsAt.map((at) => folded[at]!).join('')) | (joined ? JOINED : 0);
  const seconds = letterSet(headsAt.map((at) => folded[at + 1] ?? '').join(''));
  return { weight, folded, starts, headsAt, letters: letterSet(folded), heads, seconds };
}

export function entryOf(item: FindItem): Entry {
  const fields: Field[] = [];
  const add = (weight: number, text: string | undefined) => {
    if (text === undefined || (text === '' && fields.length > 0)) return;
    const folded = fold(text);
    fields.push(fieldOf(weight, folded, wordStarts(folded, text)));
  };
  add(FIELD_WEIGHT.name, item.name);
  for (const name of item.alsoCalled ?? []) add(FIELD_WEIGHT.alsoCalled, name);
  for (const tag of item.tags ?? []) add(FIELD_WEIGHT.tags, tag);
  add(FIELD_WEIGHT.trail, item.trail);
  add(FIELD_WEIGHT.description, item.description);
  return {
    item,
    slot: -1,
    gone: false,
    letters: fields.reduce((set, f) => set | f.letters, 0),
    heads: fields.reduce((set, f) => set | f.heads, 0),
    words: fields.reduce((most, f) => Math.max(most, f.headsAt.length), 0),
    factor: usageFactor(item.weight ?? 0),
    fields,
  };
}

/** The words of a query, folded. */
export function queryWords(query: string): string[] {
  return fold(query).split(/\s+/).filter(Boolean);
}

/** What is typed, read once. */
export interface Typed {
  words: TypedWord[];
  whole: string;
}

export interface TypedWord {
  text: string;
  letters: number;
  /** How many letters of it a text may be without. */
  slack: number;
  /** What no run of its letters can have, at most. */
  fuzzy: number;
  first: number;
  /** Its first two. */
  two: number;
  /** Its letters behind the first, one by one. */
  others: readonly number[];
}

export function readTyped(typed: string): Typed {
  return readFolded(queryWords(typed), fold(typed.trim()));
}

/** The same of what is folded and split already. */
export function readFolded(words: readonly string[], whole: string): Typed {
  return { words: words.map(readWord), whole };
}

function readWord(text: string): TypedWord {
  const others: number[] = [];
  for (let i = 1; i < text.length; i++) others.push(letterBit(text.charCodeAt(i)));
  const first = letterBit(text.charCodeAt(0));
  return {
    text,
    letters: others.reduce((set, one) => set | one, first),
    // a slip may bring one letter that the text has not
    slack: text.length >= SLIP_FROM ? 1 : 0,
    fuzzy: mostFuzzy(text.length),
    first,
    two: first | (others[0] ?? 0),
    others,
  };
}

export function mayAnswer({ words }: Typed, entry: Entry): boolean {
  for (let i = 0; i < words.length; i++) {
    const missing = words[i]!.letters & ~entry.letters;
    if (missing !== 0 && bitCount(missing) > words[i]!.slack) return false;
  }
  return true;
}

export function usageFactor(weight: number): number {
  return Math.min(MOST_FACTOR, 1 + 0.25 * Math.log2(1 + weight));
}

/** The mean over the words; 0 where one does not match, or where it would stay below `least`. */
export function qualityOf({ words }: Typed, entry: Entry, least = 0): number {
  let sum = 0;
  for (let i = 0; i < words.length; i++) {
    const word = words[i]!;
    // what this word has to be, if all that follow were whole names; less a little, for the rounding
    const needed = least * words.length - sum - (words.length - 1 - i) - 1e-9;
    let best = 0;
    for (const field of entry.fields) {
      if (field.weight <= best || field.weight < needed) break;
      best = Math.max(best, inField(word, field, Math.max(needed, best) / field.weight) * field.weight);
    }
    if (best === 0 || best < needed) return 0;
    sum += best;
  }
  return sum / words.length;
}

/**
 * The quality of a word in one field; 0 also where it would be less than `least`. The sets of letters spare most tries.
 */
function inField(word: TypedWord, field: Field, least: number): number {
  const { text, letters, slack, fuzzy, first, two } = word;
  const missing = letters & ~field.letters;
  if (missing !== 0 && (slack === 0 || bitCount(missing) > slack)) return 0;
  const run = missing === 0 ? bestRunQuality(text, field.folded, field.starts) : 0;
  if (run > 0 || least > fuzzy) return run;
  // a slip leaves one of the first two letters where a word has one of its first two
  const slip =
    slack > 0 && (two & (field.heads | field.seconds)) !== 0 ? slipQuality(text, field.folded, field.headsAt) : 0;
  const order =
    missing === 0 && (first & field.heads) !== 0 && mostOrdered(word, field.heads, field.headsAt.length) >= least
      ? orderQuality(text, field.folded, field.starts)
      : 0;
  return Math.max(slip, order);
}

/** The quality of the letters of a word in order, in any field. */
export function orderedIn({ text, letters, first }: TypedWord, { fields }: Entry): number {
  let best = 0;
  for (const { weight, folded, starts, letters: own, heads } of fields) {
    if (weight <= best) break;
    if ((letters & ~own) === 0 && (first & heads) !== 0)
      best = Math.max(best, orderQuality(text, folded, starts) * weight);
  }
  return best;
}

/** The quality of a word with one slip, in any field; 0 also where it would be less than `least`. */
export function slippedIn({ text, two }: TypedWord, { fields }: Entry, least: number): number {
  let best = 0;
  for (const { weight, folded, headsAt, heads, seconds } of fields) {
    if (weight <= best) break;
    if ((two & (heads | seconds)) === 0) continue;
    // further on it counts less, so that only the start may be of use
    const looked = slipWeight(false, true, true) * weight < least - 1e-9 ? Math.min(1, headsAt.length) : headsAt.length;
    best = Math.max(best, slipQuality(text, folded, headsAt, looked) * weight);
  }
  return best;
}

/** What letters in order can have at most, by the letters that begin words and by how many words there are. */
export function mostOrdered({ text, others }: TypedWord, heads: number, words: number): number {
  let begin = 0;
  for (let i = 0; i < others.length; i++) if ((others[i]! & heads) !== 0) begin++;
  // each begins a word of its own, the first letter another
  return mostInOrder(text.length, Math.min(begin, words - 1), (heads & JOINED) !== 0);
}
