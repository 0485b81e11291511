/**
 * One query word against one text (models.md 4).
 *
 * Tried best first: whole text, start of the text, whole word, start of a word, inner run, letters in order
 * (subsequence from the start of a word, aligned by dynamic programming so that starts of words and runs win), and, from
 * four letters on, one typing slip against the start of a word (Damerau–Levenshtein distance 1, restricted). Quality lies in (0, 1].
 */

export interface WordMatch {
  quality: number;
  /** Half-open ranges in the folded text, ascending, not touching. */
  ranges: [number, number][];
}

export const SLIP_FROM = 4;
const INNER_RUN = 0.64;
/** What counts for standing further from the start of the text, at most. */
const FURTHEST = 0.03;
/** No letters in order and no slip count as much as the least run. */
export const LEAST_RUN = INNER_RUN - FURTHEST;

export const isLetter = (code: number) =>
  (code >= 97 && code <= 122) || (code >= 48 && code <= 57) || (code > 127 && code !== 0xa0);

/** Flags each position that starts a word: after a non-letter, at a hump of the original's case, or letters ↔ digits. */
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

/** The quality of a run of `length` letters at `at` in a text; `wholeEnd` says that a word ends with it. */
export function runQuality(at: number, length: number, textLength: number, start: boolean, wholeEnd: boolean): number {
  if (at === 0 && length === textLength) return 1;
  const from =
    at === 0 ? 0.9 + (wholeEnd ? 0.03 : 0) + 0.04 * (length / textLength) : start ? (wholeEnd ? 0.86 : 0.8) : INNER_RUN;
  // of equal matches the one nearer the start of the text counts a little more
  return from - Math.min(FURTHEST, 0.001 * at);
}

/** A run match: the best occurrence of `word` in `text`. */
function runMatch(word: string, text: string, starts: readonly boolean[]): WordMatch | undefined {
  let best: WordMatch | undefined;
  for (let at = text.indexOf(word); at >= 0; at = text.indexOf(word, at + 1)) {
    const end = at + word.length;
    const wholeEnd = end === text.length || starts[end] === true || !isLetter(text.charCodeAt(end));
    const quality = runQuality(at, word.length, text.length, starts[at] === true, wholeEnd);
    if (!best || quality > best.quality) best = { quality, ranges: [[at, end]] };
    if (best.quality >= 0.9) break;
  }
  return best;
}

/** Whether the letters of `word` occur in `text` in order. The cheap test before the alignment. */
export function isSubsequence(word: string, text: string): boolean {
  let i = 0;
  for (let k = 0; i < word.length && k < text.length; k++) if (word.charCodeAt(i) === text.charCodeAt(k)) i++;
  return i === word.length;
}

/** What a letter right behind the one before it counts more. */
export const RUN_BONUS = 0.7;

/** The quality of `n` letters in order with an alignment's score, over `span` of a text of `length`; 0 where it is chance. */
export function orderWeight(score: number, n: number, span: number, length: number): number {
  const share = score / ((2 + RUN_BONUS) * n - RUN_BONUS);
  // letters strewn over the text without one word's start are chance, not meaning
  return share < 0.5 ? 0 : 0.2 + 0.4 * share * share - (0.05 * span) / length;
}

/** The quality of a word with one slip: at the start of the text, up to a word's end, with its first letter right. */
export function slipWeight(first: boolean, wholeEnd: boolean, sameFirst: boolean): number {
  return (first ? 0.5 : 0.46) + (wholeEnd ? 0.06 : 0) + (sameFirst ? 0.03 : 0);
}

/** Subsequence alignment: maximises the sum of 1 a letter + 1 at a start of word + RUN_BONUS in a run. O(|word|·|text|). */
function subsequenceMatch(word: string, text: string, starts: readonly boolean[]): WordMatch | undefined {
  const n = word.length;
  const m = text.length;
  if (n < 2 || n > m || m > 200 || !isSubsequence(word, text)) return undefined;
  const NONE = -1e9;
  // ends[i][k]: best score with letter i at position k; from[i][k]: the position of letter i − 1
  const ends: Float64Array[] = [];
  const from: Int16Array[] = [];
  for (let i = 0; i < n; i++) {
    const row = new Float64Array(m).fill(NONE);
    const back = new Int16Array(m).fill(-1);
    let bestBefore = NONE;
    let bestAt = -1;
    for (let k = i; k < m; k++) {
      if (i > 0 && k > 0) {
        const earlier = ends[i - 1]![k - 1]!;
        if (earlier > bestBefore) {
          bestBefore = earlier;
          bestAt = k - 1;
        }
      }
      if (text.charCodeAt(k) !== word.charCodeAt(i)) continue;
      const own = 1 + (starts[k] ? 1 : 0);
      if (i === 0) {
        // people begin with the beginning of a word; letters from its middle on are chance, not meaning
        if (starts[k]) row[k] = own;
        continue;
      }
      const run = ends[i - 1]![k - 1]! + RUN_BONUS;
      if (k > 0 && run >= bestBefore && run > NONE / 2) {
        row[k] = own + run;
        back[k] = k - 1;
      } else if (bestBefore > NONE / 2) {
        row[k] = own + bestBefore;
        back[k] = bestAt;
      }
    }
    ends.push(row);
    from.push(back);
  }
  let at = -1;
  let score = NONE;
  const last = ends[n - 1]!;
  for (let k = 0; k < m; k++)
    if (last[k]! > score) {
      score = last[k]!;
      at = k;
    }
  if (at < 0) return undefined;
  const positions: number[] = [];
  for (let i = n - 1; i >= 0; i--) {
    positions.unshift(at);
    at = from[i]![at]!;
  }
  const quality = orderWeight(score, n, positions[n - 1]! - positions[0]! + 1, m);
  if (quality === 0) return undefined;
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
  if (Math.abs(a.length - b.length) > 1) return false;
  let i = 0;
  const shorter = Math.min(a.length, b.length);
  while (i < shorter && a[i] === b[i]) i++;
  if (a.length === b.length) {
    if (i === a.length) return true;
    if (a.slice(i + 1) === b.slice(i + 1)) return true;
    return a[i] === b[i + 1] && a[i + 1] === b[i] && a.slice(i + 2) === b.slice(i + 2);
  }
  return a.length > b.length ? a.slice(i + 1) === b.slice(i) : a.slice(i) === b.slice(i + 1);
}

/** One slip against the start of any word of the text. The first letter may be wrong only where the rest agrees. */
function slipMatch(word: string, text: string, starts: readonly boolean[]): WordMatch | undefined {
  const n = word.length;
  if (n < SLIP_FROM) return undefined;
  let best: WordMatch | undefined;
  for (let at = 0; at < text.length; at++) {
    if (!starts[at]) continue;
    for (const length of [n, n + 1, n - 1]) {
      const piece = text.slice(at, at + length);
      if (piece.length !== length || !withinOneSlip(word, piece)) continue;
      const end = at + length;
      const whole = end === text.length || !isLetter(text.charCodeAt(end));
      const quality = slipWeight(at === 0, whole, piece[0] === word[0]);
      if (!best || quality > best.quality) best = { quality, ranges: [[at, end]] };
    }
  }
  return best;
}

/** The best match of a folded word in a folded text, or `undefined`. Word and text not empty. */
export function matchWord(word: string, text: string, starts: readonly boolean[]): WordMatch | undefined {
  return runMatch(word, text, starts) ?? fuzzyMatch(word, text, starts);
}

/** The best match that is no run of letters: letters in order, or one slip. */
export function fuzzyMatch(word: string, text: string, starts: readonly boolean[]): WordMatch | undefined {
  const slip = slipMatch(word, text, starts);
  const sub = subsequenceMatch(word, text, starts);
  if (slip && sub) return slip.quality >= sub.quality ? slip : sub;
  return slip ?? sub;
}
