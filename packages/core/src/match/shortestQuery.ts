/**
 * The fewest characters that bring an item into the first three answers, found over its own fragments (docs/models.md
 * 2).
 */
import { queryWords, readFolded, type FindItem, type Typed } from './entries.js';
import type { Finder, Ranked } from './finder.js';

export interface ShortestQuery {
  characters: number;
  rank: 1 | 2 | 3;
  typed: string;
}

/** More than so many are not tried: nobody types on. */
const MOST_CHARACTERS = 10;
/** Nor more initials than so many: one would have to know all its words. */
const MOST_INITIALS = 4;
const FIRST = 3;

interface KnownLead {
  typed: Typed;
  /** The first three, as far as their rank is no less than `least`; or any three that rank above `above`. */
  first: Ranked[];
  least: number;
  /** Nothing of this rank or less is among the first three; known instead of who is. */
  above: number | undefined;
}

/**
 * Keeps, for each item of a finder, the fewest characters that bring it up: of the starts of its name, the starts of
 * its words and the initials of its first four words, shortest first, up to ten; of those of one length the one that
 * brings it up highest. None where no such fragment does (two items of one name, say).
 *
 * What leads for a fragment is kept, since items share fragments, and only as far down as an item asked for it; of most
 * it is enough to know three that lead before it. After a change of one item only the fragments it leads or now leads
 * are ranked anew, and only items that came into the first three of one of these, or left them, are looked at again: an
 * item's figure depends on nothing else.
 */
export class ShortestQueries {
  private readonly known = new Map<string, KnownLead>();

  constructor(private readonly finder: Finder) {}

  /** Cost: a few dozen look-ups, a search for each fragment not met before. */
  of(id: string): ShortestQuery | undefined {
    const item = this.finder.get(id);
    if (!item) return undefined;
    let best: ShortestQuery | undefined;
    for (const typed of fragmentsOf(item)) {
      if (best && typed.length > best.characters) break;
      const place = this.placeOf(id, typed);
      if (place > 0 && place < (best?.rank ?? Infinity))
        best = { characters: typed.length, rank: place as 1 | 2 | 3, typed };
      if (place === 1) break;
    }
    return best;
  }

  /** The finder was changed without it: all figures may be others now. */
  forget(): void {
    this.known.clear();
  }

  /** Puts an item into the finder; the ids whose figure may be another now, its own among them. */
  put(item: FindItem): Set<string> {
    this.finder.put(item);
    const moved = new Set([item.id]);
    for (const [text, known] of this.known) {
      const rank = this.finder.rankOf(item.id, known.typed);
      const own = known.first.find((r) => r.id === item.id);
      if (own && known.above !== undefined && rank > known.above) own.rank = rank;
      else if (own || (known.above === undefined && rank > 0 && this.leads(item.id, rank, known)))
        this.rankAnew(text, known, moved);
    }
    return moved;
  }

  /** Takes an item out of the finder; the ids whose figure may be another now. */
  delete(id: string): Set<string> {
    const moved = new Set<string>();
    this.finder.delete(id);
    for (const [text, known] of this.known) if (known.first.some((r) => r.id === id)) this.rankAnew(text, known, moved);
    moved.delete(id);
    return moved;
  }

  private leads(id: string, rank: number, { typed, first, least }: KnownLead): boolean {
    return rank >= (first.length < FIRST ? least : first[FIRST - 1]!.rank) || this.finder.isExact(id, typed);
  }

  private rankAnew(text: string, before: KnownLead, moved: Set<string>): void {
    const { typed, first, above } = before;
    const least = above === undefined && first.length < FIRST ? before.least : 0;
    const now = this.finder.best(typed, FIRST, least, above);
    this.known.set(text, { typed, first: now.answers, least, above: now.isBest ? undefined : above });
    // whoever was out stays out
    if (!now.isBest) return;
    if (above === undefined) for (const { id } of first) moved.add(id);
    for (const { id } of now.answers) moved.add(id);
  }

  /** 1 to 3; 0 where the item is not among the first three. */
  private placeOf(id: string, text: string): number {
    let known = this.known.get(text);
    const typed = known?.typed ?? readFolded(text.split(' '), text);
    const rank = this.finder.rankOf(id, typed);
    if (rank === 0) return 0;
    if (!known || !this.tellsOf(rank, id, known)) {
      // who asked before is to be told as well: three that lead before this one lead before those that were out already
      const wasFull = known !== undefined && known.above === undefined;
      const least = known === undefined || wasFull ? rank : 0;
      const enough = wasFull || this.finder.isExact(id, typed) ? Infinity : rank;
      const { answers, isBest } = this.finder.best(typed, FIRST, least, enough);
      known = { typed, first: answers, least, above: isBest ? undefined : enough };
      this.known.set(text, known);
    }
    return known.above === undefined ? known.first.findIndex((r) => r.id === id) + 1 : 0;
  }

  /** Whether what is known says where an item of this rank stands. */
  private tellsOf(rank: number, id: string, { typed, first, least, above }: KnownLead): boolean {
    if (above === undefined) return first.length === FIRST || rank >= least;
    return rank <= above && !this.finder.isExact(id, typed);
  }
}

/** What one may type for an item, shortest first. */
function* fragmentsOf(item: FindItem): Generator<string> {
  const words = queryWords(item.name.replace(/[^\p{L}\p{N}]+/gu, ' '));
  const whole = words.join(' ');
  const initials = words
    .slice(0, MOST_INITIALS)
    .map((word) => word[0])
    .join('');
  for (let n = 1; n <= MOST_CHARACTERS; n++) {
    const tries: string[] = [];
    if (n <= whole.length && whole[n - 1] !== ' ') tries.push(whole.slice(0, n));
    for (const word of words) if (n <= word.length) tries.push(word.slice(0, n));
    if (n > 1 && n <= initials.length) tries.push(initials.slice(0, n));
    for (let i = 0; i < tries.length; i++) if (tries.indexOf(tries[i]!) === i) yield tries[i]!;
  }
}
