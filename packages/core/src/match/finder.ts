/**
 * The find line's matcher: ranks a set of items for a query (models.md 4).
 *
 * Each query word must match somewhere in the item. Rank = mean quality × field weight × (1 + 0.25·log2(1 + w)), the last
 * factor capped at 2. An exact name always leads; shortcuts come before collections, these before plain originals of equal rank; the order is total.
 * Items are prefiltered by a 32-bit set of their letters, so that most are passed over without looking at their text.
 */
import { fold, foldWithMap } from './fold.js';
import { LetterSets } from './letterSets.js';
import {
  bestRunQuality,
  INNER_RUN,
  matchWord,
  MOST_AT_START,
  MOST_FACTOR,
  mostFuzzy,
  orderQuality,
  SLIP_FROM,
  slipQuality,
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

export interface FindAnswer {
  id: string;
  group: FindItem['group'];
  rank: number;
  /** The whole name is what was asked. */
  exact: boolean;
  /** Half-open ranges in the item's name (code units) to mark. */
  ranges: [number, number][];
}

export const FIELD_WEIGHT = { name: 1, alsoCalled: 0.95, tags: 0.8, trail: 0.5, description: 0.45 } as const;

interface Field {
  weight: number;
  folded: string;
  starts: readonly boolean[];
  letters: number;
  /** The first and the second letters of its words. */
  heads: number;
  seconds: number;
}

interface Entry {
  item: FindItem;
  /** Its number in the sets of letters. */
  slot: number;
  letters: number;
  /** What use makes of its quality. */
  factor: number;
  /** The name first, then by falling weight. */
  fields: Field[];
}

/** A start of a word in a field that counts more than a run within a name's words. */
interface Start {
  text: string;
  entry: Entry;
}

function letterSet(text: string): number {
  let set = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code >= 97 && code <= 122) set |= 1 << (code - 97);
    else if (code >= 48 && code <= 57) set |= 1 << 26;
    else if (code > 127) set |= 1 << 27;
  }
  return set;
}

function bitCount(x: number): number {
  let n = 0;
  for (; x; x &= x - 1) n++;
  return n;
}

function fieldOf(weight: number, folded: string, starts: readonly boolean[]): Field {
  let [heads, seconds] = [0, 0];
  for (let i = 0; i < folded.length; i++) {
    if (!starts[i]) continue;
    heads |= letterSet(folded[i]!);
    seconds |= letterSet(folded[i + 1] ?? '');
  }
  return { weight, folded, starts, letters: letterSet(folded), heads, seconds };
}

function entryOf(item: FindItem, slot: number): Entry {
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
    slot,
    letters: fields.reduce((set, f) => set | f.letters, 0),
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

interface TypedWord {
  text: string;
  letters: number;
  /** How many letters of it a text may be without. */
  slack: number;
  /** What no run of its letters can have, at most. */
  fuzzy: number;
  first: number;
  /** Its first two. */
  two: number;
}

export function readTyped(typed: string): Typed {
  const words = queryWords(typed).map((text) => ({
    text,
    letters: letterSet(text),
    // a slip may bring one letter that the text has not
    slack: text.length >= SLIP_FROM ? 1 : 0,
    fuzzy: mostFuzzy(text.length),
    first: letterSet(text[0]!),
    two: letterSet(text.slice(0, 2)),
  }));
  return { words, whole: fold(typed.trim()) };
}

const mayAnswer = ({ words }: Typed, entry: Entry) =>
  words.every(({ letters, slack }) => bitCount(letters & ~entry.letters) <= slack);

export function usageFactor(weight: number): number {
  return Math.min(MOST_FACTOR, 1 + 0.25 * Math.log2(1 + weight));
}

/** So much of a start is kept to look it up by. */
const START_LETTERS = 24;
/** A run that begins no word of name, other name or tag counts this much at most, as all else does where no word begins. */
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
 * ranked first, and the rest only as far as what it could reach at most (`MOST_ELSEWHERE` times its use) may still stand
 * among the best. So a search costs what it answers, not what there is; where few words begin so, it is linear.
 */
export class Finder {
  private readonly entries = new Map<string, Entry>();
  /** By text once `inOrder`. */
  private starts: Start[] = [];
  private readonly slots: (Entry | undefined)[] = [];
  private readonly free: number[] = [];
  private readonly sets = new LetterSets();
  /** Of each slot the number of the search that met it last. */
  private met = new Uint32Array(0);
  private searches = 0;
  private readonly wholes = new Map<string, Set<Entry>>();
  private inOrder = true;

  constructor(items: Iterable<FindItem> = []) {
    for (const item of items) this.put(item);
  }

  get size(): number {
    return this.entries.size;
  }

  put(item: FindItem): void {
    this.delete(item.id);
    const entry = entryOf(item, this.free.pop() ?? this.slots.length);
    this.entries.set(item.id, entry);
    this.slots[entry.slot] = entry;
    this.sets.put(entry.slot, entry.fields, entry.factor);
    for (const whole of wholesOf(entry)) {
      const same = this.wholes.get(whole);
      if (same) same.add(entry);
      else this.wholes.set(whole, new Set([entry]));
    }
    const starts = startsOf(entry);
    // many at once are put in order once, when they are asked for
    if (!this.inOrder || this.entries.size < 2 || this.starts.length === 0) {
      this.starts.push(...starts);
      this.inOrder = false;
      return;
    }
    for (const start of starts) this.starts.splice(this.startAt(start.text), 0, start);
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
    this.order();
    for (const { text } of startsOf(entry)) {
      let at = this.startAt(text);
      while (this.starts[at]!.entry !== entry) at++;
      this.starts.splice(at, 1);
    }
    this.slots[entry.slot] = undefined;
    this.free.push(entry.slot);
    this.sets.delete(entry.slot);
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
    const { words, whole } = typed;
    if (words.length === 0) return { answers: [], isBest: true };
    this.order();
    const best = new Best(limit, least);
    let above = 0;
    /** Whether there are enough. */
    const look = (entry: Entry): boolean => {
      if (!mayAnswer(typed, entry)) return false;
      const exact = entry.fields[0]!.folded === whole;
      const rank = qualityOf(typed, entry, exact ? 0 : best.floor / entry.factor) * entry.factor;
      if (rank > 0) best.take({ entry, id: entry.item.id, rank, exact });
      return rank > enough && ++above === limit;
    };
    if (this.met.length < this.slots.length) this.met = new Uint32Array(this.slots.length * 2);
    const { met } = this;
    const now = ++this.searches;
    const lookFirst = (entry: Entry): boolean => {
      if (met[entry.slot] === now) return false;
      met[entry.slot] = now;
      return look(entry);
    };
    const some = () => ({ answers: best.above(enough), isBest: false });
    for (const text of [whole, ...words.map((w) => w.text)])
      for (const entry of this.wholes.get(text) ?? []) if (lookFirst(entry)) return some();
    const [from, to] = this.rarest(typed);
    for (let i = from; i < to; i++) if (lookFirst(this.starts[i]!.entry)) return some();
    // what begins no word, and what is no run of letters, has this much at most; a little more, for the rounding
    const most = (one: number) => ((words.length - 1) * MOST_AT_START + one) / words.length + 1e-9;
    const may = this.sets.mayMatch(
      words.map((w) => w.text),
      best.floor / most(MOST_ELSEWHERE),
      (letters) => best.floor / most(mostFuzzy(letters)),
    );
    for (let i = 0; i < may.length; i++)
      for (let bits = may[i]!; bits !== 0; bits &= bits - 1) {
        const entry = this.slots[i * 32 + 31 - Math.clz32(bits & -bits)];
        if (!entry || entry.factor * most(MOST_ELSEWHERE) < best.floor || met[entry.slot] === now) continue;
        if (look(entry)) return some();
      }
    return { answers: best.all(), isBest: true };
  }

  /** The span of the starts with the word that begins the fewest. */
  private rarest({ words }: Typed): [number, number] {
    let rarest: [number, number] = [0, this.starts.length];
    for (const { text } of words) {
      const begin = text.slice(0, START_LETTERS);
      const span: [number, number] = [this.startAt(begin), this.startAt(`${begin}\uffff`)];
      if (span[1] - span[0] < rarest[1] - rarest[0]) rarest = span;
    }
    return rarest;
  }

  private startAt(text: string): number {
    return lowerBound(this.starts, (s) => s.text < text);
  }

  private order(): void {
    if (this.inOrder) return;
    this.starts.sort((a, b) => compare(a.text, b.text));
    this.inOrder = true;
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

/** The first place of an ordered list that is not before. */
function lowerBound<T>(list: readonly T[], isBefore: (one: T) => boolean): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (isBefore(list[middle]!)) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Fields of which a word's start counts more than a run elsewhere. */
const counting = (entry: Entry) => entry.fields.filter((f) => f.weight > MOST_ELSEWHERE);

function startsOf(entry: Entry): Start[] {
  return counting(entry).flatMap(({ folded, starts }) =>
    starts.flatMap((start, at) => (start || at === 0 ? [{ text: folded.slice(at, at + START_LETTERS), entry }] : [])),
  );
}

const wholesOf = (entry: Entry) => new Set(counting(entry).map((f) => f.folded));

/** The mean over the words; 0 where one does not match, or where it would stay below `least`. */
function qualityOf({ words }: Typed, entry: Entry, least = 0): number {
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

/** The quality of a word in one field; 0 also where it would be less than `least`. The sets of letters spare most tries. */
function inField({ text, letters, slack, fuzzy, first, two }: TypedWord, field: Field, least: number): number {
  const missing = letters & ~field.letters;
  if (missing !== 0 && (slack === 0 || bitCount(missing) > slack)) return 0;
  const run = missing === 0 ? bestRunQuality(text, field.folded, field.starts) : 0;
  if (run > 0 || least > fuzzy) return run;
  // a slip leaves one of the first two letters where a word has one of its first two
  const slip =
    slack > 0 && (two & (field.heads | field.seconds)) !== 0 ? slipQuality(text, field.folded, field.starts) : 0;
  const order = missing === 0 && (first & field.heads) !== 0 ? orderQuality(text, field.folded, field.starts) : 0;
  return Math.max(slip, order);
}

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
