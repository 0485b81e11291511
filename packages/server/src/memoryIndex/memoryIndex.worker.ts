/**
 * The thread that holds the memory index: all originals in columns, the catalogue's names, and the saved searches with
 * their answers. It reads PostgreSQL by itself and can be made anew from it at any time.
 */
import type { PlaceId } from '@rellin/contract';
import { parentPort, workerData } from 'node:worker_threads';
import { ShortestQueries, Finder, queryWords, usageFactor, type ShortestQuery } from '@rellin/core/match';
import {
  askColumns,
  Bits,
  countRows,
  firstAnswers,
  LiveSearches,
  NO_FACTS,
  PlaceIndex,
  rankNames,
  type SearchedPlace,
  type Moved,
  type PlaceFacts,
  type RowCount,
} from '@rellin/core/memoryIndex';
import { asksContent, rowsOf, SYSTEM_ZONE, textsOf, type QueryNode } from '@rellin/core/query';
import { lastingClient } from '../threads/lastingClient.js';
import { failureOf } from '../threads/questions.js';
import { loadPlace, readChanged, readFacts, readHolding } from './loading.js';
import type {
  Asked,
  AskFor,
  CatalogueItem,
  FoundAnswer,
  FromIndex,
  MovedAnswer,
  MovedEntry,
  ToIndex,
  WatchedSearch,
  WaysTo,
} from './messages.js';

const { databaseUrl } = workerData as { databaseUrl: string };
const port = parentPort!;
const post = (message: FromIndex) => port.postMessage(message);

const finder = new Finder();
const shortestQueries = new ShortestQueries(finder);
const catalogue = new Map<string, CatalogueItem>();
const places = new Map<number, PlaceIndex>();
let facts: Map<number, PlaceFacts> | undefined;
/** Whether it was told which places are away. */
let awayKnown = false;
/** Text → place → originals whose content holds it: of the texts that saved searches ask for. */
const contents = new Map<string, Map<number, Set<number>>>();
const live = new LiveSearches(SYSTEM_ZONE);
const searches = new Map<string, WatchedSearch>();
let work: Promise<unknown> = Promise.resolve();
/** Shortcuts whose fewest characters are to be found. */
const waiting = new Set<string>();
/** So long at a stretch, so that a query never waits for more. */
const FEWEST_MS = 10;
const client = lastingClient(databaseUrl);
let day = SYSTEM_ZONE.dayOf(Date.now()).day;
const DAY_LOOK_MS = 20_000;
/** More than this at once, of one search and place, is counted but not told of one by one. */
const MOST_SAID = 50_000;

const factsOf = (placeId: PlaceId) => facts?.get(placeId) ?? NO_FACTS;
const NOTHING: ReadonlySet<number> = new Set();
function livePlace(index: PlaceIndex): SearchedPlace {
  return {
    index,
    facts: factsOf(index.placeId),
    holding: (text) => contents.get(text)?.get(index.placeId) ?? NOTHING,
  };
}
const livePlaces = () => [...places.values()].map(livePlace);

/** Texts of a tree that the contents are asked for, read where they are not known yet. */
async function readTexts(tree: QueryNode, keep: boolean): Promise<Map<string, Map<number, Set<number>>>> {
  const found = new Map<string, Map<number, Set<number>>>();
  for (const text of textsOf(tree)) {
    const known = contents.get(text) ?? (await readHolding(await client.get(), text));
    if (keep) contents.set(text, known);
    found.set(text, known);
  }
  return found;
}

async function askFor({ tree, except, places: only, order, descending, offset, limit, rows }: AskFor): Promise<Asked> {
  const texts = asksContent(tree) ? await readTexts(tree, false) : new Map<string, Map<number, Set<number>>>();
  const now = Date.now();
  const group = rows ? rowsOf(tree) : undefined;
  let counted: RowCount[] | null = null;
  let count = 0;
  const parts = [];
  for (const index of places.values()) {
    if (only && !only.includes(index.placeId)) continue;
    const context = {
      now,
      zone: SYSTEM_ZONE,
      facts: factsOf(index.placeId),
      holding: (text: string) => texts.get(text)?.get(index.placeId) ?? NOTHING,
    };
    const bits = askColumns(index, except ? { type: 'all', of: [tree, { type: 'not', of: except }] } : tree, context);
    count += bits.count();
    parts.push({ index, rows: bits, facts: context.facts });
    if (group) {
      const here = countRows(index, group, context);
      counted = counted
        ? counted.map((c, i) => ({ through: c.through + here[i]!.through, alone: c.alone + here[i]!.alone }))
        : here;
    }
  }
  const answers = firstAnswers(parts, order, descending, offset, limit).map(({ place, row }) => ({
    placeId: place,
    id: places.get(place)!.ids[row]!,
  }));
  return { count, answers, rows: counted };
}

/** The best of the catalogue and of all places, in one order. */
async function find(query: string, limit: number, within: QueryNode | null): Promise<FoundAnswer[]> {
  const words = queryWords(query);
  const texts = within && asksContent(within) ? await readTexts(within, false) : undefined;
  const allowed = new Map<number, Bits>();
  if (within)
    for (const index of places.values())
      allowed.set(
        index.placeId,
        askColumns(index, within, {
          now: Date.now(),
          zone: SYSTEM_ZONE,
          facts: factsOf(index.placeId),
          holding: (text) => texts?.get(text)?.get(index.placeId) ?? NOTHING,
        }),
      );
  const isAllowed = (id: string) => {
    const original = catalogue.get(id)?.original;
    const index = original && places.get(original.placeId);
    return index !== undefined && (allowed.get(index.placeId)?.has(index.rowOf(original!.id)) ?? false);
  };
  if (words.length === 0 && within) {
    // no word yet: what fits, in the order of use, then of change
    const fitting = [...catalogue.values()]
      .filter((item) => isAllowed(item.id))
      .sort((a, b) => (b.weight ?? 0) - (a.weight ?? 0));
    const parts = [...places.values()].map((index) => ({
      index,
      rows: allowed.get(index.placeId)!,
      facts: factsOf(index.placeId),
    }));
    return [
      ...fitting.slice(0, limit).map(({ id, group }) => ({ id, group })),
      ...firstAnswers(parts, 'modified', true, 0, Math.max(0, limit - fitting.length)).map(({ place, row }) => ({
        id: `${place}/${places.get(place)!.ids[row]!}`,
        group: 'original' as const,
      })),
    ];
  }
  const found = finder
    .search(query, within ? finder.size : limit)
    .filter((a) => !within || isAllowed(a.id))
    .map((a) => ({
      id: a.id,
      group: a.group as FoundAnswer['group'],
      rank: a.rank,
      exact: a.exact,
      length: finder.get(a.id)!.name.length,
    }));
  for (const index of places.values())
    for (const { row, rank, exact } of rankNames(index, words, limit, allowed.get(index.placeId)))
      found.push({
        id: `${index.placeId}/${index.ids[row]}`,
        group: 'original',
        rank,
        exact,
        length: index.nameLength[row]!,
      });
  const order = { shortcut: 0, collection: 1, search: 2, original: 3 } as const;
  return found
    .sort(
      (a, b) =>
        Number(b.exact) - Number(a.exact) || b.rank - a.rank || order[a.group] - order[b.group] || a.length - b.length,
    )
    .slice(0, limit)
    .map(({ id, group }) => ({ id, group }));
}

function waysTo({ placeId, id }: { placeId: PlaceId; id: number }): WaysTo | null {
  const index = places.get(placeId);
  const row = index?.rowOf(id) ?? -1;
  return row < 0 ? null : { levels: index!.levelsOf(row), searches: live.answering(placeId, row) };
}

function entryOf(index: PlaceIndex, row: number): MovedEntry {
  return {
    placeId: index.placeId,
    id: index.ids[row]!,
    name: index.nameOf(row),
    trail: index.trailOf(row),
  };
}

/** Says what came and went, and how many each of these searches has now. */
function tell(moved: Moved[]): void {
  if (moved.length === 0) return;
  const bySearch = new Map<string, MovedAnswer>();
  for (const m of moved) {
    const index = places.get(m.placeId)!;
    const said: MovedAnswer = bySearch.get(m.searchId) ?? { searchId: m.searchId, came: [], went: [] };
    for (const row of m.came.slice(0, MOST_SAID)) said.came.push(entryOf(index, row));
    for (const row of m.went.slice(0, MOST_SAID)) said.went.push(entryOf(index, row));
    bySearch.set(m.searchId, said);
  }
  post({ kind: 'moved', moved: [...bySearch.values()], at: Date.now() });
  tellCounts(bySearch.keys());
}

function tellCounts(ids: Iterable<string>): void {
  post({ kind: 'counts', counts: [...ids].map((id) => [id, live.count(id)]) });
}

async function load(placeId: PlaceId, name: string): Promise<void> {
  facts ??= await readFacts(await client.get(), new Set());
  const index = await loadPlace(await client.get(), placeId, name);
  places.set(placeId, index);
  live.forget(placeId);
  const now = Date.now();
  // what it was when it was last written down, so that what the days since then changed is said
  live.fill(livePlace(index), (id) => searches.get(id)?.askedAt ?? now);
  tell(live.askAnew(livePlace(index), now, (needs) => needs.day));
  tellCounts(searches.keys());
  post({ kind: 'loaded', placeId });
}

async function changed(placeId: PlaceId, touched: number[], folders: boolean): Promise<void> {
  const index = places.get(placeId);
  if (!index) return;
  // looked through for the first time: all of it is new, and none of it is news
  if (index.rows === 0) return load(placeId, index.name);
  const rows = await readChanged(await client.get(), index, touched);
  // one that came back after its row was laid aside has no row between the others
  if (rows.some((row) => !index.canPut(row.id))) return load(placeId, index.name);
  const moved: number[] = [];
  const touch = (row: number) => {
    if (row < 0) return;
    moved.push(row);
    // a folder is empty or not by what lies in it
    const parent = index.parents[row]!;
    if (parent >= 0) moved.push(parent);
  };
  const met = new Set(rows.map((r) => r.id));
  for (const id of touched) touch(index.rowOf(id));
  for (const id of touched) if (!met.has(id)) index.delete(id);
  for (const row of rows) {
    index.put(row);
    touch(index.rowOf(row.id));
  }
  if (folders) for (const row of index.deleteOrphans()) touch(row);
  const now = Date.now();
  tell([
    ...live.rowsChanged(livePlace(index), [...new Set(moved)], now),
    ...(folders ? live.askAnew(livePlace(index), now, (needs) => needs.folders) : []),
  ]);
  if (index.needsLayingOut) {
    index.layOut();
    live.fill(livePlace(index), () => now);
  }
}

async function takeFacts(away: number[]): Promise<void> {
  facts = await readFacts(await client.get(), new Set(away));
  const now = Date.now();
  const moved = livePlaces().flatMap((place) => live.askAnew(place, now, (needs) => needs.facts));
  // which places are away is heard soon after the start: that is how it was before
  if (awayKnown) tell(moved);
  else tellCounts(searches.keys());
  awayKnown = true;
}

/** Some originals' contents were read anew. */
async function takeContent(placeId: PlaceId, ids: number[]): Promise<void> {
  const texts = live.texts();
  for (const text of contents.keys()) if (!texts.has(text)) contents.delete(text);
  if (texts.size === 0) return;
  for (const text of texts) {
    const holding = (await readHolding(await client.get(), text, { placeId, ids })).get(placeId);
    const byPlace = contents.get(text) ?? new Map<number, Set<number>>();
    const known = byPlace.get(placeId) ?? new Set<number>();
    for (const id of ids)
      if (holding?.has(id)) known.add(id);
      else known.delete(id);
    byPlace.set(placeId, known);
    contents.set(text, byPlace);
  }
  const index = places.get(placeId);
  if (!index) return;
  const rows = ids.map((id) => index.rowOf(id)).filter((row) => row >= 0);
  tell(live.rowsChanged(livePlace(index), rows, Date.now()));
}

async function watch(search: WatchedSearch): Promise<void> {
  await readTexts(search.tree, true);
  searches.set(search.id, search);
  const now = Date.now();
  live.put(search, livePlaces(), search.askedAt ?? now);
  if (search.askedAt !== null) tell(livePlaces().flatMap((p) => live.askAnew(p, now, (needs) => needs.day)));
  tellCounts([search.id]);
}

/** When more than so many change at once, all fewest characters are found anew. */
const FEW_CHANGED = 200;

function takeCatalogue(items: CatalogueItem[], gone: string[] | 'others'): void {
  const idle = waiting.size === 0;
  const now = gone === 'others' ? new Set(items.map((item) => item.id)) : undefined;
  const left = now ? [...catalogue.keys()].filter((id) => !now.has(id)) : (gone as string[]);
  const changed = items.filter((item) => {
    const before = catalogue.get(item.id);
    return !before || !isAlike(before, item);
  });
  for (const id of left) catalogue.delete(id);
  for (const item of items) catalogue.set(item.id, item);
  if (left.length + changed.length > FEW_CHANGED) {
    for (const id of left) finder.delete(id);
    for (const item of changed) finder.put(item);
    shortestQueries.forget();
    for (const id of catalogue.keys()) waiting.add(id);
  } else {
    for (const id of left) for (const other of shortestQueries.delete(id)) waiting.add(other);
    for (const item of changed) for (const other of shortestQueries.put(item)) waiting.add(other);
  }
  for (const id of waiting) if (catalogue.get(id)?.group !== 'shortcut') waiting.delete(id);
  if (idle) pump();
}

/** Use fades for all together: a hundredth of what it makes of a rank changes no order that one would notice. */
function isAlike(a: CatalogueItem, b: CatalogueItem): boolean {
  if (Math.abs(usageFactor(a.weight ?? 0) - usageFactor(b.weight ?? 0)) >= 0.01) return false;
  return JSON.stringify({ ...a, weight: 0 }) === JSON.stringify({ ...b, weight: 0 });
}

/**
 * Put in, asked for, and taken out again at once: nobody finds it meanwhile. What is known of the others stays as it
 * is, so that this costs a few searches and not a look at every fragment.
 */
function wouldBe(item: CatalogueItem): ShortestQuery | null {
  finder.put(item);
  const found = new ShortestQueries(finder).of(item.id);
  finder.delete(item.id);
  return found ?? null;
}

function pump(): void {
  if (waiting.size === 0) return;
  const found: [string, ShortestQuery | undefined][] = [];
  const until = performance.now() + FEWEST_MS;
  for (const id of waiting) {
    waiting.delete(id);
    found.push([id, shortestQueries.of(id)]);
    if (performance.now() > until) break;
  }
  post({ kind: 'shortest', found, left: waiting.size });
  setImmediate(pump);
}

function after(job: () => Promise<unknown>): void {
  work = work.then(job).catch((error: Error) => post({ kind: 'trouble', message: error.message }));
}

function answer(ask: number, job: () => Promise<unknown>): void {
  job().then(
    (value) => post({ kind: 'answer', ask, value }),
    (error: unknown) => post({ kind: 'failure', ask, error: failureOf(error) }),
  );
}

port.on('message', (message: ToIndex) => {
  switch (message.kind) {
    case 'find':
      answer(message.ask, () => find(message.query, message.limit, message.within));
      break;
    case 'ask':
      answer(message.ask, () => askFor(message.for));
      break;
    case 'ways':
      answer(message.ask, async () => message.to.map(waysTo));
      break;
    case 'would-be':
      answer(message.ask, async () => message.items.map(wouldBe));
      break;
    case 'settled':
      answer(message.ask, () => work);
      break;
    case 'catalogue':
      takeCatalogue(message.items, message.gone);
      break;
    case 'place':
      after(() => load(message.placeId, message.name));
      break;
    case 'forget-place':
      after(async () => {
        places.delete(message.placeId);
        live.forget(message.placeId);
        tellCounts(searches.keys());
      });
      break;
    case 'changed':
      after(() => changed(message.placeId, message.touched, message.folders));
      break;
    case 'facts':
      after(() => takeFacts(message.away));
      break;
    case 'content':
      after(() => takeContent(message.placeId, message.ids));
      break;
    case 'search':
      after(() => watch(message.search));
      break;
    case 'forget-search':
      after(async () => {
        live.delete(message.id);
        searches.delete(message.id);
      });
      break;
  }
});

setInterval(() => {
  const today = SYSTEM_ZONE.dayOf(Date.now()).day;
  if (today === day) return;
  day = today;
  after(async () => tell(livePlaces().flatMap((p) => live.askAnew(p, Date.now(), (needs) => needs.day))));
}, DAY_LOOK_MS).unref();
