/**
 * For each letter, each pair of neighbours, and each letter or pair that begins a word or the text, the things whose
 * texts hold it there, one bit a thing: signatures kept by bit (Faloutsos and Christodoulakis 1984, bit-sliced; from
 * memory). They tell, with few operations for each 32 things, which may match a word at all; whether they do is for who
 * asks.
 */
import { SLIP_FROM } from './wordMatch.js';

const FIRST_SLOTS = 256;
const CLASSES = 38;
/** Things are told apart by so many steps of what use makes of them, from 1 to the most. */
const STEPS = 16;
/** Words of a text are told apart up to so many. */
const MOST_WORDS = 8;
/** So far from the start of a word a pair is told apart from those anywhere. */
const NEAR = 4;
const ALL = 0xffffffff;
const factorOf = (step: number) => 1 + (step + 1) / STEPS;

/** a–z, digits, anything beyond ASCII, anything else. */
function classOf(code: number): number {
  if (code >= 97 && code <= 122) return code - 97;
  if (code >= 48 && code <= 57) return 26 + code - 48;
  return code > 127 ? 36 : 37;
}

interface Text {
  folded: string;
  starts: readonly boolean[];
}

export class LetterSets {
  private words = FIRST_SLOTS >> 5;
  private readonly letters: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES);
  private readonly heads: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES);
  private readonly seconds: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES);
  /** Of the first word of a text only: its first and its second letter. */
  private readonly begins: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES);
  private readonly nexts: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES);
  /** The first two letters of words, as pairs. */
  private readonly headPairs: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES * CLASSES);
  /** Pairs up to NEAR letters behind the first letter of a word. */
  private readonly nearPairs: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES * CLASSES);
  private readonly pairs: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES * CLASSES);
  /** Of two letters, those with a text that holds the second anywhere behind the first. */
  private readonly behind: (Uint32Array | undefined)[] = new Array<undefined>(CLASSES * CLASSES);
  /** Those of which one text has more than so many words. */
  private readonly wordy: (Uint32Array | undefined)[] = new Array<undefined>(MOST_WORDS);
  /** Those with at least the factor of a step. */
  private readonly factors: (Uint32Array | undefined)[] = new Array<undefined>(STEPS);
  /** Of each step the words before this one hold all its members; what is used most has the first slots, as a rule. */
  private readonly ends = new Array<number>(STEPS).fill(0);
  private readonly first = new Int32Array(CLASSES);
  private readonly last = new Int32Array(CLASSES);
  private found = new Uint32Array(FIRST_SLOTS >> 5);
  private one = new Uint32Array(FIRST_SLOTS >> 5);
  private piece = new Uint32Array(FIRST_SLOTS >> 5);
  private none = new Uint32Array(FIRST_SLOTS >> 5);

  /** Makes room for so many slots. */
  reserve(slots: number): void {
    if (slots <= this.words * 32) return;
    let words = this.words;
    while (slots > words * 32) words *= 2;
    this.growTo(words);
  }

  /** A slot is a number from 0 on; the smaller, the less there is to look through. */
  put(slot: number, texts: readonly Text[], factor: number): void {
    this.reserve(slot + 1);
    const word = slot >> 5;
    const bit = 1 << (slot & 31);
    for (let step = 0; step < STEPS && factor >= factorOf(step); step++) {
      add(this.setAt(this.factors, step), word, bit);
      this.ends[step] = Math.max(this.ends[step]!, word + 1);
    }
    this.eachSet(texts, add, word, bit);
  }

  /** With the texts it was put with: only their sets hold it. */
  delete(slot: number, texts: readonly Text[]): void {
    const word = slot >> 5;
    const bit = 1 << (slot & 31);
    for (const set of this.factors) if (set) drop(set, word, bit);
    this.eachSet(texts, drop, word, bit);
  }

  private eachSet(texts: readonly Text[], act: typeof add, word: number, bit: number): void {
    for (const { folded, starts } of texts) {
      const { length } = folded;
      let words = 0;
      // where the last word begins that does not begin here
      let head = -Infinity;
      let here = -Infinity;
      // its letters in the order in which they are met first, and where each was met first and last
      const met: number[] = [];
      let own = length === 0 ? 0 : classOf(folded.charCodeAt(0));
      for (let i = 0; i < length; i++) {
        act(this.setAt(this.letters, own), word, bit);
        if (!met.includes(own)) {
          met.push(own);
          this.first[own] = i;
        }
        this.last[own] = i;
        if (i === 0) act(this.setAt(this.begins, own), word, bit);
        if (here < i) head = here;
        if (starts[i]) here = i;
        if (starts[i]) {
          act(this.setAt(this.heads, own), word, bit);
          if (words > 0 && words < MOST_WORDS) act(this.setAt(this.wordy, words), word, bit);
          words++;
        }
        if (i + 1 === length) break;
        const next = classOf(folded.charCodeAt(i + 1));
        const pair = own * CLASSES + next;
        if (i === 0) act(this.setAt(this.nexts, next), word, bit);
        if (starts[i]) {
          act(this.setAt(this.seconds, next), word, bit);
          act(this.setAt(this.headPairs, pair), word, bit);
        }
        act(this.setAt(this.pairs, pair), word, bit);
        if (i - head <= NEAR) act(this.setAt(this.nearPairs, pair), word, bit);
        own = next;
      }
      for (const one of met)
        for (const other of met)
          if (this.first[one]! < this.last[other]!) act(this.setAt(this.behind, one * CLASSES + other), word, bit);
    }
  }

  /** The slots that may hold all words as runs of letters, and are used so much; as bits, valid until the next call. */
  holding(words: readonly string[], factor: number): Uint32Array {
    const found = this.used(factor);
    for (const word of words) this.andRun(found, word);
    return found;
  }

  /**
   * Those that may have the letters of a word in order from the start of a word on, so many of the later ones beginning
   * words as well; likewise.
   */
  inOrder(word: string, factor: number, heads: number): Uint32Array {
    const found = this.used(factor);
    this.andInOrder(found, word);
    // each of them begins a word of its own, and the first letter another
    if (heads > 0) and(found, this.wordy[Math.min(heads, MOST_WORDS - 1)]);
    return found;
  }

  /** Those that may have a word of four letters and more with one slip, anywhere or where the text begins; likewise. */
  slipped(word: string, factor: number, atStart: boolean): Uint32Array {
    const found = this.used(factor);
    const one = this.one.subarray(0, found.length).fill(0);
    this.orSlipped(one, word, atStart);
    and(found, one);
    return found;
  }

  /** Those that may match all words in any way; likewise. */
  matching(words: readonly string[], factor: number): Uint32Array {
    const found = this.used(factor);
    const one = this.one.subarray(0, found.length);
    const piece = this.piece.subarray(0, found.length);
    for (const word of words) {
      this.andRun(one.fill(ALL), word);
      if (word.length > 1) {
        this.andInOrder(piece.fill(ALL), word);
        or(one, piece);
      }
      if (word.length >= SLIP_FROM) this.orSlipped(one, word, false);
      and(found, one);
    }
    return found;
  }

  /** All that have at least this factor, up to a step less. */
  private used(factor: number): Uint32Array {
    const step = Math.min(Math.floor((factor - 1) * STEPS) - 1, STEPS - 1);
    if (step < 0) return this.found.fill(ALL);
    const out = this.found.subarray(0, this.ends[step]);
    const set = this.factors[step];
    for (let i = 0; i < out.length; i++) out[i] = set![i]!;
    return out;
  }

  private andRun(out: Uint32Array, word: string): void {
    if (word.length === 1) and(out, this.letters[classOf(word.charCodeAt(0))]);
    else this.andPairs(out, word, 0, word.length);
  }

  private andInOrder(out: Uint32Array, word: string): void {
    and(out, this.heads[classOf(word.charCodeAt(0))]);
    let own = classOf(word.charCodeAt(0));
    for (let k = 1; k < word.length; k++) {
      const next = classOf(word.charCodeAt(k));
      and(out, this.behind[own * CLASSES + next]);
      own = next;
    }
  }

  /** One slip leaves the first or the second half as it is, or changes the letters between them for each other. */
  private orSlipped(out: Uint32Array, word: string, atStart: boolean): void {
    const piece = this.piece.subarray(0, out.length);
    const [heads, seconds] = atStart ? [this.begins, this.nexts] : [this.heads, this.seconds];
    const first = classOf(word.charCodeAt(0));
    const second = classOf(word.charCodeAt(1));
    const half = word.length >> 1;
    copy(piece, this.headPairs[first * CLASSES + second]);
    if (atStart) and(piece, heads[first]);
    this.andPairs(piece, word, 0, half);
    or(out, piece);
    const none = this.none;
    const [a, b, c, d] = [heads[first] ?? none, heads[second] ?? none, seconds[first] ?? none, seconds[second] ?? none];
    for (let i = 0; i < piece.length; i++) piece[i] = a[i]! | b[i]! | c[i]! | d[i]!;
    this.andPairs(piece, word, half, word.length, true);
    or(out, piece);
    const changed = half <= NEAR ? this.nearPairs : this.pairs;
    copy(piece, changed[classOf(word.charCodeAt(half)) * CLASSES + classOf(word.charCodeAt(half - 1))]);
    and(piece, heads[first]);
    or(out, piece);
  }

  /**
   * Leaves those with every pair of neighbours in a piece of a word; `near` where the word begins, give or take a
   * letter, as far as that is told apart.
   */
  private andPairs(out: Uint32Array, word: string, from: number, to: number, near = false): void {
    let own = classOf(word.charCodeAt(from));
    for (let i = from + 1; i < to; i++) {
      const next = classOf(word.charCodeAt(i));
      // the pair begins with the letter before this one, and a slip moves it by one at most
      and(out, (near && i <= NEAR ? this.nearPairs : this.pairs)[own * CLASSES + next]);
      own = next;
    }
  }

  private get sets(): (Uint32Array | undefined)[][] {
    const { letters, heads, seconds, begins, nexts, headPairs, nearPairs, pairs, behind, wordy, factors } = this;
    return [letters, heads, seconds, begins, nexts, headPairs, nearPairs, pairs, behind, wordy, factors];
  }

  private setAt(sets: (Uint32Array | undefined)[], at: number): Uint32Array {
    let set = sets[at];
    if (set === undefined) set = sets[at] = new Uint32Array(this.words);
    return set;
  }

  private growTo(words: number): void {
    this.words = words;
    const larger = (set: Uint32Array) => {
      const out = new Uint32Array(this.words);
      out.set(set);
      return out;
    };
    for (const sets of this.sets) sets.forEach((set, i) => set && (sets[i] = larger(set)));
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

function copy(a: Uint32Array, b: Uint32Array | undefined): void {
  if (!b) a.fill(0);
  else for (let i = 0; i < a.length; i++) a[i] = b[i]!;
}

function add(set: Uint32Array, word: number, bit: number): void {
  set[word]! |= bit;
}

function drop(set: Uint32Array, word: number, bit: number): void {
  set[word]! &= ~bit;
}
