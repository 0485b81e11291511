/** What a sweep would do: where each thing goes and why. Nothing is done, and nothing kept. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { WORTH_SAYING, type Suggestion } from '@rellin/core/belongs';
import { grouped, piecesOf } from '@rellin/core/lists';
import { fold } from '@rellin/core/match';
import { nameOf, shown } from '@rellin/core/paths';
import { compileQuery, parseQuery, SYSTEM_ZONE, textsOf, type QueryRecord, type QueryTest } from '@rellin/core/query';
import { ruleFor, SURE_ENOUGH, type Rule } from '@rellin/core/sweep';
import type {
  OriginalId,
  OriginalRef,
  PlaceId,
  SweepFolder,
  SweepPlan,
  SweepQuestion,
  SweepRule,
  SweepSuggestion,
  SweepThing,
  SweepTo,
  SweepWhy,
} from '@rellin/contract';
import { ActivityService } from '../activity/activity.service.js';
import { BelongsService, keyOf } from '../belongs/belongs.service.js';
import type { FolderKey } from '../belongs/messages.js';
import { FilingService } from '../filing/filing.service.js';
import { MoverService } from '../filing/mover.service.js';
import { BEGINNING } from '../filing/sameContent.js';
import { OriginalsRepository, type OriginalRecord } from '../originals/originals.repository.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { Refusal } from '../problems/refusal.js';
import { SweepsRepository, type ThingFacts } from './sweeps.repository.js';
import { SweptFolders, type Candidate, type Swept } from './sweptFolders.service.js';

/** Of files elsewhere of one size so many are looked at. */
const MOST_OF_SIZE = 200;
/** Of those that begin alike so many are read whole. */
const MOST_COMPARED = 20;
const AT_ONCE = 500;
const MINUTE_MS = 60_000;

const NO_FACTS: ThingFacts = { opened: null, hasShortcut: false, isPinned: false, tags: [] };

/** What a rule is tested on. */
interface Tested {
  record: QueryRecord;
  isDuplicate: boolean;
}

/** A rule that can be followed. `to` is what it leads to: a folder by its key. */
interface Followed extends Rule<Tested, FolderKey | 'bin' | 'leave'> {
  path: string | undefined;
}

/** A file that another may be the same as. */
type Found = Candidate | { row: OriginalRecord; path: string };
const isCandidate = (one: Found): one is Candidate => 'seen' in one;

interface Duplicate {
  row: OriginalRecord;
  trail: string[];
}

/** How far a plan has come, and whether it is to go on. */
interface Work {
  signal: AbortSignal;
  on(): void;
}

@Injectable()
export class SweepPlanService {
  constructor(
    private readonly swept: SweptFolders,
    private readonly rows: SweepsRepository,
    private readonly index: OriginalsRepository,
    private readonly originals: OriginalsService,
    private readonly places: PlaceRegistry,
    private readonly filing: FilingService,
    private readonly mover: MoverService,
    private readonly belongs: BelongsService,
    private readonly activity: ActivityService,
  ) {}

  async plan(question: SweepQuestion): Promise<SweepPlan> {
    const at = Date.now();
    const swept = await this.swept.folders(question.folders);
    const troubles: SweepPlan['troubles'] = [];
    const rules = await this.followed(question.rules, swept, troubles);
    const stop = new AbortController();
    const id = `sweep-plan-${randomUUID()}`;
    this.activity.begin(id, `Looking through ${namesOf(swept)}`, null, () => stop.abort());
    let done = 0;
    try {
      const destinations = rules.flatMap((rule) => rule.path ?? []);
      const things = await this.swept.candidates(swept, destinations, question.recentMinutes * MINUTE_MS);
      const work: Work = { signal: stop.signal, on: () => this.activity.progress(id, ++done) };
      return await this.planOf(things, swept, rules, question.rules, { at, troubles }, work);
    } catch (error) {
      if (stop.signal.aborted) throw new Refusal('stopped', 'Stopped; nothing was changed.');
      throw error;
    } finally {
      this.activity.end(id);
    }
  }

  private async planOf(
    things: readonly Candidate[],
    swept: readonly Swept[],
    rules: readonly Followed[],
    asked: readonly SweepRule[],
    { at, troubles }: Pick<SweepPlan, 'at' | 'troubles'>,
    work: Work,
  ): Promise<SweepPlan> {
    const records = await this.records(things, swept, asked);
    const duplicates = await this.duplicates(things, swept, work);
    const origins = await this.origins(things, swept, work);
    const ruled = things.map((thing, i) =>
      thing.stays ? undefined : ruleFor(rules, { record: records[i]!, isDuplicate: duplicates.has(thing) }),
    );
    const open = things.filter((t, i) => !t.stays && ruled[i] === undefined && t.row.type === 'file');
    const all = await this.belongs.suggest(
      open.map(({ row: { name, size, mtime } }) => ({ name, size, modified: mtime })),
      swept,
    );
    const suggested = all.map((list) => list.filter((s) => s.probability >= WORTH_SAYING));
    const likely = new Map(open.map((thing, i) => [thing, suggested[i]!]));
    const keys = [
      ...rules.flatMap(({ to }) => (to === 'bin' || to === 'leave' ? [] : to)),
      ...suggested.flatMap((list) => list.map((s) => s.folder)),
    ];
    const folders = await this.folderViews(keys, things);
    const position = new Map(folders.map((folder, i) => [keyOf(folder), i]));
    return {
      at,
      swept: swept.map(({ placeId, originalId, name, trail }) => ({ placeId, originalId, name, trail })),
      folders,
      troubles,
      things: things.map((thing, i): SweepThing => {
        const { row, seen } = thing;
        const suggestions = (likely.get(thing) ?? []).flatMap((s) => suggestionOf(s, position));
        const twin = duplicates.get(thing);
        return {
          placeId: row.placeId,
          id: row.id,
          folder: thing.folder,
          name: row.name,
          type: row.type,
          kind: row.kind,
          size: seen.isFolder ? 0 : seen.size,
          modified: seen.modified,
          opened: records[i]!.opened,
          origin: origins.get(thing) ?? '',
          duplicateOf: twin
            ? { placeId: twin.row.placeId, id: twin.row.id, name: twin.row.name, trail: twin.trail }
            : null,
          ...decided(thing, ruled[i], rules, suggestions, position),
          suggestions,
        };
      }),
    };
  }

  /** The rules that can be followed now, in their order. One that cannot leaves what it matches where it is. */
  private async followed(
    rules: readonly SweepRule[],
    swept: readonly Swept[],
    troubles: SweepPlan['troubles'],
  ): Promise<Followed[]> {
    const out: Followed[] = [];
    for (const [i, rule] of rules.entries()) {
      let matches: Followed['matches'] = () => false;
      let to: Followed['to'] = rule.to === 'bin' ? 'bin' : 'leave';
      let path: string | undefined;
      try {
        matches = matcherOf(rule);
        if (rule.to === 'folder') {
          const folder = await this.filing.targetOf({ shortcutId: rule.shortcutId });
          if (swept.some((s) => s.path === folder.path))
            throw new Refusal('conflict', `“${folder.name}” is the folder that is swept.`);
          path = folder.path;
          const located = await this.originals.locate(folder.path);
          to = keyOf({ placeId: located.placeId, originalId: located.originalId });
        }
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        troubles.push({ rule: i, message: error.detail });
      }
      out.push({ matches, to, path });
    }
    return out;
  }

  /** What rules are tested on. */
  private async records(
    things: readonly Candidate[],
    swept: readonly Swept[],
    rules: readonly SweepRule[],
  ): Promise<QueryRecord[]> {
    const texts = [...new Set(rules.flatMap(textsIn))];
    const facts = new Map<Candidate, ThingFacts>();
    const children = new Map<Candidate, number>();
    const holding = new Map<string, Set<Candidate>>(texts.map((text) => [text, new Set()]));
    for (const [placeId, own] of grouped(things, (t) => t.row.placeId)) {
      const ids = own.map((t) => t.row.id);
      const known = await this.rows.facts(placeId, ids);
      const folders = own.flatMap((t) => (t.row.type === 'folder' ? t.row.id : []));
      const counts = await this.index.childCounts(placeId, folders);
      for (const thing of own) {
        facts.set(thing, known.get(thing.row.id) ?? NO_FACTS);
        if (thing.row.type === 'folder') children.set(thing, counts.get(thing.row.id) ?? 0);
      }
      for (const text of texts) {
        const found = await this.rows.holding(placeId, ids, text);
        for (const thing of own) if (found.has(thing.row.id)) holding.get(text)!.add(thing);
      }
    }
    return things.map((thing): QueryRecord => {
      const { row, seen, folder } = thing;
      const { opened, hasShortcut, isPinned, tags } = facts.get(thing)!;
      return {
        folded: fold(row.name),
        type: row.type,
        kind: row.kind,
        size: seen.size,
        modified: seen.modified,
        created: row.birth,
        opened,
        folders: [...swept[folder]!.trail, swept[folder]!.name].map(fold),
        tags,
        shortcut: hasShortcut,
        pinned: isPinned,
        away: false,
        children: children.get(thing) ?? null,
        holds: (text) => holding.get(text)?.has(thing) ?? false,
      };
    });
  }

  /** Of each file another with the same content: one that is filed already, or an older one that is swept as well. */
  private async duplicates(
    things: readonly Candidate[],
    swept: readonly Swept[],
    work: Work,
  ): Promise<Map<Candidate, Duplicate>> {
    const files = things.filter((t) => t.row.type === 'file' && t.seen.size > 0);
    // the oldest of those that are swept is the one that the others are copies of
    files.sort((a, b) => a.seen.modified - b.seen.modified || (a.row.name < b.row.name ? -1 : 1));
    const filed = grouped(await this.filedAlready(files, swept), ({ row }) => row.size);
    const out = new Map<Candidate, Duplicate>();
    for (const group of await this.alike(files, filed, work)) {
      const others = group.filter((one) => !isCandidate(one));
      const before: Found[] = [];
      for (const thing of group.filter(isCandidate)) {
        const all = [...others, ...before];
        before.push(thing);
        const twin = await this.twinOf(thing, all, work);
        if (twin) out.set(thing, { row: twin.row, trail: [] });
      }
    }
    const found = await this.originals.many([...out.values()].map(({ row }) => row));
    for (const twin of out.values()) twin.trail = found.get(`${twin.row.placeId}/${twin.row.id}`)?.trail ?? [];
    return out;
  }

  /** Files elsewhere of the sizes of these, some of each. */
  private async filedAlready(files: readonly Candidate[], swept: readonly Swept[]): Promise<Found[]> {
    const here = this.places.all().flatMap((p) => (p.state === 'here' ? p.entity.id : []));
    const unsorted = new Set(swept.map(keyOf));
    const sizes = [...new Set(files.map((t) => t.seen.size))];
    const rows = (await this.index.withSizes(here, sizes)).filter(
      (row) => !unsorted.has(keyOf({ placeId: row.placeId, originalId: row.parentId })),
    );
    const some = [...grouped(rows, (row) => row.size).values()].flatMap((own) => own.slice(0, MOST_OF_SIZE));
    const refs = some.map((row) => ({ placeId: row.placeId, originalId: row.id }));
    return [...(await this.originals.located(refs)).values()];
  }

  /** Groups of files of one size and one beginning that have one of these among them. */
  private async alike(
    files: readonly Candidate[],
    filed: ReadonlyMap<number, readonly Found[]>,
    work: Work,
  ): Promise<Found[][]> {
    const bySize = grouped(files, (t) => t.seen.size);
    const all = [...bySize].flatMap(([size, own]): Found[] => {
      const others = filed.get(size) ?? [];
      return own.length + others.length > 1 ? [...others, ...own] : [];
    });
    const groups = new Map<string, Found[]>();
    for (const some of piecesOf(all, AT_ONCE)) {
      const paths = some.map((one) => one.path);
      const begin = await this.mover.run({ kind: 'beginnings', paths }, work.signal);
      for (const [i, one] of some.entries()) {
        if (begin[i] === null) continue;
        const key = `${isCandidate(one) ? one.seen.size : one.row.size} ${begin[i]!}`;
        const group = groups.get(key) ?? [];
        groups.set(key, group);
        group.push(one);
      }
      work.on();
    }
    return [...groups.values()].filter((group) => group.length > 1 && group.some(isCandidate));
  }

  /** Whoever begins alike and ends within the beginning is the same. */
  private async twinOf(thing: Candidate, others: readonly Found[], work: Work): Promise<Found | undefined> {
    if (others.length === 0 || thing.seen.size < BEGINNING) return others[0];
    const paths = others.slice(0, MOST_COMPARED).map((one) => one.path);
    const same = await this.mover.run({ kind: 'same-content', path: thing.path, others: paths }, work.signal);
    work.on();
    return same < 0 ? undefined : others[same];
  }

  /** Where each came from: an address that a program noted, or the folder that it was moved from. */
  private async origins(
    things: readonly Candidate[],
    swept: readonly Swept[],
    work: Work,
  ): Promise<Map<Candidate, string>> {
    const out = new Map<Candidate, string>();
    for (const [folder, { path }] of swept.entries()) {
      const own = things.filter((t) => t.folder === folder);
      const names = own.flatMap((t) => (t.row.type === 'file' ? t.row.name : []));
      const noted = new Map(await this.mover.run({ kind: 'origins', path, names }, work.signal));
      for (const thing of own) {
        const address = noted.get(thing.row.name);
        const [before] = thing.row.cameFrom;
        if (address !== undefined) out.set(thing, hostOf(address));
        else if (before !== undefined) out.set(thing, shown(nameOf(before.slice(0, before.lastIndexOf('/')))));
      }
    }
    return out;
  }

  /** Each folder once, with the names of these things that are taken in it. */
  private async folderViews(keys: readonly FolderKey[], things: readonly Candidate[]): Promise<SweepFolder[]> {
    const views = await this.belongs.views(
      [...new Set(keys)].map((folder) => ({ folder, probability: 0, reason: { by: 'lately' } })),
    );
    const names = [...new Set(things.flatMap((t) => (t.stays ? [] : t.row.name)))];
    const taken = new Map<FolderKey, string[]>();
    for (const [placeId, own] of grouped(views, (v) => v.placeId))
      for (const [originalId, list] of await this.rows.taken(
        placeId,
        own.map((v) => v.originalId),
        names,
      ))
        taken.set(keyOf({ placeId, originalId }), list);
    return views.map(({ placeId, originalId, name, trail }) => ({
      placeId,
      originalId,
      name: shown(name),
      trail: trail.map(shown),
      taken: taken.get(keyOf({ placeId, originalId })) ?? [],
    }));
  }
}

export const namesOf = (swept: readonly { name: string }[]): string =>
  swept.length === 1 ? swept[0]!.name : `${swept[0]!.name} and ${swept.length - 1} more`;

function matcherOf(rule: SweepRule): Followed['matches'] {
  if (rule.when === 'duplicate') return (tested) => tested.isDuplicate;
  const test: QueryTest = compileQuery(treeOf(rule), { now: Date.now(), zone: SYSTEM_ZONE });
  return ({ record }) => test(record);
}

function treeOf({ query, name }: SweepRule) {
  const parsed = parseQuery(query);
  if (parsed.ok) return parsed.tree;
  const { at, message } = parsed.error;
  throw new Refusal('not-valid', `The condition of “${name}” cannot be read at character ${at + 1}: ${message}`);
}

function textsIn(rule: SweepRule): string[] {
  if (rule.when === 'duplicate') return [];
  const parsed = parseQuery(rule.query);
  return parsed.ok ? textsOf(parsed.tree) : [];
}

function suggestionOf(
  { folder, probability, reason }: Suggestion<FolderKey>,
  position: ReadonlyMap<FolderKey, number>,
): SweepSuggestion[] {
  const to = position.get(folder);
  return to === undefined ? [] : [{ to, probability, reason }];
}

function decided(
  thing: Candidate,
  rule: number | undefined,
  rules: readonly Followed[],
  [first]: readonly SweepSuggestion[],
  position: ReadonlyMap<FolderKey, number>,
): { to: SweepTo; why: SweepWhy } {
  if (thing.stays) return { to: 'stay', why: { by: 'stay', reason: thing.stays } };
  if (rule !== undefined) {
    const { to } = rules[rule]!;
    const at = to === 'bin' || to === 'leave' ? to : (position.get(to) ?? 'leave');
    return { to: at, why: { by: 'rule', rule } };
  }
  if (first && first.probability >= SURE_ENOUGH) {
    const { to, probability, reason } = first;
    return { to, why: { by: 'belongs', probability, reason } };
  }
  return { to: 'leave', why: { by: 'unknown' } };
}

function hostOf(address: string): string {
  try {
    return new URL(address).host || address;
  } catch {
    return address;
  }
}

/** Whether a list of refs names this original. */
export const isAmong = (refs: readonly OriginalRef[], placeId: PlaceId, originalId: OriginalId): boolean =>
  refs.some((ref) => ref.placeId === placeId && ref.originalId === originalId);
