/**
 * One query word against one text (docs/models.md 4).
 *
 * Tried best first: whole text, start of the text, whole word, start of a word, inner run, letters in order
 * (subsequence from the start of a word, aligned by dynamic programming so that starts of words and runs win), and,
 * from four letters on, one typing slip against the start of a word (Damerau–Levenshtein distance 1, restricted).
 * Quality lies in (0, 1].
 */

export interface WordMatch {
  quality: number;
  /** Half-open ranges in the folded text, ascending, not touching. */
  ranges: [number, number][];
}

export const SLIP_FROM = 4;
/** What use makes of a quality, at most; 1 where there is none. */
export const MOST_FACTOR = 2;
/** A run of letters within a word, before its place counts. */
export const INNER_RUN = 0.64;
/** What counts for standing further from the start of the text, at most. */
const FURTHEST = 0.03;
/** No letters in order and no slip count as much as the least run. */
export const LEAST_RUN = INNER_RUN - FURTHEST;

export const isLetter = (code: number) =>
  (code >= 97 && code <= 122) || (code >= 48 && code <= 57) || (code > 127 && code !== 0xa0);

/**
 * Flags each position that starts a word: after a non-letter, at a hump of the original's case, or letters ↔ digits.
 */
export function wordStarts(folded: string, original: string): boolean[] {
  const sameLength = folded.length === original.length;
  const starts = new Array<boolean>(folded.length);
  for (let i = 0; i < folded.length; i++) {
    const code = folded.charCodeAt(i);
    if (!isLetter(code)) {
      starts[i] = false;
      continue;
    }
    const before = i > 0 ? folded.charCodeAt(i - 1) : 0;
    const digit = code >= 48 && code <= 57;
    const digitBefore = before >= 48 && before <= 57;
    const hump = sameLength && i > 0 && /\p{Lu}/u.test(original[i]!) && /\p{Ll}/u.test(original[i - 1]!);
    starts[i] = i === 0 || !isLetter(before) || digit !== digitBefore || hump;
  }
  return starts;
}

/** The positions of the starts of words. */
export function headsOf(starts: readonly boolean[]): number[] {
  const heads: number[] = [];
  for (let at = 0; at < starts.length; at++) if (starts[at]) heads.push(at);
  return heads;
}

/** What begins a text and is not the whole of it has this much at most, by the function below. */
export const MOST_AT_START = 0.97;
/** And what begins a word further on, this much. */
export const MOST_AT_WORD = 0.86;

/** The quality of a run of `length` letters at `at` in a text; `wholeEnd` says that a word ends with it. */
export function runQuality(at: number, length: number, textLength: number, start: boolean, wholeEnd: boolean): number {
  if (at === 0 && length === textLength) return 1;
  const from =
    at === 0 ? 0.9 + (wholeEnd ? 0.03 : 0) + 0.04 * (length / textLength) : start ? (wholeEnd ? 0.86 : 0.8) : INNER_RUN;
  // of equal matches the one nearer the start of the text counts a little more
  return from - Math.min(FURTHEST, 0.001 * at);
}

/** The quality of `word` where it stands in `text` at `at`. */
function runQualityAt(word: string, text: string, starts: readonly boolean[], at: number): number {
  const end = at + word.length;
  const wholeEnd = end === text.length || starts[end] === true || !isLetter(text.charCodeAt(end));
  return runQuality(at, word.length, text.length, starts[at] === true, wholeEnd);
}

/** Where the best occurrence of `word` in `text` begins; -1 where it has none. */
function bestRun(word: string, text: string, starts: readonly boolean[]): number {
  let best = -1;
  let most = 0;
  for (let at = text.indexOf(word); at >= 0 && most < 0.9; at = text.indexOf(word, at + 1)) {
    const quality = runQualityAt(word, text, starts, at);
    if (quality <= most) continue;
    best = at;
    most = quality;
  }
  return best;
}

/** The quality of the best occurrence of `word` in `text`; 0 where it has none. */
export function bestRunQuality(word: string, text: string, starts: readonly boolean[]): number {
  const at = bestRun(word, text, starts);
  return at < 0 ? 0 : runQualityAt(word, text, starts, at);
}

/** What a letter right behind the one before it counts more. */
export const RUN_BONUS = 0.7;

/**
 * The quality of `n` letters in order with an alignment's score, over `span` of a text of `length`; 0 where it is
 * chance.
 */
export function orderWeight(score: number, n: number, span: number, length: number): number {
  const share = score / ((2 + RUN_BONUS) * n - RUN_BONUS);
  // letters strewn over the text without one word's start are chance, not meaning
  return share < 0.5 ? 0 : 0.2 + 0.4 * share * share - (0.05 * span) / length;
}

/**
 * What `n` letters in order can have at most in a text where so many of them after the first may begin a word. They
 * have a gap, since without one they would be a run; and what begins a word stands in no run with the letter before,
 * but where words are `joined`: at a hump, or where letters meet digits.
 */
export function mostInOrder(n: number, heads: number, joined: boolean): number {
  if (n < 2) return 0;
  const score = n + 1 + heads + RUN_BONUS * (joined || heads === 0 ? n - 2 : n - 1 - heads);
  const share = score / ((2 + RUN_BONUS) * n - RUN_BONUS);
  return 0.2 + 0.4 * share * share;
}

/**
 * How many of the later letters must begin words for `n` letters in order to have so much; `n` where none are enough.
 */
export function headsNeeded(n: number, quality: number): number {
  let heads = 0;
  // a little less, for the rounding
  while (heads < n && mostInOrder(n, heads, true) < quality - 1e-9) heads++;
  return heads;
}

/**
 * What letters in order or one slip can have at most, of a word of `n` letters; a slip at the start, up to a word's
 * end.
 */
export function mostFuzzy(n: number): number {
  return Math.max(mostInOrder(n, n - 1, true), n < SLIP_FROM ? 0 : slipWeight(true, true, true));
}

/** The quality of a word with one slip: at the start of the text, up to a word's end, with its first letter right. */
export function slipWeight(first: boolean, wholeEnd: boolean, sameFirst: boolean): number {
  return (first ? 0.5 : 0.46) + (wholeEnd ? 0.06 : 0) + (sameFirst ? 0.03 : 0);
}

const LONGEST = 200;
/** An alignment so far: where its last letter lies, what it counts, and where its first letter lies; by position. */
class Ends {
  count = 0;
  readonly at = new Int16Array(LONGEST);
  readonly score = new Float64Array(LONGEST);
  readonly first = new Int16Array(LONGEST);

  add(at: number, score: number, first: number): void {
    this.at[this.count] = at;
    this.score[this.count] = score;
    this.first[this.count++] = first;
  }
}
/** Room to calculate in: the best ends with the letter before, and with this one. Nothing is kept in it. */
const ends: [Ends, Ends] = [new Ends(), new Ends()];

/**
 * Subsequence alignment: maximises the sum of 1 a letter + 1 at a start of word + RUN_BONUS in a run, and gives the
 * quality of it; 0 where there is none. Nothing is allocated, since most texts that are tried do not lead. `back`
 * takes, row by row, the position of the letter before, and in its first cell that of the last letter, for those that
 * want to mark them. O(|text| + Σ occurrences of
 * letters).
 */
export function orderQuality(word: string, text: string, starts: readonly boolean[], back?: Int16Array): number {
  const n = word.length;
  const m = text.length;
  if (n < 2 || n > m || m > LONGEST) return 0;
  let [old, now] = ends;
  now.count = 0;
  // people begin with the beginning of a word; letters from its middle on are chance, not meaning
  for (let k = text.indexOf(word[0]!); k >= 0; k = text.indexOf(word[0]!, k + 1)) if (starts[k]) now.add(k, 2, k);
  for (let i = 1; i < n && now.count > 0; i++) {
    [old, now] = [now, old];
    now.count = 0;
    let next = 0;
    /** Of the ends before a position the best, the first of equals. */
    let best = -1;
    for (let k = text.indexOf(word[i]!, old.at[0]! + 1); k >= 0; k = text.indexOf(word[i]!, k + 1)) {
      for (; next < old.count && old.at[next]! < k; next++)
        if (best < 0 || old.score[next]! > old.score[best]!) best = next;
      const isRun = old.at[next - 1] === k - 1 && old.score[next - 1]! + RUN_BONUS >= old.score[best]!;
      const from = isRun ? next - 1 : best;
      const own = 1 + (starts[k] ? 1 : 0);
      now.add(k, own + (old.score[from]! + (isRun ? RUN_BONUS : 0)), old.first[from]!);
      if (back) back[i * m + k] = old.at[from]!;
    }
  }
  if (now.count === 0) return 0;
  let end = 0;
  for (let e = 1; e < now.count; e++) if (now.score[e]! > now.score[end]!) end = e;
  const last = now.at[end]!;
  if (back) back[0] = last;
  return orderWeight(now.score[end]!, n, last - now.first[end]! + 1, m);
}

function subsequenceMatch(word: string, text: string, starts: readonly boolean[]): WordMatch | undefined {
  const [n, m] = [word.length, text.length];
  const back = new Int16Array(n * m);
  const quality = orderQuality(word, text, starts, back);
  if (quality === 0) return undefined;
  const positions: number[] = [];
  for (let i = n - 1, at = back[0]!; i >= 0; i--) {
    positions.unshift(at);
    at = back[i * m + at]!;
  }
  return { quality, ranges: toRanges(positions) };
}

function toRanges(positions: readonly number[]): [number, number][] {
  const ranges: [number, number][] = [];
  for (const p of positions) {
    const last = ranges[ranges.length - 1];
    if (last && last[1] === p) last[1] = p + 1;
    else ranges.push([p, p + 1]);
  }
  return ranges;
}

/** Whether two strings are within one insertion, deletion, substitution or transposition of neighbours. */
export function withinOneSlip(a: string, b: string): boolean {
  return Math.abs(a.length - b.length) <= 1 && slips(a, b, 0, b.length);
}

/** Whether `word` and the `length` letters of `text` from `at` are within one slip; nothing is cut out of the text. */
function slips(word: string, text: string, at: number, length: number): boolean {
  const n = word.length;
  if (at + length > text.length) return false;
  let i = 0;
  const shorter = Math.min(n, length);
  while (i < shorter && word.charCodeAt(i) === text.charCodeAt(at + i)) i++;
  const end = at + length;
  if (n > length) return sameRest(word, i + 1, text, at + i, end);
  if (n < length) return sameRest(word, i, text, at + i + 1, end);
  if (i === n || sameRest(word, i + 1, text, at + i + 1, end)) return true;
  return (
    i + 1 < n &&
    word.charCodeAt(i) === text.charCodeAt(at + i + 1) &&
    word.charCodeAt(i + 1) === text.charCodeAt(at + i) &&
    sameRest(word, i + 2, text, at + i + 2, end)
  );
}

/** Whether a word from one letter on is a text from one letter to another. */
function sameRest(word: string, ofWord: number, text: string, from: number, end: number): boolean {
  if (word.length - ofWord !== end - from) return false;
  for (let k = 0; from + k < end; k++) if (word.charCodeAt(ofWord + k) !== text.charCodeAt(from + k)) return false;
  return true;
}

/** Of equal slips the one of the word's own length, then the longer. */
const LETTERS_MORE = [0, 1, -1];
/** The quality of a word with one slip where `length` letters of the text from `at` are it. */
function slipQualityAt(word: string, text: string, at: number, length: number): number {
  const end = at + length;
  const whole = end === text.length || !isLetter(text.charCodeAt(end));
  return slipWeight(at === 0, whole, text.charCodeAt(at) === word.charCodeAt(0));
}

/**
 * One slip against the start of any of the first `looked` words of the text; `heads` are the positions of all. The
 * first letter may be wrong only where the rest agrees. Where the best of them lies, as four times its position plus
 * the number of its length in `LETTERS_MORE`; -1 where there is none.
 */
function bestSlip(word: string, text: string, heads: readonly number[], looked: number): number {
  const n = word.length;
  let best = -1;
  if (n < SLIP_FROM) return best;
  let most = 0;
  const first = word.charCodeAt(0);
  const second = word.charCodeAt(1);
  for (let i = 0; i < looked; i++) {
    const at = heads[i]!;
    // one slip touches one of the first two letters at most, or changes them for each other
    const own = text.charCodeAt(at);
    const next = text.charCodeAt(at + 1);
    if (first !== own && first !== next && second !== next && second !== own) continue;
    for (let k = 0; k < LETTERS_MORE.length; k++) {
      const length = n + LETTERS_MORE[k]!;
      if (!slips(word, text, at, length)) continue;
      const quality = slipQualityAt(word, text, at, length);
      if (quality <= most) continue;
      best = at * 4 + k;
      most = quality;
    }
  }
  return best;
}

/** Where that is: the position, and how many letters. */
const slipSpan = (slip: number, word: string): [at: number, length: number] => [
  slip >> 2,
  word.length + LETTERS_MORE[slip & 3]!,
];

/** The quality of a word with one slip at the start of one of the first `looked` words; 0 where there is none. */
export function slipQuality(word: string, text: string, heads: readonly number[], looked = heads.length): number {
  const slip = bestSlip(word, text, heads, looked);
  return slip < 0 ? 0 : slipQualityAt(word, text, slip >> 2, word.length + LETTERS_MORE[slip & 3]!);
}

/** The best match of a folded word in a folded text, or `undefined`. Word and text not empty. */
export function matchWord(word: string, text: string, starts: readonly boolean[]): WordMatch | undefined {
  const at = bestRun(word, text, starts);
  return at >= 0
    ? { quality: runQualityAt(word, text, starts, at), ranges: [[at, at + word.length]] }
    : fuzzyMatch(word, text, starts);
}

/** The best match that is no run of letters: letters in order, or one slip. */
export function fuzzyMatch(word: string, text: string, starts: readonly boolean[]): WordMatch | undefined {
  const heads = headsOf(starts);
  const inOrder = subsequenceMatch(word, text, starts);
  const slip = bestSlip(word, text, heads, heads.length);
  if (slip < 0) return inOrder;
  const [at, length] = slipSpan(slip, word);
  const quality = slipQualityAt(word, text, at, length);
  return quality >= (inOrder?.quality ?? 0) ? { quality, ranges: [[at, at + length]] } : inOrder;
}
