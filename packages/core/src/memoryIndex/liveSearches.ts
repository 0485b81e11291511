/**
 * Saved searches that keep their answers: a change to one file is tried against each in memory, none is asked anew.
 * Asked anew are only those that what changed can touch as a whole: a folder moved, a day began, a tag was given.
 */
import {
  asksContent,
  compileQuery,
  conditionsOf,
  textsOf,
  type Condition,
  type QueryNode,
  type QueryTest,
  type Zone,
} from '../query/index.js';
import { askColumns, recordOf, type PlaceFacts } from './askColumns.js';
import { Bits } from './bits.js';
import type { PlaceIndex } from './placeIndex.js';

export interface LiveSearch {
  id: string;
  tree: QueryNode;
  /** Only these places; null for all. */
  places: readonly number[] | null;
}

/** One place as the searches see it. */
export interface SearchedPlace {
  index: PlaceIndex;
  facts: PlaceFacts;
  /** Originals whose content holds a text. */
  holding(text: string): ReadonlySet<number>;
}

/** What came to a search's answer in one place and what went from it, by rows; what went may be gone from the index. */
export interface Moved {
  searchId: string;
  placeId: number;
  came: number[];
  went: number[];
}

/** What an answer hangs on besides the row itself. */
export interface Needs {
  /** The day: "last week" is another one tomorrow. */
  day: boolean;
  /** Folders above. */
  folders: boolean;
  /** Shortcuts, pins, openings, tags, and places that are away. */
  facts: boolean;
  content: boolean;
}

const RELATIVE = (node: Condition): boolean =>
  (node.type === 'time' && node.word.type !== 'date') ||
  (node.type === 'time-range' &&
    ((node.from !== null && node.from.type !== 'date') || (node.to !== null && node.to.type !== 'date')));

/** Whether facts of the catalogue, not of the disk alone, decide it. */
const ASKS_FACTS = (node: Condition): boolean =>
  node.type === 'tag' ||
  node.type === 'never-opened' ||
  ((node.type === 'time' || node.type === 'time-range') && node.field === 'opened') ||
  (node.type === 'is' && ['shortcut', 'pinned', 'tagged', 'away'].includes(node.what));

export function needsOf(node: QueryNode): Needs {
  const conditions = conditionsOf(node);
  return {
    day: conditions.some(RELATIVE),
    folders: conditions.some((c) => c.type === 'in'),
    facts: conditions.some(ASKS_FACTS),
    content: asksContent(node),
  };
}

interface Held {
  search: LiveSearch;
  needs: Needs;
  members: Map<number, Bits>;
  /** Compiled for the day it is used on. */
  test: { day: number; run: QueryTest } | undefined;
}

/** Above this many changed rows asking anew is quicker than trying each. */
const MANY = 3000;

export class LiveSearches {
  private readonly held = new Map<string, Held>();

  constructor(private readonly zone: Zone) {}

  get size(): number {
    return this.held.size;
  }

  /** Texts that the contents are asked for. */
  texts(): Set<string> {
    return new Set([...this.held.values()].flatMap(({ search }) => textsOf(search.tree)));
  }

  /** Takes a search up, or takes it as it now is; its answer is what it is at `now`, told to nobody. */
  put(search: LiveSearch, places: Iterable<SearchedPlace>, now: number): void {
    const held: Held = { search, needs: needsOf(search.tree), members: new Map(), test: undefined };
    this.held.set(search.id, held);
    for (const place of places) this.ask(held, place, now);
  }

  delete(id: string): void {
    this.held.delete(id);
  }

  has(id: string): boolean {
    return this.held.has(id);
  }

  /** The searches of which a row of a place is an answer. */
  answering(placeId: number, row: number): string[] {
    const out: string[] = [];
    for (const [id, { members }] of this.held) if (members.get(placeId)?.has(row)) out.push(id);
    return out;
  }

  /** How many the answer has now, over all places. */
  count(id: string): number {
    let n = 0;
    for (const bits of this.held.get(id)?.members.values() ?? []) n += bits.count();
    return n;
  }

  /** A place came or its rows are numbered anew: what is there now is the answer, told to nobody. */
  fill(place: SearchedPlace, now: (searchId: string) => number): void {
    for (const held of this.held.values()) this.ask(held, place, now(held.search.id));
  }

  forget(placeId: number): void {
    for (const held of this.held.values()) held.members.delete(placeId);
  }

  /** Some rows are not as they were. Cost: a test a row and search. */
  rowsChanged(place: SearchedPlace, rows: readonly number[], now: number): Moved[] {
    if (rows.length > MANY) return this.askAnew(place, now, () => true);
    const { index, facts } = place;
    const records = rows.map((row) => {
      const record = recordOf(index, row, facts);
      record.holds = (text) => place.holding(text).has(index.ids[row]!);
      return record;
    });
    const moved: Moved[] = [];
    for (const held of this.held.values()) {
      const members = this.membersOf(held, place, now);
      if (!members) continue;
      const test = this.testOf(held, now);
      const came: number[] = [];
      const went: number[] = [];
      for (let i = 0; i < rows.length; i++) {
        const row = rows[i]!;
        const is = index.gone[row] === 0 && index.nameLength[row]! > 0 && test(records[i]!);
        if (is === members.has(row)) continue;
        if (is) {
          members.add(row);
          came.push(row);
        } else {
          members.delete(row);
          went.push(row);
        }
      }
      if (came.length + went.length > 0) moved.push({ searchId: held.search.id, placeId: index.placeId, came, went });
    }
    return moved;
  }

  /** Asks those anew that hang on something that changed as a whole. Cost: a run over the columns for each. */
  askAnew(place: SearchedPlace, now: number, which: (needs: Needs) => boolean): Moved[] {
    const moved: Moved[] = [];
    for (const held of this.held.values()) {
      if (!which(held.needs)) continue;
      const before = this.membersOf(held, place, now);
      if (!before) continue;
      held.test = undefined;
      const after = this.ask(held, place, now)!;
      const came: number[] = [];
      const went: number[] = [];
      after
        .copy()
        .andNot(before.copy(after.size))
        .each((row) => came.push(row));
      before
        .copy(after.size)
        .andNot(after)
        .each((row) => went.push(row));
      if (came.length + went.length > 0)
        moved.push({ searchId: held.search.id, placeId: place.index.placeId, came, went });
    }
    return moved;
  }

  private testOf(held: Held, now: number): QueryTest {
    const { year, month, day } = this.zone.dayOf(now);
    const today = year * 10_000 + month * 100 + day;
    if (held.test?.day !== today)
      held.test = { day: today, run: compileQuery(held.search.tree, { now, zone: this.zone }) };
    return held.test.run;
  }

  /** With room for all rows; undefined where the search does not look into the place. */
  private membersOf(held: Held, place: SearchedPlace, now: number): Bits | undefined {
    const { placeId, rows } = place.index;
    const members = held.members.get(placeId) ?? this.ask(held, place, now);
    if (!members || members.size >= rows) return members;
    const more = members.copy(Math.ceil(rows * 1.2) + 64);
    held.members.set(placeId, more);
    return more;
  }

  private ask({ search, members }: Held, place: SearchedPlace, now: number): Bits | undefined {
    const { placeId } = place.index;
    if (search.places && !search.places.includes(placeId)) return undefined;
    const bits = askColumns(place.index, search.tree, {
      now,
      zone: this.zone,
      facts: place.facts,
      holding: (text) => place.holding(text),
    });
    members.set(placeId, bits);
    return bits;
  }
}
