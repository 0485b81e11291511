/**
 * The best answers among a million names (docs/models.md 4, as `Finder` ranks): first whole runs of letters, found by
 * the engine's own search; letters in order and slips, which never count as much, only where runs do not fill the
 * answer. The folders above match as words too, each for itself.
 */
import {
  FIELD_WEIGHT,
  fuzzyMatch,
  isLetter,
  LEAST_RUN,
  orderWeight,
  RUN_BONUS,
  runQuality,
  SLIP_FROM,
  slipWeight,
  wordStarts,
} from '../match/index.js';
import { Bits } from './bits.js';
import { letterBit, lettersOf, type PlaceIndex } from './placeIndex.js';
import { toByteText } from './utf8.js';

export interface RankedRow {
  row: number;
  /** In (0, 1]. */
  rank: number;
  /** The whole name is what was asked. */
  exact: boolean;
}

/** The best few, in order: exact, rank, shorter name, name, id. */
class Best {
  readonly rows: RankedRow[] = [];
  constructor(
    private readonly index: PlaceIndex,
    private readonly most: number,
  ) {}

  get full(): boolean {
    return this.rows.length === this.most;
  }

  /** The rank below which nothing comes in. */
  get least(): number {
    return this.full ? this.rows[this.most - 1]!.rank : 0;
  }

  offer(row: number, rank: number, exact: boolean): void {
    if (!exact && rank < this.least) return;
    const entry = { row, rank, exact };
    let at = this.rows.length;
    while (at > 0 && this.compare(entry, this.rows[at - 1]!) < 0) at--;
    if (at === this.most) return;
    this.rows.splice(at, 0, entry);
    if (this.rows.length > this.most) this.rows.pop();
  }

  /** Offers a row that may be in already, with another rank: the better counts. */
  better(row: number, rank: number): void {
    const at = this.rows.findIndex((r) => r.row === row);
    if (at >= 0) {
      if (this.rows[at]!.rank >= rank) return;
      this.rows.splice(at, 1);
    }
    this.offer(row, rank, false);
  }

  private compare(a: RankedRow, b: RankedRow): number {
    const { index } = this;
    return (
      Number(b.exact) - Number(a.exact) ||
      b.rank - a.rank ||
      index.nameLength[a.row]! - index.nameLength[b.row]! ||
      compareBytes(index, a.row, b.row) ||
      a.row - b.row
    );
  }
}

function compareBytes({ bytes, nameAt, nameLength }: PlaceIndex, a: number, b: number): number {
  const [from, other] = [nameAt[a]!, nameAt[b]!];
  const length = Math.min(nameLength[a]!, nameLength[b]!);
  for (let i = 0; i < length; i++) {
    const d = bytes[from + i]! - bytes[other + i]!;
    if (d !== 0) return d;
  }
  return nameLength[a]! - nameLength[b]!;
}

/**
 * Ranks the names of a place for folded words (`queryWords` of match); none of them empty. `within` leaves out all
 * other rows. Cost: a run over the text for each word; where that fills no answer, a run over the rows.
 */
export function rankNames(index: PlaceIndex, words: readonly string[], most: number, within?: Bits): RankedRow[] {
  const best = new Best(index, most);
  if (words.length === 0 || index.rows === 0) return [];
  if (words.length === 1) rankOne(index, words[0]!, best, within);
  else rankSeveral(index, words, best, within);
  return best.rows;
}

function rankOne(index: PlaceIndex, word: string, best: Best, within: Bits | undefined): void {
  const piece = toByteText(word);
  if (piece.length === 1) rankLetter(index, piece.charCodeAt(0), best, within);
  else
    eachRun(index, piece, (row, quality) => {
      if (!within || within.has(row)) best.offer(row, quality, quality === 1);
    });
  if (best.full) return;
  // neither what is above nor letters in order count as much as the least run: they fill what is left, the better of
  // both
  const runs = runsOf(index, word);
  const above = trailColumn(index, word, runs);
  const among = index.present().andNot(runs.rows);
  if (within) among.and(within.copy(index.rows));
  const trailAt = (row: number) => {
    const parent = index.parents[row]!;
    return parent < 0 ? 0 : (above?.[parent] ?? 0) * FIELD_WEIGHT.trail;
  };
  eachFuzzy(index, word, among, (row, quality) => {
    best.offer(row, Math.max(quality, trailAt(row)), false);
    among.delete(row);
  });
  if (!above) return;
  among.each((row) => {
    const rank = trailAt(row);
    if (rank > 0) best.offer(row, rank, false);
  });
}

/** One letter stands in most names: what begins with it comes first, and only where that is too little the rest. */
function rankLetter(index: PlaceIndex, letter: number, best: Best, within: Bits | undefined): void {
  const { rows, bytes, nameAt, nameLength, gone, letters } = index;
  const wholeEnd = (at: number, end: number) => at === end || index.startsWord(at) || !isLetter(bytes[at]!);
  for (let row = 0; row < rows; row++) {
    const at = nameAt[row]!;
    if (bytes[at] !== letter || nameLength[row] === 0 || gone[row] === 1 || (within && !within.has(row))) continue;
    const length = nameLength[row]!;
    const quality = runQuality(0, 1, length, true, wholeEnd(at + 1, at + length));
    if (quality >= best.least) best.offer(row, quality, length === 1);
  }
  if (best.full) return;
  const bit = letterBit(letter);
  for (let row = 0; row < rows; row++) {
    if ((bit !== 0 && (letters[row]! & bit) === 0) || gone[row] === 1 || (within && !within.has(row))) continue;
    const from = nameAt[row]!;
    const end = from + nameLength[row]!;
    let quality = 0;
    for (let at = from + 1; at < end; at++)
      if (bytes[at] === letter)
        quality = Math.max(quality, runQuality(at - from, 1, end - from, index.startsWord(at), wholeEnd(at + 1, end)));
    if (quality > 0 && bytes[from] !== letter) best.offer(row, quality, false);
  }
}

/** Each row the piece stands in, with the quality of its best place there. */
function eachRun(index: PlaceIndex, piece: string, visit: (row: number, quality: number) => void): void {
  const { bytes, nameAt, nameLength } = index;
  let current = -1;
  let quality = 0;
  index.eachHit(piece, (row, at) => {
    if (row !== current) {
      if (current >= 0) visit(current, quality);
      current = row;
      quality = 0;
    }
    const from = nameAt[row]!;
    const length = nameLength[row]!;
    const end = at + piece.length;
    const wholeEnd = end === from + length || index.startsWord(end) || !isLetter(bytes[end]!);
    quality = Math.max(quality, runQuality(at - from, piece.length, length, index.startsWord(at), wholeEnd));
  });
  if (current >= 0) visit(current, quality);
}

/** The rows whose names hold a word in a run, and of each the quality of the best; 0 for all others. */
interface Runs {
  rows: Bits;
  quality: Float32Array;
}

function runsOf(index: PlaceIndex, word: string): Runs {
  const runs = { rows: new Bits(index.rows), quality: new Float32Array(index.rows) };
  eachRun(index, toByteText(word), (row, quality) => {
    runs.rows.add(row);
    runs.quality[row] = quality;
  });
  return runs;
}

/** Each of the rows, which hold the word in no run, that has its letters in order or with one slip. */
function eachFuzzy(index: PlaceIndex, word: string, among: Bits, visit: (row: number, quality: number) => void): void {
  const piece = toByteText(word);
  if (piece.length < 2) return;
  const { nameAt, nameLength, letters } = index;
  const codes = Uint8Array.from(piece, (c) => c.charCodeAt(0));
  const set = lettersOf(codes);
  // where a letter is more than one byte, a slip is more than one byte too: the matcher itself looks at each
  if (piece.length !== word.length) {
    among.each((row) => {
      const match = missingBits(set, letters[row]!) <= 1 && fuzzyAt(index, row, word);
      if (match) visit(row, match.quality);
    });
    return;
  }
  const mayBe = word.length >= SLIP_FROM;
  // many rows are told apart by three searches, few are looked at themselves
  const slips = mayBe && among.count() > index.rows / 20 ? slipQualities(index, piece, codes, among) : undefined;
  among.each((row) => {
    const slip = slips ? slips[row]! : mayBe ? bestSlip(index, row, codes) : 0;
    const inOrder = (set & ~letters[row]!) === 0;
    if (slip === 0 && !inOrder) return;
    const from = nameAt[row]!;
    const order = inOrder ? orderQuality(index, from, from + nameLength[row]!, codes) : 0;
    if (slip > 0 || order > 0) visit(row, Math.max(slip, order));
  });
}

function missingBits(set: number, letters: number): number {
  const missing = set & ~letters;
  return missing === 0 ? 0 : (missing & (missing - 1)) === 0 ? 1 : 2;
}

function fuzzyAt(index: PlaceIndex, row: number, word: string) {
  const folded = index.foldedOf(row);
  // humps are not looked at here; a script with both cases has its capitals at the beginning of words
  return fuzzyMatch(word, folded, wordStarts(folded, folded));
}

/**
 * For each of the rows, the quality of the word with one slip, as `fuzzyMatch` weighs it. A slip leaves one half of the
 * word as it is, or exchanges the two letters in the middle: so three searches find all there is to look at.
 */
function slipQualities(index: PlaceIndex, piece: string, codes: Uint8Array, among: Bits): Float32Array {
  const { bytes, nameAt, nameLength } = index;
  const best = new Float32Array(index.rows);
  const rank = (row: number, at: number) => {
    const from = nameAt[row]!;
    if (at < from || !index.startsWord(at)) return;
    const quality = slipQuality(bytes, from, from + nameLength[row]!, at, codes);
    if (quality > best[row]!) best[row] = quality;
  };
  const half = piece.length >> 1;
  const [head, tail] = [piece.slice(0, half), piece.slice(half)];
  index.eachHit(head, rank, among);
  index.eachHit(
    tail,
    (row, at) => {
      for (let start = at - half - 1; start <= at - half + 1; start++) rank(row, start);
    },
    among,
  );
  if (head[half - 1] !== tail[0])
    index.eachHit(head.slice(0, -1) + tail[0] + head[half - 1] + tail.slice(1), rank, among);
  return best;
}

/** The word with one slip, at the start of any word of a name. */
function bestSlip(index: PlaceIndex, row: number, codes: Uint8Array): number {
  const from = index.nameAt[row]!;
  const end = from + index.nameLength[row]!;
  let best = 0;
  for (let at = from; at < end; at++)
    if (index.startsWord(at)) best = Math.max(best, slipQuality(index.bytes, from, end, at, codes));
  return best;
}

/** The word against the letters from `at` on, where a word starts. */
function slipQuality(bytes: Uint8Array, from: number, end: number, at: number, codes: Uint8Array): number {
  const n = codes.length;
  let best = 0;
  let i = 0;
  while (i < n && at + i < end && bytes[at + i] === codes[i]) i++;
  for (let length = n - 1; length <= n + 1; length++) {
    const to = at + length;
    if (to > end || !nearWith(bytes, at, i, length, codes)) continue;
    const quality = slipWeight(at === from, to === end || !isLetter(bytes[to]!), bytes[at] === codes[0]);
    if (quality > best) best = quality;
  }
  return best;
}

/** Whether `length` bytes from `at` on are the word but for one slip; the first `same` of both agree. */
function nearWith(bytes: Uint8Array, at: number, same: number, length: number, codes: Uint8Array): boolean {
  const n = codes.length;
  const i = Math.min(same, length, n);
  const rest = (text: number, word: number) => {
    for (; word < n; text++, word++) if (bytes[at + text] !== codes[word]) return false;
    return true;
  };
  if (length === n)
    return (
      i >= n - 1 ||
      rest(i + 1, i + 1) ||
      (bytes[at + i] === codes[i + 1] && bytes[at + i + 1] === codes[i] && rest(i + 2, i + 2))
    );
  return length < n ? rest(i, i + 1) : rest(i + 1, i);
}

const LONGEST_ALIGNED = 200;
const LONGEST_WORD = 64;
const NONE = -1e9;
const row0 = new Float64Array(LONGEST_ALIGNED);
const row1 = new Float64Array(LONGEST_ALIGNED);
const first0 = new Int16Array(LONGEST_ALIGNED);
const first1 = new Int16Array(LONGEST_ALIGNED);

/** As `fuzzyMatch` weighs letters in order, over bytes and without keeping where each stands. */
function orderQuality(index: PlaceIndex, from: number, end: number, codes: Uint8Array): number {
  const { bytes } = index;
  const n = codes.length;
  const m = end - from;
  if (n > m || m > LONGEST_ALIGNED || n > LONGEST_WORD) return 0;
  // the cheap test: from the first start of a word with the first letter on, greedily
  let at = from;
  while (at < end && !(bytes[at] === codes[0] && index.startsWord(at))) at++;
  let met = 0;
  for (let k = at; k < end && met < n; k++) if (bytes[k] === codes[met]) met++;
  if (met < n) return 0;
  let [ends, before] = [row0, row1];
  let [firsts, firstsBefore] = [first0, first1];
  for (let i = 0; i < n; i++) {
    let bestBefore = NONE;
    let bestFirst = -1;
    for (let k = 0; k < m; k++) {
      if (i > 0 && k > 0 && before[k - 1]! > bestBefore) {
        bestBefore = before[k - 1]!;
        bestFirst = firstsBefore[k - 1]!;
      }
      ends[k] = NONE;
      if (bytes[from + k] !== codes[i]) continue;
      const start = index.startsWord(from + k);
      const own = start ? 2 : 1;
      if (i === 0) {
        if (start) {
          ends[k] = own;
          firsts[k] = k;
        }
        continue;
      }
      const run = k > 0 ? before[k - 1]! + RUN_BONUS : NONE;
      if (run >= bestBefore && run > NONE / 2) {
        ends[k] = own + run;
        firsts[k] = firstsBefore[k - 1]!;
      } else if (bestBefore > NONE / 2) {
        ends[k] = own + bestBefore;
        firsts[k] = bestFirst;
      }
    }
    [ends, before] = [before, ends];
    [firsts, firstsBefore] = [firstsBefore, firsts];
  }
  let score = NONE;
  let last = -1;
  for (let k = 0; k < m; k++)
    if (before[k]! > score) {
      score = before[k]!;
      last = k;
    }
  return last < 0 ? 0 : orderWeight(score, n, last - firstsBefore[last]! + 1, m);
}

/**
 * For each row, how well the word matches in runs the folder itself or one above it, by the runs in all names;
 * undefined where none does. Only rows of folders are filled. The place counts as the first folder.
 */
function trailColumn(index: PlaceIndex, word: string, runs: Runs): Float32Array | undefined {
  const { rows, parents, children, nameLength } = index;
  const own = new Float32Array(rows);
  let any = false;
  runs.rows.each((row) => {
    if (children[row] === 0) return;
    own[row] = runs.quality[row]!;
    any = true;
  });
  const placeName = index.placeQuality(word);
  if (!any && placeName === 0) return undefined;
  const done = new Uint8Array(rows);
  const calculate = (row: number): number => {
    if (done[row] === 1) return own[row]!;
    done[row] = 1;
    if (nameLength[row] === 0) own[row] = placeName;
    const parent = parents[row]!;
    if (parent >= 0) own[row] = Math.max(own[row]!, calculate(parent));
    return own[row]!;
  };
  for (let row = 0; row < rows; row++) if (children[row]! > 0) calculate(row);
  return own;
}

/** Several words: each must match the name or a folder above; one of them may do so by letters in order or a slip. */
function rankSeveral(index: PlaceIndex, words: readonly string[], best: Best, within: Bits | undefined): void {
  const { parents, nameLength } = index;
  const whole = toByteText(words.join(' '));
  const runs = words.map((word) => runsOf(index, word));
  const trails = words.map((word, w) => trailColumn(index, word, runs[w]!));
  const matched = runs.map(({ rows }, w) => (trails[w] ? rows.copy().or(lyingBelow(index, trails[w])) : rows));
  const qualityAt = (w: number, row: number) => {
    const parent = parents[row]!;
    const above = parent < 0 ? 0 : (trails[w]?.[parent] ?? 0) * FIELD_WEIGHT.trail;
    return Math.max(runs[w]!.quality[row]!, above);
  };
  const there = index.present();
  if (within) there.and(within.copy(index.rows));
  const all = there.copy();
  for (const rows of matched) all.and(rows);
  all.each((row) => {
    let sum = 0;
    for (let w = 0; w < words.length; w++) sum += qualityAt(w, row);
    best.offer(row, sum / words.length, nameLength[row] === whole.length && index.bytesOf(row) === whole);
  });
  // what is left to find has one word that counts less than any run, and at best all others in full
  if (best.full && best.least >= (LEAST_RUN + words.length - 1) / words.length) return;
  for (let fuzzy = 0; fuzzy < words.length; fuzzy++) {
    const others = there.copy().andNot(runs[fuzzy]!.rows);
    matched.forEach((rows, w) => w !== fuzzy && others.and(rows));
    eachFuzzy(index, words[fuzzy]!, others, (row, quality) => {
      let sum = Math.max(quality, qualityAt(fuzzy, row));
      for (let w = 0; w < words.length; w++) if (w !== fuzzy) sum += qualityAt(w, row);
      best.better(row, sum / words.length);
    });
  }
}

/** The rows that lie in a folder that has a value in the column. */
function lyingBelow({ rows, parents }: PlaceIndex, column: Float32Array): Bits {
  const bits = new Bits(rows);
  const { words } = bits;
  for (let w = 0; w < words.length; w++) {
    const from = w << 5;
    const count = Math.min(32, rows - from);
    let mask = 0;
    for (let i = 0; i < count; i++) {
      const parent = parents[from + i]!;
      mask |= Number(parent >= 0 && column[parent]! > 0) << i;
    }
    words[w] = mask;
  }
  return bits;
}
