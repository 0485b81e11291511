/**
 * The find line's matcher: ranks a set of items for a query (models.md 4).
 *
 * Each query word must match somewhere in the item. Rank = mean quality × field weight × (1 + 0.25·log2(1 + w)), the last
 * factor capped at 2. An exact name always leads; shortcuts come before collections, these before plain originals of equal rank; the order is total.
 * Items are prefiltered by a 32-bit set of their letters, so that most are passed over without looking at their text.
 */
import { fold, foldWithMap } from './fold.js';
import { isSubsequence, matchWord, SLIP_FROM, wordStarts } from './wordMatch.js';

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
  original: string;
  starts?: boolean[];
}

interface Entry {
  item: FindItem;
  letters: number;
  fields: Field[];
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

function entryOf(item: FindItem): Entry {
  const fields: Field[] = [{ weight: FIELD_WEIGHT.name, folded: fold(item.name), original: item.name }];
  const add = (weight: number, text: string | undefined) => {
    if (text) fields.push({ weight, folded: fold(text), original: text });
  };
  for (const name of item.alsoCalled ?? []) add(FIELD_WEIGHT.alsoCalled, name);
  for (const tag of item.tags ?? []) add(FIELD_WEIGHT.tags, tag);
  add(FIELD_WEIGHT.trail, item.trail);
  add(FIELD_WEIGHT.description, item.description);
  let letters = 0;
  for (const field of fields) letters |= letterSet(field.folded);
  return { item, letters, fields };
}

/** The words of a query, folded. */
export function queryWords(query: string): string[] {
  return fold(query).split(/\s+/).filter(Boolean);
}

export function usageFactor(weight: number): number {
  return Math.min(2, 1 + 0.25 * Math.log2(1 + weight));
}

/** Items under keys; `search` is a pure function of the items and the query. */
export class Finder {
  private readonly entries = new Map<string, Entry>();
  private last: { words: string[]; candidates: Entry[] } | undefined;

  constructor(items: Iterable<FindItem> = []) {
    for (const item of items) this.put(item);
  }

  get size(): number {
    return this.entries.size;
  }

  put(item: FindItem): void {
    this.entries.set(item.id, entryOf(item));
    this.last = undefined;
  }

  delete(id: string): void {
    if (this.entries.delete(id)) this.last = undefined;
  }

  get(id: string): FindItem | undefined {
    return this.entries.get(id)?.item;
  }

  /** The best `limit` answers. An empty query has none. Cost: linear in the items whose letters fit. */
  search(query: string, limit = 20): FindAnswer[] {
    const words = queryWords(query);
    if (words.length === 0) return [];
    const whole = fold(query.trim());
    const sets = words.map((word) => ({ set: letterSet(word), slack: word.length >= SLIP_FROM ? 1 : 0 }));
    const pool = this.narrowed(words);
    const candidates: Entry[] = [];
    const found: { entry: Entry; rank: number; exact: boolean }[] = [];
    for (const entry of pool) {
      if (!sets.every(({ set, slack }) => bitCount(set & ~entry.letters) <= slack)) continue;
      if (!mayMatch(words, entry)) continue;
      candidates.push(entry);
      const quality = qualityOf(words, entry);
      if (quality === 0) continue;
      const exact = entry.fields[0]!.folded === whole;
      found.push({ entry, rank: quality * usageFactor(entry.item.weight ?? 0), exact });
    }
    this.last = { words, candidates };
    found.sort(
      (a, b) =>
        Number(b.exact) - Number(a.exact) ||
        b.rank - a.rank ||
        groupOrder(a.entry.item) - groupOrder(b.entry.item) ||
        a.entry.item.name.length - b.entry.item.name.length ||
        compare(a.entry.item.name, b.entry.item.name) ||
        compare(a.entry.item.id, b.entry.item.id),
    );
    return found.slice(0, limit).map(({ entry, rank, exact }) => ({
      id: entry.item.id,
      group: entry.item.group,
      rank,
      exact,
      ranges: nameRanges(words, entry.item.name),
    }));
  }

  /** Typing on in the last word can only narrow, unless it reaches the length from which a slip is forgiven. */
  private narrowed(words: string[]): Iterable<Entry> {
    const last = this.last;
    if (!last || last.words.length !== words.length) return this.entries.values();
    const end = words.length - 1;
    for (let i = 0; i < end; i++) if (words[i] !== last.words[i]) return this.entries.values();
    const before = last.words[end]!;
    const now = words[end]!;
    // a single letter never matches as a subsequence, so that from one letter to two the answer may grow
    const sound =
      now.startsWith(before) && before.length >= 2 && (before.length >= SLIP_FROM || now.length < SLIP_FROM);
    return sound ? last.candidates : this.entries.values();
  }
}

const GROUP_ORDER = { shortcut: 0, collection: 1, search: 2, original: 3 } as const;
const groupOrder = (item: FindItem) => GROUP_ORDER[item.group];
const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

/**
 * Whether the words can match at all: their letters in order somewhere, or a slip allowed. Unlike the quality, which may
 * rise from nothing as a better alignment appears, this can only turn false as one types on.
 */
function mayMatch(words: readonly string[], entry: Entry): boolean {
  return words.every((word) => word.length >= SLIP_FROM || entry.fields.some((f) => isSubsequence(word, f.folded)));
}

function qualityOf(words: readonly string[], entry: Entry): number {
  let sum = 0;
  for (const word of words) {
    let best = 0;
    for (const field of entry.fields) {
      if (field.weight <= best) break;
      field.starts ??= wordStarts(field.folded, field.original);
      const match = matchWord(word, field.folded, field.starts);
      if (match) best = Math.max(best, match.quality * field.weight);
    }
    if (best === 0) return 0;
    sum += best;
  }
  return sum / words.length;
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
