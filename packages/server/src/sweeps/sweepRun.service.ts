/** Sweeps as they are done: one act, one undo; what cannot go is left and said. And the log of them. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { namesFor } from '@rellin/core/filing';
import { grouped } from '@rellin/core/lists';
import { isWithin, nameOf, segmentsOf, shown } from '@rellin/core/paths';
import { formatQuery } from '@rellin/core/query';
import { plainName } from '@rellin/core/sweep';
import type {
  OriginalRef,
  SearchId,
  SweepLeft,
  SweepMove,
  SweepRequest,
  SweepResult,
  SweepRunView,
  SweptTo,
} from '@rellin/contract';
import { BinsService } from '../filing/bins.service.js';
import { DeletedService, type IntoBin } from '../filing/deleted.service.js';
import type { FiledItem } from '../filing/diskMoves.js';
import { FilingService, notesOn, type Folder, type Source } from '../filing/filing.service.js';
import { MoverService } from '../filing/mover.service.js';
import { EventsService } from '../events/events.service.js';
import type { ActTx } from '../journal/actTx.js';
import type { ChangeContext, WithinAct } from '../journal/journal.service.js';
import type { RowChange } from '../journal/rowChange.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PinsService } from '../pins/pins.service.js';
import { Refusal } from '../problems/refusal.js';
import { SearchesService } from '../searches/searches.service.js';
import { TagsService } from '../tags/tags.service.js';
import { isAmong, namesOf } from './sweepPlan.service.js';
import { SweepsRepository, type LeftLink } from './sweeps.repository.js';
import { SweptFolders, type Candidate, type Swept } from './sweptFolders.service.js';

/** Why a thing stays that was to go, in words. */
const STAYS: Readonly<Record<string, string>> = {
  'kept-by-rellin': 'Rellin keeps it there',
  destination: 'a destination lies in it',
  'not-a-file': 'it is no file and no folder',
  download: 'it is not fetched completely yet',
  open: 'a program has it open',
};

/** Things that go to one folder. */
interface Going {
  folder: Folder;
  things: Candidate[];
}

@Injectable()
export class SweepRunService implements WithinAct {
  constructor(
    private readonly swept: SweptFolders,
    private readonly rows: SweepsRepository,
    private readonly originals: OriginalsService,
    private readonly filing: FilingService,
    private readonly bins: BinsService,
    private readonly deleted: DeletedService,
    private readonly mover: MoverService,
    private readonly tags: TagsService,
    private readonly searches: SearchesService,
    private readonly pins: PinsService,
    private readonly events: EventsService,
  ) {}

  /** What an undo took back stands in the log as undone. */
  async withinAct(changes: RowChange[], tx: ActTx, { act, direction }: ChangeContext): Promise<void> {
    if (act !== 'sweep' || direction === 'do') return;
    const ids = changes.flatMap(({ table, id }) => (table === 'filing' ? id : []));
    await this.rows.markUndone(tx, ids, direction === 'undo');
  }

  logged(): Promise<SweepRunView[]> {
    return this.rows.log();
  }

  async run(request: SweepRequest, by: 'person' | 'automatic' = 'person'): Promise<SweepResult> {
    const swept = await this.swept.folders(request.folders);
    const left: SweepLeft[] = [];
    const targets = await this.targets(request.moves);
    const candidates = await this.swept.candidates(
      swept,
      targets.flatMap((t) => t?.path ?? []),
      0,
    );
    const byRef = new Map(candidates.map((c) => [`${c.row.placeId}/${c.row.id}`, c]));
    const missing = await this.missing(request, byRef);
    const chosen = request.moves.map(({ things }) =>
      things.flatMap(({ placeId, ids }) =>
        ids.flatMap((id): Candidate[] => {
          const thing = byRef.get(`${placeId}/${id}`);
          const why = thing ? whyNot(thing, request) : (missing.get(`${placeId}/${id}`) ?? 'it is not there any more');
          if (why !== undefined) left.push({ name: thing ? shown(thing.row.name) : 'One thing', why });
          return thing && why === undefined ? [thing] : [];
        }),
      ),
    );
    const going = targets.flatMap((folder, i): Going[] => (folder ? [{ folder, things: chosen[i]! }] : []));
    const binned = await this.intoBins(
      targets.flatMap((folder, i) => (folder ? [] : chosen[i]!)),
      left,
    );
    const busy = [...going.map((g) => g.folder.path), ...binned.map((b) => b.bin.folder)];
    return this.filing.inTurns(busy, () => this.perform(request, by, swept, going, binned, left));
  }

  /** The folder of each move; undefined for the bin. */
  private async targets(moves: readonly SweepMove[]): Promise<(Folder | undefined)[]> {
    const out: (Folder | undefined)[] = [];
    for (const { to, placeId, originalId } of moves)
      out.push(to === 'bin' ? undefined : await this.filing.targetOf({ placeId, originalId }));
    return out;
  }

  /** What was to go and lies in none of the folders: moved away meanwhile, or never theirs. */
  private async missing(request: SweepRequest, known: ReadonlyMap<string, Candidate>): Promise<Map<string, string>> {
    const refs = request.moves
      .flatMap((m) => m.things)
      .flatMap(({ placeId, ids }) => ids.map((originalId): OriginalRef => ({ placeId, originalId })))
      .filter(({ placeId, originalId }) => !known.has(`${placeId}/${originalId}`));
    const found = await this.originals.located(refs);
    for (const { row } of found.values())
      if (!isAmong(request.folders, row.placeId, row.parentId) && row.cameFrom.length === 0)
        throw new Refusal('not-valid', `“${shown(row.name)}” does not lie in a folder that is swept.`);
    return new Map([...found.keys()].map((key) => [key, 'it was moved meanwhile']));
  }

  private async intoBins(things: readonly Candidate[], left: SweepLeft[]): Promise<IntoBin[]> {
    const bins = await this.bins.forPaths(things.map((t) => t.path));
    return things.flatMap(({ path, seen, row }, i): IntoBin[] => {
      const bin = bins[i];
      const why = !bin ? 'its disk has no bin' : isWithin(path, bin.folder) ? 'the bin itself lies in it' : undefined;
      if (why !== undefined) left.push({ name: shown(row.name), why });
      return bin && why === undefined ? [{ path, seen, bin, isCarried: false }] : [];
    });
  }

  private async perform(
    request: SweepRequest,
    by: 'person' | 'automatic',
    swept: readonly Swept[],
    going: readonly Going[],
    binned: readonly IntoBin[],
    left: SweepLeft[],
  ): Promise<SweepResult> {
    const id = randomUUID();
    const items: FiledItem[] = [];
    const sizes = new Map<string, number>();
    for (const { folder, things } of going) {
      const names = new Set(await this.mover.run({ kind: 'names', path: folder.path }));
      const sources = things.map(({ path, row, seen }): Source => ({
        path,
        name: row.name,
        isFolder: seen.isFolder,
        seen,
      }));
      const { filed, skipped } = namesFor(sources, names, request.clash ?? 'keep-both');
      for (const i of skipped) left.push({ name: shown(sources[i]!.name), why: 'its name is taken there' });
      for (const name of filed) {
        const source = sources[name.index]!;
        const item = this.filing.item(id, source, { ...name, index: items.length }, folder, 'move');
        if (item.way === 'carry') {
          const digest = await this.mover.run({ kind: 'digest', path: source.path }).catch((error: Error) => error);
          if (typeof digest !== 'string') {
            left.push({ name: shown(source.name), why: digest.message });
            continue;
          }
          item.digest = digest;
        }
        if (request.linkDays > 0) item.leavesLink = true;
        items.push(item);
        sizes.set(source.path, source.isFolder ? 0 : source.seen!.size);
      }
    }
    const toBin = await this.deleted.intoBins(id, binned, items.length);
    for (const [i, item] of toBin.entries()) {
      const { path, seen } = binned[i]!;
      sizes.set(path, seen.isFolder ? 0 : seen.size);
      items.push(item);
    }
    const none = { runId: null, moved: 0, binned: 0, left, searchId: null, notes: [] };
    if (items.length === 0) return none;
    const total = items.length;
    const name = namesOf(swept);
    const searchId = request.search === 'none' ? null : randomUUID();
    const out = await this.filing.perform(id, items, {
      act: 'sweep',
      summary: (stayed) =>
        `Swept ${total - stayed === 1 ? 'one original' : `${total - stayed} originals`} out of “${name}”`,
      title: `Sweeping ${name}`,
      by,
      leavesOut: true,
      within: async (tx, done) => {
        const went = done.filter((item) => !item.isLeftOut);
        await this.rows.addRun(tx, {
          ...{ id, sweepId: request.sweepId ?? null, name, by, linkDays: request.linkDays },
          went: wentOf(went, sizes),
          left: left.length + done.length - went.length,
          links: went.flatMap((item): LeftLink[] => (item.leavesLink ? [{ at: item.from!, to: item.to }] : [])),
        });
        if (searchId !== null) await this.saveSearch(tx, searchId, went, request);
      },
    });
    for (const { path, why } of out) left.push({ name: shown(nameOf(path)), why });
    if (out.length === total) return none;
    const went = items.filter((item) => !item.isLeftOut);
    this.events.changed('sweeps');
    const bins = went.filter((item) => item.bin).length;
    return {
      runId: id,
      moved: went.length - bins,
      binned: bins,
      left,
      searchId,
      notes: notesOn(went),
    };
  }

  /** A search for what is swept now: by a tag, which each thing bears wherever it goes later. */
  private async saveSearch(
    tx: ActTx,
    id: SearchId,
    went: readonly FiledItem[],
    { moves, search }: SweepRequest,
  ): Promise<void> {
    const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' }).format(
      new Date(),
    );
    const name = `swept on ${day}`;
    const gone = new Set(went.flatMap((item) => (item.bin ? [] : item.from!)));
    const refs = moves
      .flatMap((m) => (m.to === 'folder' ? m.things : []))
      .flatMap(({ placeId, ids }) => ids.map((originalId): OriginalRef => ({ placeId, originalId })));
    const found = [...(await this.originals.located(refs)).values()].filter(({ path }) => gone.has(path));
    await this.tags.putNamed(
      tx,
      name,
      found.map(({ row }) => ({ placeId: row.placeId, originalId: row.id })),
    );
    await this.searches.insert(tx, id, { name, query: formatQuery({ type: 'tag', name }) });
    if (search === 'pinned') await this.pins.insert(tx, { target: 'search', id });
  }

  /** Links that were left for a time, and that time is over. */
  async clearLinks(): Promise<void> {
    for (const { id, links } of await this.rows.overdueLinks()) {
      const remaining: LeftLink[] = [];
      for (const link of links)
        await this.mover
          .run({ kind: 'remove-link', path: link.at, to: link.to })
          // its disk is away, or shut: it is tried again
          .catch(() => remaining.push(link));
      await this.rows.saveLinks(id, remaining);
    }
  }
}

/** Why a thing that was to go does not; undefined where it goes. */
function whyNot({ stays, seen }: Candidate, { at }: SweepRequest): string | undefined {
  const why = stays && STAYS[stays];
  if (why !== undefined) return why;
  return seen.changed > at ? 'it changed since it was shown' : undefined;
}

function nameAlone(folder: string): string {
  const parts = segmentsOf(folder).map(shown);
  return plainName(parts.at(-1) ?? '/', parts.slice(0, -1));
}

function wentOf(items: readonly FiledItem[], sizes: ReadonlyMap<string, number>): SweptTo[] {
  const folderOf = (item: FiledItem) => (item.bin ? '' : item.to.slice(0, item.to.lastIndexOf('/')));
  return [...grouped(items, folderOf)]
    .map(([folder, own]) => ({
      to: folder === '' ? 'the bin' : nameAlone(folder),
      count: own.length,
      size: own.reduce((sum, item) => sum + (sizes.get(item.from!) ?? 0), 0),
    }))
    .sort((a, b) => b.count - a.count || (a.to < b.to ? -1 : 1));
}
