/**
 * The find line's matcher: ranks a set of items for a query (docs/models.md 4).
 *
 * Each query word must match somewhere in the item. Rank = mean quality × field weight × (1 + 0.25·log2(1 + w)), the
 * last factor capped at 2. An exact name always leads; shortcuts come before collections, these before plain originals
 * of equal rank; the order is total.
 */
import { foldWithMap } from './fold.js';
import { LetterSets } from './letterSets.js';
import {
  entryOf,
  mayAnswer,
  mostOrdered,
  orderedIn,
  qualityOf,
  queryWords,
  readTyped,
  slippedIn,
  type Entry,
  type Field,
  type FindItem,
  type Typed,
} from './entries.js';
import {
  INNER_RUN,
  headsNeeded,
  isLetter,
  matchWord,
  MOST_AT_START,
  MOST_AT_WORD,
  MOST_FACTOR,
  runQuality,
  SLIP_FROM,
  slipWeight,
  wordStarts,
} from './wordMatch.js';

export interface FindAnswer {
  id: string;
  group: FindItem['group'];
  rank: number;
  /** The whole name is what was asked. */
  exact: boolean;
  /** Half-open ranges in the item's name (code units) to mark. */
  ranges: [number, number][];
}

/** A start of a word in a field that counts more than a run within a name's words. */
interface Start {
  text: string;
  /** Its first letters as a number, in the order of texts; quicker to compare. */
  key: number;
  entry: Entry;
  field: Field;
  at: number;
  /** No rank of it is above this, but for that of a whole text. */
  most: number;
}

/** So much of a start is kept to look it up by. */
const START_LETTERS = 24;
/**
 * A run that begins no word of name, other name or tag counts this much at most, as all else does where no word begins.
 */
const MOST_ELSEWHERE = INNER_RUN;

/** An answer before it is told. */
export interface Ranked {
  id: string;
  rank: number;
  exact: boolean;
}

interface Found extends Ranked {
  entry: Entry;
}

/**
 * Items under keys; `search` is a pure function of the items and the query.
 *
 * Items of which a word of name, other name or tag begins with a query word are looked up in an ordered list; they are
 * ranked first, and the rest only as far as what it could reach at most (`MOST_ELSEWHERE` times its use) may still
 * stand among the best. So a search costs what it answers, not what there is; where few words begin so, it is linear.
 */
export class Finder {
  private readonly entries = new Map<string, Entry>();
  /** By text. */
  private starts: Start[] = [];
  /** Their keys; a search in numbers that lie side by side is quicker than one through things. */
  private keys = new Float64Array(0);
  private readonly slots: (Entry | undefined)[] = [];
  private readonly free: number[] = [];
  private readonly sets = new LetterSets();
  /** Of each slot the number of the search that met it last. */
  private met = new Uint32Array(0);
  private searches = 0;
  private readonly wholes = new Map<string, Set<Entry>>();
  /** Put in, but not yet in order: many changes at once are put in order once, when they are asked for. */
  private coming: Entry[] = [];
  /** No entry was ever used more. */
  private mostFactor = 1;
  /** How many starts are of what was taken out, and passed over. */
  private gone = 0;

  constructor(items: Iterable<FindItem> = []) {
    for (const item of items) this.put(item);
  }

  get size(): number {
    return this.entries.size;
  }

  put(item: FindItem): void {
    this.delete(item.id);
    const entry = entryOf(item);
    this.entries.set(item.id, entry);
    for (const whole of wholesOf(entry)) {
      const same = this.wholes.get(whole);
      if (same) same.add(entry);
      else this.wholes.set(whole, new Set([entry]));
    }
    this.coming.push(entry);
    this.mostFactor = Math.max(this.mostFactor, entry.factor);
  }

  /** Gives an entry its number in the sets of letters. */
  private settle(entry: Entry): void {
    entry.slot = this.free.pop() ?? this.slots.length;
    this.slots[entry.slot] = entry;
    this.sets.put(entry.slot, entry.fields, entry.factor);
  }

  delete(id: string): void {
    const entry = this.entries.get(id);
    if (!entry) return;
    this.entries.delete(id);
    for (const whole of wholesOf(entry)) {
      const same = this.wholes.get(whole)!;
      same.delete(entry);
      if (same.size === 0) this.wholes.delete(whole);
    }
    entry.gone = true;
    if (entry.slot < 0) return;
    this.gone += startsOf(entry).length;
    this.slots[entry.slot] = undefined;
    this.free.push(entry.slot);
    this.sets.delete(entry.slot, entry.fields);
  }

  get(id: string): FindItem | undefined {
    return this.entries.get(id)?.item;
  }

  /** The best `limit` answers, with what to mark in their names. An empty query has none. */
  search(query: string, limit = 20): FindAnswer[] {
    const words = queryWords(query);
    return this.best(readTyped(query), limit).answers.map(({ id, rank, exact }) => {
      const { group, name } = this.entries.get(id)!.item;
      return { id, group, rank, exact, ranges: nameRanges(words, name) };
    });
  }

  /** The rank an item has; 0 where it is no answer. */
  rankOf(id: string, typed: Typed): number {
    const entry = this.entries.get(id);
    return entry && mayAnswer(typed, entry) ? qualityOf(typed, entry) * entry.factor : 0;
  }

  isExact(id: string, typed: Typed): boolean {
    return this.entries.get(id)?.fields[0]!.folded === typed.whole;
  }

  /**
   * The best `limit` answers whose rank is no less than `least`, or whose name is all that is typed. Once so many rank
   * above `enough`, any so many of them are given, and `isBest` is false: who only wants to know that does not wait.
   */
  best(typed: Typed, limit: number, least = 0, enough = Infinity): { answers: Ranked[]; isBest: boolean } {
    if (typed.words.length === 0) return { answers: [], isBest: true };
    this.order();
    if (this.met.length < this.slots.length) this.met = new Uint32Array(this.slots.length * 2);
    const look = new Look(typed, new Best(limit, least), limit, enough, this.met, ++this.searches);
    const isEnough = this.lookAtWholes(look) || this.lookAtStarts(look) || this.lookElsewhere(look);
    return { answers: isEnough ? look.best.above(enough) : look.best.all(), isBest: !isEnough };
  }

  /** What is called exactly so. Here and below: whether there are enough. */
  private lookAtWholes(look: Look): boolean {
    for (const text of [look.typed.whole, ...look.typed.words.map((w) => w.text)])
      for (const entry of this.wholes.get(text) ?? []) if (look.at(entry)) return true;
    return false;
  }

  /** What has a word that begins with the word that begins the fewest. */
  private lookAtStarts(look: Look): boolean {
    const { words } = look.typed;
    const [from, to] = this.rarest(look.typed);
    const only = words.length === 1 ? words[0]!.text.length : Infinity;
    for (let i = from; i < to; i++) {
      const start = this.starts[i]!;
      if (start.entry.gone) continue;
      // of a single word the rank it has here is quickly told, and what it has elsewhere is looked at below
      const { floor } = look.best;
      if (only <= START_LETTERS && (start.most < floor || rankHere(start, only) < floor)) continue;
      if (look.at(start.entry)) return true;
    }
    return false;
  }

  /** All else, as far as it may still stand among the best: runs first, then letters in order, then slips. */
  private lookElsewhere(look: Look): boolean {
    const { sets } = this;
    const { words } = look.typed;
    const texts = words.map((w) => w.text);
    let needed = look.factorFor(MOST_ELSEWHERE);
    if (words.length > 1) return this.lookThrough(look, sets.matching(texts, needed), needed);
    if (this.lookThrough(look, sets.holding(texts, needed), needed)) return true;
    const word = words[0]!;
    const n = word.text.length;
    needed = look.factorFor(word.fuzzy);
    const heads = headsNeeded(n, look.best.floor / this.mostFactor);
    if (n > 1 && heads < n && needed <= MOST_FACTOR) {
      const inOrder = (entry: Entry) =>
        mostOrdered(word, entry.heads, entry.words) * entry.factor >= look.best.floor &&
        orderedIn(word, entry) * entry.factor >= look.best.floor;
      if (this.lookThrough(look, sets.inOrder(word.text, needed, heads), needed, inOrder)) return true;
    }
    const slipped = (entry: Entry) => {
      look.pass(entry);
      return slippedIn(word, entry, look.best.floor / entry.factor) * entry.factor >= look.best.floor;
    };
    for (const atStart of n < SLIP_FROM ? [] : [true, false]) {
      needed = look.factorFor(slipWeight(atStart, true, true));
      if (needed <= MOST_FACTOR && this.lookThrough(look, sets.slipped(word.text, needed, atStart), needed, slipped))
        return true;
    }
    return false;
  }

  /** Those that a set of letters leaves, that are used enough, and that `mayLead`. */
  private lookThrough(look: Look, may: Uint32Array, needed: number, mayLead?: (entry: Entry) => boolean): boolean {
    for (let i = 0; i < may.length; i++)
      for (let bits = may[i]!; bits !== 0; bits &= bits - 1) {
        const entry = this.slots[i * 32 + 31 - Math.clz32(bits & -bits)];
        if (!entry || entry.factor < needed || look.was(entry) || mayLead?.(entry) === false) continue;
        if (look.rank(entry)) return true;
      }
    return false;
  }

  /** The span of the starts with the word that begins the fewest. */
  private rarest({ words }: Typed): [number, number] {
    let rarest: [number, number] = [0, this.starts.length];
    for (const { text } of words) {
      const [from, to] = this.beginningWith(text.slice(0, START_LETTERS));
      if (to - from < rarest[1] - rarest[0]) rarest = [from, to];
    }
    return rarest;
  }

  /** The span of the starts with these first letters. */
  private beginningWith(begin: string): [number, number] {
    if (begin.length > KEY_LETTERS || /[^\x01-\x7e]/.test(begin)) {
      const from = this.startAt(begin);
      return [from, this.startAt(`${begin}\uffff`, from)];
    }
    // then the keys alone tell
    const key = keyOf(begin);
    const from = this.keyAt(key);
    return [from, this.keyAfter(from, key + 128 ** (KEY_LETTERS - begin.length))];
  }

  /** The first start whose key is no less. */
  private keyAt(key: number, low = 0, high = this.keys.length): number {
    const { keys } = this;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (keys[middle]! < key) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** The same from one on: few lie between, so the steps begin small. */
  private keyAfter(from: number, key: number): number {
    let step = 1;
    while (from + step < this.keys.length && this.keys[from + step]! < key) step *= 2;
    return this.keyAt(key, from, Math.min(from + step, this.keys.length));
  }

  /** The first start that is not before. */
  private startAt(text: string, low = 0, high = this.starts.length): number {
    const { starts } = this;
    const key = keyOf(text);
    while (low < high) {
      const middle = (low + high) >> 1;
      if (isBefore(starts[middle]!, key, text)) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  private order(): void {
    if (this.coming.length === 0 && this.gone * 8 <= this.starts.length) return;
    const coming = this.coming.filter((entry) => !entry.gone);
    this.coming = [];
    this.sets.reserve(this.slots.length + coming.length);
    // what is used most is met first, so that those who want a few that lead find them soon
    for (const entry of coming.sort((a, b) => b.factor - a.factor)) this.settle(entry);
    const fresh: Start[] = [];
    for (const entry of coming) for (const start of startsOf(entry)) fresh.push(start);
    if (fresh.length <= FEW_STARTS && this.gone * 8 <= this.starts.length) {
      for (const start of fresh) {
        const at = this.startAt(start.text);
        this.starts.splice(at, 0, start);
        const keys = new Float64Array(this.starts.length);
        keys.set(this.keys.subarray(0, at));
        keys[at] = start.key;
        keys.set(this.keys.subarray(at), at + 1);
        this.keys = keys;
      }
      return;
    }
    this.starts = inTextOrder(this.starts.filter((start) => !start.entry.gone).concat(fresh));
    this.keys = keysOf(this.starts);
    this.gone = 0;
  }
}

/** So many are put in one by one; with more it is quicker to put all in order. */
const FEW_STARTS = 100;

/** One search: which entries it has met, and the best of them. */
class Look {
  private above = 0;

  constructor(
    readonly typed: Typed,
    readonly best: Best,
    private readonly limit: number,
    private readonly enough: number,
    /** Of each slot the number of the search that met it last. */
    private readonly met: Uint32Array,
    private readonly number: number,
  ) {}

  was(entry: Entry): boolean {
    return this.met[entry.slot] === this.number;
  }

  /** Marks it as met: it is no answer, or not worth being ranked. */
  pass(entry: Entry): void {
    this.met[entry.slot] = this.number;
  }

  /** Ranks it unless it was met; whether there are enough. */
  at(entry: Entry): boolean {
    return !this.was(entry) && this.rank(entry);
  }

  rank(entry: Entry): boolean {
    this.pass(entry);
    const { typed, best } = this;
    if (!mayAnswer(typed, entry)) return false;
    const exact = entry.fields[0]!.folded === typed.whole;
    const rank = qualityOf(typed, entry, exact ? 0 : best.floor / entry.factor) * entry.factor;
    if (rank > 0) best.take({ entry, id: entry.item.id, rank, exact });
    return rank > this.enough && ++this.above === this.limit;
  }

  /** The use that leads with one word at `quality` and all others at a start; a little more, for the rounding. */
  factorFor(quality: number): number {
    const n = this.typed.words.length;
    return this.best.floor / (((n - 1) * MOST_AT_START + quality) / n + 1e-9);
  }
}

/** The first few of what was taken, in their order; what stays below the last of them need not be looked at. */
class Best {
  private found: Found[] = [];
  floor: number;

  constructor(
    private readonly limit: number,
    least: number,
  ) {
    this.floor = least;
  }

  take(answer: Found): void {
    if (answer.rank < this.floor && !answer.exact) return;
    this.found.push(answer);
    if (this.found.length >= 2 * this.limit + 20) this.cut();
    else if (this.limit <= FEW) this.cut();
  }

  all(): Ranked[] {
    this.cut();
    return this.found.map(({ id, rank, exact }) => ({ id, rank, exact }));
  }

  above(rank: number): Ranked[] {
    return this.found.filter((f) => f.rank > rank);
  }

  private cut(): void {
    this.found.sort(
      (a, b) =>
        Number(b.exact) - Number(a.exact) ||
        b.rank - a.rank ||
        groupOrder(a.entry.item) - groupOrder(b.entry.item) ||
        a.entry.item.name.length - b.entry.item.name.length ||
        compare(a.entry.item.name, b.entry.item.name) ||
        compare(a.id, b.id),
    );
    this.found.length = Math.min(this.found.length, this.limit);
    const last = this.found[this.limit - 1];
    // an exact name stands before what ranks higher, so that its rank is no bound
    if (last && !last.exact) this.floor = Math.max(this.floor, last.rank);
  }
}
/** Of so few the last is known after each. */
const FEW = 3;

const GROUP_ORDER = { shortcut: 0, collection: 1, search: 2, original: 3 } as const;
const groupOrder = (item: FindItem) => GROUP_ORDER[item.group];
const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

/** Fields of which a word's start counts more than a run elsewhere. */
const counting = (entry: Entry) => entry.fields.filter((f) => f.weight > MOST_ELSEWHERE);

/** So many letters of seven bits are held exactly by a double. */
const KEY_LETTERS = 7;
/** The first letters; all beyond ASCII are one. */
function keyOf(text: string): number {
  let key = 0;
  for (let i = 0; i < KEY_LETTERS; i++) key = key * 128 + (i < text.length ? Math.min(127, text.charCodeAt(i)) : 0);
  return key;
}

function keysOf(starts: readonly Start[]): Float64Array<ArrayBuffer> {
  const keys = new Float64Array(starts.length);
  for (let i = 0; i < starts.length; i++) keys[i] = starts[i]!.key;
  return keys;
}

function startOf(entry: Entry, field: Field, at: number): Start {
  const text = field.folded.slice(at, at + START_LETTERS);
  const most = (at === 0 ? MOST_AT_START : MOST_AT_WORD) * field.weight * entry.factor;
  return { text, key: keyOf(text), entry, field, at, most };
}

function startsOf(entry: Entry): Start[] {
  const all: Start[] = [];
  for (const field of entry.fields) {
    if (field.weight <= MOST_ELSEWHERE) break;
    const { headsAt, folded } = field;
    if (folded !== '' && headsAt[0] !== 0) all.push(startOf(entry, field, 0));
    for (const at of headsAt) all.push(startOf(entry, field, at));
  }
  return all;
}

/**
 * Numbers of starts, and the first four letters before them, make one double; less than so many starts are told apart.
 */
const NUMBERS = 2 ** 25;
const LATER_LETTERS = 128 ** (KEY_LETTERS - 4);

/** By text: first by numbers, which needs no call for each comparison, then what shares its first four letters. */
function inTextOrder(starts: readonly Start[]): Start[] {
  const packed = new Float64Array(starts.length);
  for (let i = 0; i < starts.length; i++) packed[i] = Math.floor(starts[i]!.key / LATER_LETTERS) * NUMBERS + i;
  packed.sort();
  const out: Start[] = [];
  let alike: Start[] = [];
  let first = -1;
  const put = () => {
    if (alike.length > 1) alike.sort((a, b) => a.key - b.key || compare(a.text, b.text));
    for (const start of alike) out.push(start);
  };
  for (const number of packed) {
    const letters = Math.floor(number / NUMBERS);
    if (letters !== first) {
      put();
      alike = [];
      first = letters;
    }
    alike.push(starts[number - letters * NUMBERS]!);
  }
  put();
  return out;
}

const isBefore = (start: Start, key: number, text: string) =>
  start.key < key || (start.key === key && start.text < text);

/** The rank that a start has for its first letters. */
function rankHere({ entry, field, at }: Start, letters: number): number {
  const { folded, starts } = field;
  const end = at + letters;
  const isWordEnd = end === folded.length || starts[end] === true || !isLetter(folded.charCodeAt(end));
  return runQuality(at, letters, folded.length, starts[at]!, isWordEnd) * field.weight * entry.factor;
}

const wholesOf = (entry: Entry) => new Set(counting(entry).map((f) => f.folded));

/** What of a name the words of a query match: half-open ranges of code units. */
export function nameRanges(words: readonly string[], name: string): [number, number][] {
  const { folded, map } = foldWithMap(name);
  if (folded === '') return [];
  const starts = wordStarts(folded, name);
  const marked = new Set<number>();
  for (const word of words)
    for (const [from, to] of matchWord(word, folded, starts)?.ranges ?? [])
      for (let i = from; i < to; i++) for (let k = map[i]!; k < Math.max(map[i + 1]!, map[i]! + 1); k++) marked.add(k);
  const ranges: [number, number][] = [];
  for (const k of [...marked].sort((a, b) => a - b)) {
    const last = ranges[ranges.length - 1];
    if (last && last[1] === k) last[1] = k + 1;
    else ranges.push([k, k + 1]);
  }
  return ranges;
}
