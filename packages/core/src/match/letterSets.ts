/**
 * For each letter, each letter that begins a word, each that comes second and each pair of neighbouring letters the things whose texts hold it,
 * one bit a thing: signatures kept by bit (Faloutsos and Christodoulakis 1984, bit-sliced; from memory). They tell, with
 * few operations for each 32 things, which may match a word at all; whether they do is for who asks.
 */
import { MOST_FACTOR, SLIP_FROM } from './wordMatch.js';

const FIRST_SLOTS = 256;
const CLASSES = 38;
/** Things are told apart by so many steps of what use makes of them, from 1 to the most. */
const STEPS = 16;
const factorOf = (step: number) => 1 + (step + 1) / STEPS;

/** a–z, digits, anything beyond ASCII, anything else. */
function classOf(code: number): number {
  if (code >= 97 && code <= 122) return code - 97;
  if (code >= 48 && code <= 57) return 26 + code - 48;
  return code > 127 ? 36 : 37;
}

export class LetterSets {
  private words = FIRST_SLOTS >> 5;
  private readonly letters: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES);
  private readonly heads: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES);
  private readonly seconds: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES);
  private readonly pairs: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES * CLASSES);
  /** Those with at least the factor of a step. */
  private readonly factors: (Uint32Array | undefined)[] = new Array<undefined>(STEPS);
  private found = new Uint32Array(FIRST_SLOTS >> 5);
  private one = new Uint32Array(FIRST_SLOTS >> 5);
  private piece = new Uint32Array(FIRST_SLOTS >> 5);
  private none = new Uint32Array(FIRST_SLOTS >> 5);

  /** A slot is a number from 0 on; the smaller, the less there is to look through. */
  put(slot: number, texts: readonly { folded: string; starts: readonly boolean[] }[], factor: number): void {
    while (slot >> 5 >= this.words) this.grow();
    for (let step = 0; step < STEPS && factor >= factorOf(step); step++) this.add(this.factors, step, slot);
    for (const { folded, starts } of texts)
      for (let i = 0; i < folded.length; i++) {
        const own = classOf(folded.charCodeAt(i));
        this.add(this.letters, own, slot);
        if (starts[i]) this.add(this.heads, own, slot);
        if (i + 1 === folded.length) continue;
        const next = classOf(folded.charCodeAt(i + 1));
        if (starts[i]) this.add(this.seconds, next, slot);
        this.add(this.pairs, own * CLASSES + next, slot);
      }
  }

  delete(slot: number): void {
    for (const sets of [this.letters, this.heads, this.seconds, this.pairs, this.factors])
      for (const set of sets) if (set) set[slot >> 5]! &= ~(1 << (slot & 31));
  }

  /**
   * The slots that may match all words, as bits; valid until the next call. Only those count that are used enough: with
   * a factor of at least `forRuns`, and where letters of a word are only in order or one has slipped, of what `forFuzzy`
   * says for a word of so many letters.
   */
  mayMatch(words: readonly string[], forRuns: number, forFuzzy: (letters: number) => number): Uint32Array {
    const { found } = this;
    const used = this.usedAtLeast(forRuns);
    if (used) found.set(used);
    else found.fill(0xffffffff);
    for (const word of words) and(found, this.mayMatchOne(word, forFuzzy(word.length)));
    return found;
  }

  /** All where even the least used are. */
  private usedAtLeast(factor: number): Uint32Array | undefined {
    const step = Math.floor((factor - 1) * STEPS) - 1;
    return step < 0 ? undefined : (this.factors[Math.min(step, STEPS - 1)] ?? this.none);
  }

  private mayMatchOne(word: string, forFuzzy: number): Uint32Array {
    const out = this.one;
    const n = word.length;
    if (n === 1) {
      out.set(this.letters[classOf(word.charCodeAt(0))] ?? this.none);
      return out;
    }
    this.allPairs(word, 0, n, out);
    if (forFuzzy > MOST_FACTOR) return out;
    const { piece } = this;
    const used = this.usedAtLeast(forFuzzy);
    const orUsed = () => {
      if (used) and(piece, used);
      or(out, piece);
    };
    piece.set(this.heads[classOf(word.charCodeAt(0))] ?? this.none);
    for (let k = 1; k < n; k++) and(piece, this.letters[classOf(word.charCodeAt(k))]);
    orUsed();
    if (n < SLIP_FROM) return out;
    // one slip leaves the first or the second half as it is, or changes the letters between them for each other
    const [first, second] = [classOf(word.charCodeAt(0)), classOf(word.charCodeAt(1))];
    const half = n >> 1;
    this.allPairs(word, 0, half, piece);
    and(piece, this.heads[first]);
    orUsed();
    this.allPairs(word, half, n, piece);
    this.andAny(piece, [this.heads[first], this.heads[second], this.seconds[first], this.seconds[second]]);
    orUsed();
    piece.set(this.pairs[classOf(word.charCodeAt(half)) * CLASSES + classOf(word.charCodeAt(half - 1))] ?? this.none);
    and(piece, this.heads[first]);
    orUsed();
    return out;
  }

  /** Slots with every pair of neighbours in a piece of a word. */
  private allPairs(word: string, from: number, to: number, out: Uint32Array): void {
    let own = classOf(word.charCodeAt(from));
    out.fill(0xffffffff);
    for (let i = from + 1; i < to; i++) {
      const next = classOf(word.charCodeAt(i));
      and(out, this.pairs[own * CLASSES + next]);
      own = next;
    }
  }

  private andAny(out: Uint32Array, sets: (Uint32Array | undefined)[]): void {
    const [a, b, c, d] = sets.map((set) => set ?? this.none) as [Uint32Array, Uint32Array, Uint32Array, Uint32Array];
    for (let i = 0; i < out.length; i++) out[i]! &= a[i]! | b[i]! | c[i]! | d[i]!;
  }

  private add(sets: (Uint32Array | undefined)[], at: number, slot: number): void {
    const set = (sets[at] ??= new Uint32Array(this.words));
    set[slot >> 5]! |= 1 << (slot & 31);
  }

  private grow(): void {
    this.words *= 2;
    const larger = (set: Uint32Array) => {
      const out = new Uint32Array(this.words);
      out.set(set);
      return out;
    };
    for (const sets of [this.letters, this.heads, this.seconds, this.pairs, this.factors])
      sets.forEach((set, i) => set && (sets[i] = larger(set)));
    this.found = new Uint32Array(this.words);
    this.piece = new Uint32Array(this.words);
    this.one = new Uint32Array(this.words);
    this.none = new Uint32Array(this.words);
  }
}

function and(a: Uint32Array, b: Uint32Array | undefined): void {
  if (!b) a.fill(0);
  else for (let i = 0; i < a.length; i++) a[i]! &= b[i]!;
}

function or(a: Uint32Array, b: Uint32Array): void {
  for (let i = 0; i < a.length; i++) a[i]! |= b[i]!;
}
