/** Saved searches: kept, asked, and what became of their answers. */
import { randomUUID } from 'node:crypto';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { fold } from '@rellin/core/match';
import { segmentsOf } from '@rellin/core/paths';
import {
  countConditions,
  formatQuery,
  parseQuery,
  snippetOf,
  SYSTEM_ZONE,
  type Condition,
  type QueryNode,
} from '@rellin/core/query';
import type {
  AnswersView,
  NewSearch,
  OriginalId,
  PlaceId,
  SearchChange,
  SearchChangesView,
  SearchId,
  SearchOrder,
  SearchPatch,
  SearchQuestion,
  SearchShape,
  SearchView,
} from '@rellin/contract';
import { CollectionsService } from '../collections/collections.service.js';
import { EventsService } from '../events/events.service.js';
import { JournalService, type AfterAct } from '../journal/journal.service.js';
import { KeysService } from '../keys/keys.service.js';
import { MemoryIndexService, type AfterIndex } from '../memoryIndex/memoryIndex.service.js';
import type { MovedAnswer } from '../memoryIndex/messages.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PinsService } from '../pins/pins.service.js';
import type { AfterDisk, PlaceEvent } from '../places/places.service.js';
import { named } from '../problems/named.js';
import { Refusal } from '../problems/refusal.js';
import { TagsService } from '../tags/tags.service.js';
import { netChanges } from '../database/netChanges.js';
import type { RowChange } from '../journal/rowChange.js';

/** Counts are written down this long after they changed, many changes at once. */
const WRITE_MS = 60;
/** How often "last asked" is written down, so that a new start knows from when on days went by. */
const ASKED_MS = 600_000;
const KEEP_CHANGES_DAYS = 90;
const KEEP_SIZES_DAYS = 730;
/** Rows of the builder are counted up to so many conditions. */
const MOST_ROWS = 40;
/** Of these the body is read where case or accents differ from what was asked. */
const MOST_FOLDED = 20;
/** Of so many answers the words around what was asked are shown. */
const MOST_SNIPPETS = 200;

interface StatusRow {
  count: number;
  came: number;
  went: number;
  today: number;
}
type Raw = Record<string, unknown> & StatusRow;

const startOfToday = () => {
  const { year, month, day } = SYSTEM_ZONE.dayOf(Date.now());
  return new Date(SYSTEM_ZONE.startOf(year, month, day));
};

@Injectable()
export class SearchesService implements OnApplicationShutdown, AfterAct, AfterDisk, AfterIndex {
  private readonly log = new Logger('searches');
  private readonly counts = new Map<string, number>();
  private waitingMoves: { moved: MovedAnswer; at: number }[] = [];
  private waitingCounts = new Set<string>();
  private timer: NodeJS.Timeout | undefined;
  private askedTimer: NodeJS.Timeout | undefined;
  private writing: Promise<unknown> = Promise.resolve();
  /** Folders in which answers of saved searches lie as links: what is published there is no answer a second time. */
  private published: Condition[] = [];

  constructor(
    private readonly db: DataSource,
    private readonly journal: JournalService,
    private readonly keys: KeysService,
    private readonly index: MemoryIndexService,
    private readonly originals: OriginalsService,
    private readonly events: EventsService,
    private readonly tags: TagsService,
    private readonly collections: CollectionsService,
    private readonly pins: PinsService,
  ) {}

  afterMoved(moved: MovedAnswer[], at: number): void {
    for (const m of moved) this.waitingMoves.push({ moved: m, at });
    this.writeSoon();
  }

  afterCounted(counts: [string, number][]): void {
    for (const [id, count] of counts) {
      if (this.counts.get(id) === count) continue;
      this.counts.set(id, count);
      this.waitingCounts.add(id);
    }
    if (this.waitingCounts.size > 0) this.writeSoon();
  }

  afterAct(changes: RowChange[]): void {
    const ids = new Set(
      changes
        .filter((c) => c.table === 'saved_search')
        // a new name or place on the strip does not change the answer
        .filter(({ before, after }) => !before || !after || ['query', 'places', 'removed_at'].some((k) => k in after))
        .map((c) => c.id),
    );
    for (const id of ids) void this.watchAnew(id).catch((e: Error) => this.log.warn(e.message));
    if (changes.some((c) => c.table === 'publication')) this.readPublishedSoon();
  }

  afterDisk(event: PlaceEvent): void {
    if (event.kind === 'written' && event.written.foldersTouched && this.published.length > 0) this.readPublishedSoon();
  }

  /** Before the memory index loads, so that its answers begin with what was when Rellin stopped. */
  async start(): Promise<void> {
    await this.readPublished();
    await this.watchAll(true);
    this.askedTimer = setInterval(() => void this.writeAsked(), ASKED_MS).unref();
    await this.prune();
  }

  private readPublishedSoon(): void {
    void this.readPublished()
      .then((isOther) => (isOther ? this.watchAll(false) : undefined))
      .catch((error: Error) => this.log.warn(error.message));
  }

  /** Whether it is another than before. */
  private async readPublished(): Promise<boolean> {
    const rows = (await this.db.query(
      `SELECT l.name AS place, original_path(p.place_id, p.folder_id) AS path, p.name FROM publication p
       JOIN place l ON l.id = p.place_id WHERE p.search_id IS NOT NULL ORDER BY p.id`,
    )) as { place: string; path: string | null; name: string }[];
    const published = rows.flatMap(({ place, path, name }): Condition[] =>
      path === null ? [] : [{ type: 'in', folders: [place, ...segmentsOf(path), name] }],
    );
    const isOther = JSON.stringify(published) !== JSON.stringify(this.published);
    this.published = published;
    return isOther;
  }

  private except(): QueryNode | null {
    return this.published.length > 0 ? { type: 'any', of: this.published } : null;
  }

  private watched(tree: QueryNode): QueryNode {
    const except = this.except();
    return except ? { type: 'all', of: [tree, { type: 'not', of: except }] } : tree;
  }

  /** At the start with what came while Rellin was stopped; later on nothing of it is news. */
  private async watchAll(isStart: boolean): Promise<void> {
    const rows = (await this.db.query(
      `SELECT q.id::text, q.query, q.places, s.asked_at FROM saved_search q
       LEFT JOIN search_status s ON s.search_id = q.id WHERE q.removed_at IS NULL`,
    )) as { id: string; query: string; places: number[] | null; asked_at: Date | null }[];
    for (const r of rows) {
      const tree = parseQuery(r.query);
      if (tree.ok)
        this.index.watch({
          id: r.id,
          tree: this.watched(tree.tree),
          places: r.places,
          askedAt: (isStart && r.asked_at?.getTime()) || null,
        });
      else this.log.warn(`the saved search ${r.id} cannot be read: ${tree.error.message}`);
    }
  }

  private async watchAnew(id: SearchId): Promise<void> {
    const [row] = (await this.db.query(`SELECT query, places FROM saved_search WHERE id = $1 AND removed_at IS NULL`, [
      id,
    ])) as { query: string; places: number[] | null }[];
    const tree = row && parseQuery(row.query);
    if (!tree?.ok) return this.index.unwatch(id);
    // another question has another answer; what came to the old one is not news of the new
    await this.db.query(
      `INSERT INTO search_status (search_id) VALUES ($1) ON CONFLICT (search_id) DO UPDATE SET looked_at = now(), asked_at = now()`,
      [id],
    );
    await this.db.query(`DELETE FROM search_change WHERE search_id = $1`, [id]);
    this.counts.delete(id);
    this.index.watch({ id, tree: this.watched(tree.tree), places: row!.places, askedAt: null });
  }

  private writeSoon(): void {
    this.timer ??= setTimeout(() => {
      this.timer = undefined;
      this.writing = this.writing.then(() => this.write()).catch((e: Error) => this.log.warn(e.message));
    }, WRITE_MS).unref();
  }

  /** What came and went since the last writing, and how many there are now. */
  private async write(): Promise<void> {
    const moves = this.waitingMoves.splice(0);
    const ids = [...this.waitingCounts];
    this.waitingCounts.clear();
    const lines = moves.flatMap(({ moved, at }) => [
      ...moved.came.map((e) => ({ search: moved.searchId, at, came: true, ...e })),
      ...moved.went.map((e) => ({ search: moved.searchId, at, came: false, ...e })),
    ]);
    await this.db.transaction(async (manager) => {
      if (lines.length > 0)
        await manager.query(
          `INSERT INTO search_change (search_id, at, came, place_id, original_id, name, trail)
           SELECT n.search_id, to_timestamp(n.at / 1000), n.came, n.place_id, n.original_id, n.name,
             ARRAY(SELECT jsonb_array_elements_text(n.trail))
           FROM unnest($1::uuid[], $2::float8[], $3::boolean[], $4::int[], $5::bigint[], $6::text[], $7::jsonb[])
             AS n (search_id, at, came, place_id, original_id, name, trail)
           JOIN saved_search q ON q.id = n.search_id`,
          [
            lines.map((l) => l.search),
            lines.map((l) => l.at),
            lines.map((l) => l.came),
            lines.map((l) => l.placeId),
            lines.map((l) => l.id),
            lines.map((l) => l.name),
            lines.map((l) => JSON.stringify(l.trail)),
          ],
        );
      await manager.query(
        `INSERT INTO search_status (search_id, count, asked_at)
         SELECT n.id, n.count, now() FROM unnest($1::uuid[], $2::bigint[]) AS n (id, count)
         JOIN saved_search q ON q.id = n.id
         ON CONFLICT (search_id) DO UPDATE SET count = excluded.count, asked_at = excluded.asked_at`,
        [ids, ids.map((id) => this.counts.get(id) ?? 0)],
      );
      const { year, month, day } = SYSTEM_ZONE.dayOf(Date.now());
      await manager.query(
        `INSERT INTO search_size (search_id, day, count)
         SELECT n.id, make_date($3, $4, $5), n.count FROM unnest($1::uuid[], $2::bigint[]) AS n (id, count)
         JOIN saved_search q ON q.id = n.id
         ON CONFLICT (search_id, day) DO UPDATE SET count = excluded.count`,
        [ids, ids.map((id) => this.counts.get(id) ?? 0), year, month, day],
      );
    });
    this.events.changed('searches', 'pins');
  }

  private async writeAsked(): Promise<void> {
    await this.db
      .query(`UPDATE search_status SET asked_at = now()`)
      .catch((error: Error) => this.log.warn(error.message));
  }

  private async prune(): Promise<void> {
    await this.db.query(
      `DELETE FROM search_change x USING search_status s
       WHERE s.search_id = x.search_id AND x.at < s.looked_at AND x.at < now() - make_interval(days => $1)`,
      [KEEP_CHANGES_DAYS],
    );
    await this.db.query(`DELETE FROM search_size WHERE day < current_date - $1::int`, [KEEP_SIZES_DAYS]);
  }

  async onApplicationShutdown(): Promise<void> {
    clearTimeout(this.timer);
    clearInterval(this.askedTimer);
    await this.writing;
    if (this.waitingMoves.length + this.waitingCounts.size > 0)
      await this.write().catch((e: Error) => this.log.warn(e.message));
    await this.writeAsked();
  }

  async list(removed = false): Promise<SearchView[]> {
    return this.views(`WHERE q.removed_at IS ${removed ? 'NOT NULL' : 'NULL'} ORDER BY lower(q.name), q.id`, []);
  }

  async one(id: SearchId): Promise<SearchView> {
    const [view] = await this.views(`WHERE q.id = $2`, [id]);
    if (!view) throw new Refusal('not-found', 'That saved search is not kept any more.');
    return view;
  }

  private async views(where: string, parameters: unknown[]): Promise<SearchView[]> {
    const rows = (await this.db.query(
      `SELECT q.*, s.looked_at, p.id IS NOT NULL AS pinned, coalesce(s.count, 0) AS count,
         (${netChanges('q.id', 's.looked_at', true)}) AS came, (${netChanges('q.id', 's.looked_at', false)}) AS went,
         (${netChanges('q.id', '$1', true)}) AS today,
         ARRAY(SELECT g.tag_id::text FROM tagging g JOIN tag t ON t.id = g.tag_id WHERE g.search_id = q.id
           ORDER BY lower(t.name)) AS tags,
         ARRAY(SELECT m.collection_id::text FROM member m JOIN collection c ON c.id = m.collection_id
           WHERE m.search_id = q.id AND c.removed_at IS NULL) AS collections
       FROM saved_search q LEFT JOIN search_status s ON s.search_id = q.id LEFT JOIN pin p ON p.search_id = q.id
       ${where}`,
      [startOfToday(), ...parameters],
    )) as Raw[];
    const iso = (value: unknown) => (value as Date).toISOString();
    return rows.map((r) => ({
      id: r['id'] as string,
      name: r['name'] as string,
      description: r['description'] as string,
      query: r['query'] as string,
      places: r['places'] as number[] | null,
      showAs: r['show_as'] as SearchShape,
      sortBy: r['sort_by'] as SearchOrder,
      descending: r['descending'] as boolean,
      most: r['most'] as number,
      colour: r['colour'] as string,
      keys: r['keys'] as string | null,
      muted: r['muted'] as boolean,
      tags: r['tags'] as string[],
      collections: r['collections'] as string[],
      pinned: r['pinned'] as boolean,
      count: r.count,
      came: r.came,
      went: r.went,
      today: r.today,
      lookedAt: r['looked_at'] ? iso(r['looked_at']) : iso(r['added_at']),
      addedAt: iso(r['added_at']),
      removedAt: r['removed_at'] ? iso(r['removed_at']) : null,
    }));
  }

  /** Saved, and put where it is wanted, in one act. */
  async add(request: NewSearch): Promise<string> {
    const id = randomUUID();
    const name = named(request.name ?? '', 'saved search');
    const keys = await this.keys.checked(request.keys ?? null, id);
    await this.journal.act({ act: 'add-search', summary: `Saved the search “${name}”` }, async (tx) => {
      await tx.insert('saved_search', {
        id,
        name,
        keys,
        query: readable(request.query ?? ''),
        description: request.description ?? '',
        places: request.places?.length ? request.places : null,
        show_as: request.showAs ?? 'table',
        sort_by: request.sortBy ?? 'name',
        descending: request.descending ?? false,
        most: request.most ?? 500,
        colour: request.colour ?? '',
        muted: request.muted ?? false,
        added_at: new Date().toISOString(),
      });
      await this.tags.putOnSearch(tx, request.tagIds ?? [], id);
      if (request.collectionId) await this.collections.addSearch(tx, request.collectionId, id);
      if (request.slot !== undefined) await this.pins.insert(tx, { target: 'search', id }, request.slot);
    });
    return id;
  }

  async change(id: SearchId, change: SearchPatch): Promise<void> {
    const own = await this.one(id);
    const name = change.name === undefined ? undefined : named(change.name, 'saved search');
    const keys = change.keys === undefined ? undefined : await this.keys.checked(change.keys, id);
    const renamed = name !== undefined && name !== own.name;
    const summary = renamed ? `Renamed “${own.name}” to “${name}”` : `Changed the saved search “${own.name}”`;
    await this.journal.act({ act: renamed ? 'rename-search' : 'change-search', summary }, (tx) =>
      tx.update('saved_search', id, {
        ...(name !== undefined && { name }),
        ...(change.description !== undefined && { description: change.description }),
        ...(change.query !== undefined && { query: readable(change.query) }),
        ...(change.places !== undefined && { places: change.places?.length ? change.places : null }),
        ...(change.showAs && { show_as: change.showAs }),
        ...(change.sortBy && { sort_by: change.sortBy }),
        ...(change.descending !== undefined && { descending: change.descending }),
        ...(change.most !== undefined && { most: change.most }),
        ...(change.colour !== undefined && { colour: change.colour }),
        ...(change.muted !== undefined && { muted: change.muted }),
        ...(keys !== undefined && { keys }),
      }),
    );
  }

  /** Into the bin, with its pin and its places in collections; no original is touched. */
  async remove(id: SearchId): Promise<void> {
    const { name } = await this.one(id);
    await this.journal.act({ act: 'remove-search', summary: `Removed the saved search “${name}”` }, (tx) =>
      tx.update('saved_search', id, { removed_at: new Date().toISOString() }),
    );
  }

  async putBack(id: SearchId): Promise<void> {
    const { name, keys } = await this.one(id);
    const own = await this.keys.stillFree(keys, id);
    await this.journal.act({ act: 'put-back-search', summary: `Put back “${name}”` }, (tx) =>
      tx.update('saved_search', id, { removed_at: null, keys: own }),
    );
  }

  /** Answers to a text that need not be saved; where it cannot be read, what is wrong with it. */
  async ask(request: SearchQuestion): Promise<AnswersView> {
    const parsed = parseQuery(request.query);
    if (!parsed.ok) return { count: 0, answers: [], rows: null, trouble: parsed.error };
    const { tree } = parsed;
    const asked = await this.index.askFor({
      tree,
      except: this.except(),
      places: request.places?.length ? request.places : null,
      order: request.sortBy ?? 'name',
      descending: request.descending ?? false,
      offset: request.offset ?? 0,
      limit: request.limit ?? 100,
      rows: request.rows === true && countConditions(tree) <= MOST_ROWS,
    });
    const known = await this.originals.many(asked.answers);
    const snippets = await this.snippets(tree, asked.answers);
    return {
      count: asked.count,
      rows: asked.rows,
      trouble: null,
      answers: asked.answers.flatMap(({ placeId, id }) => {
        const view = known.get(`${placeId}/${id}`);
        return view ? [{ ...view, snippet: snippets.get(`${placeId}/${id}`) ?? null }] : [];
      }),
    };
  }

  async answers(id: SearchId, offset: number, limit: number): Promise<AnswersView> {
    const search = await this.one(id);
    return this.ask({ ...search, offset, limit: Math.max(0, Math.min(limit, search.most - offset)) });
  }

  /** Some words around what was asked of the contents. */
  private async snippets(tree: QueryNode, answers: { placeId: PlaceId; id: number }[]): Promise<Map<string, string>> {
    const text = textIn(tree);
    const out = new Map<string, string>();
    if (text === undefined || answers.length === 0) return out;
    const some = answers.slice(0, MOST_SNIPPETS);
    const rows = (await this.db.query(
      `SELECT x.place_id, x.original_id, ts_headline('simple', x.body, phraseto_tsquery('simple', $1),
         'StartSel=«, StopSel=», MaxFragments=1, MaxWords=14, MinWords=5') AS snippet
       FROM content x JOIN unnest($2::int[], $3::bigint[]) AS n (place_id, id)
         ON n.place_id = x.place_id AND n.id = x.original_id WHERE x.words @@ phraseto_tsquery('simple', $4)`,
      [text, some.map((a) => a.placeId), some.map((a) => a.id), fold(text)],
    )) as { place_id: PlaceId; original_id: OriginalId; snippet: string }[];
    const unmarked: string[] = [];
    for (const r of rows) {
      const key = `${r.place_id}/${r.original_id}`;
      out.set(key, r.snippet.replace(/\s+/g, ' ').trim());
      if (!r.snippet.includes('«')) unmarked.push(key);
    }
    // PostgreSQL marks only what is written as it was asked
    for (const key of unmarked.slice(0, MOST_FOLDED)) {
      const [placeId, id] = key.split('/');
      const [row] = (await this.db.query(`SELECT body FROM content WHERE place_id = $1 AND original_id = $2`, [
        placeId,
        id,
      ])) as { body: string }[];
      const snippet = row && snippetOf(row.body, text);
      if (snippet) out.set(key, snippet);
    }
    return out;
  }

  async changes(id: SearchId): Promise<SearchChangesView> {
    const { lookedAt } = await this.one(id);
    const net = async (since: Date, came: boolean): Promise<SearchChange[]> => {
      const rows = (await this.db.query(
        `SELECT place_id, original_id, (array_agg(name ORDER BY id DESC))[1] AS name, max(at) AS at,
           (SELECT y.trail FROM search_change y WHERE y.id = max(x.id)) AS trail
         FROM search_change x WHERE search_id = $1 AND at > $2 GROUP BY place_id, original_id
         HAVING (array_agg(came ORDER BY id))[1] = $3 AND (array_agg(came ORDER BY id DESC))[1] = $3
         ORDER BY max(at) DESC, max(id) DESC LIMIT 500`,
        [id, since, came],
      )) as { place_id: PlaceId; original_id: OriginalId; name: string; at: Date; trail: string[] }[];
      return rows.map((r) => ({
        at: r.at.toISOString(),
        placeId: r.place_id,
        originalId: r.original_id,
        name: r.name,
        trail: r.trail,
      }));
    };
    const since = new Date(lookedAt);
    const sizes = (await this.db.query(
      `SELECT day::text, count::float8 FROM search_size WHERE search_id = $1 ORDER BY day`,
      [id],
    )) as { day: string; count: number }[];
    return {
      lookedAt,
      came: await net(since, true),
      went: await net(since, false),
      today: await net(startOfToday(), true),
      sizes,
    };
  }

  /** What came and went is seen; from now on it is counted anew. */
  async markSeen(id: SearchId): Promise<void> {
    await this.one(id);
    await this.db.query(
      `INSERT INTO search_status (search_id) VALUES ($1) ON CONFLICT (search_id) DO UPDATE SET looked_at = now()`,
      [id],
    );
    this.events.changed('searches', 'pins');
  }
}

/** The canonical text, or refused with where it goes wrong. */
function readable(text: string): string {
  const parsed = parseQuery(text);
  if (!parsed.ok)
    throw new Refusal(
      'not-valid',
      `The search cannot be read at character ${parsed.error.at + 1}: ${parsed.error.message}`,
      {
        ...(parsed.error.suggestion && { remedy: `Did you mean ${parsed.error.suggestion}?` }),
      },
    );
  return formatQuery(parsed.tree);
}

/** The first text that contents are asked for, where it is not shut out. */
function textIn(node: QueryNode): string | undefined {
  if (node.type === 'text') return node.text;
  if (node.type !== 'all' && node.type !== 'any') return undefined;
  for (const part of node.of) {
    const text = textIn(part);
    if (text !== undefined) return text;
  }
  return undefined;
}
