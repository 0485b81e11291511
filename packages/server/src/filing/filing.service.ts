/**
 * Filing originals into real folders: moved or copied, said before, undone exactly. The intent is written first, then
 * the disk is changed, then the act is marked done with its journal line; on start what was left half-way is finished
 * or taken back, so that rows and disk agree.
 */
import { randomUUID } from 'node:crypto';
import type { Readable } from 'node:stream';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import pLimit, { type LimitFunction } from 'p-limit';
import { namesFor, type ClashChoice, type FiledName } from '@rellin/core/filing';
import { isWithin, nameOf, parentOf, shown } from '@rellin/core/paths';
import type { FilingRequest, FilingTarget, FilingView, OriginalRef, ShortcutId } from '@rellin/contract';
import { ActivityService } from '../activity/activity.service.js';
import { DiskService } from '../disk/disk.service.js';
import { absolute } from '../disk/paths.js';
import { EventsService } from '../events/events.service.js';
import { faultPoint } from '../faults/faultPoint.js';
import { IdentityService } from '../identity/identity.service.js';
import { IndexerService } from '../indexing/indexer.service.js';
import { JournalService, type WithinAct, type AfterAct, type ChangeContext } from '../journal/journal.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import type { AfterDisk, PlaceEvent } from '../places/placeNews.js';
import { PlaceMonitor } from '../places/placeMonitor.service.js';
import { PlaceRegistry, type LivePlace } from '../places/placeRegistry.js';
import { Refusal, type RefusalKind } from '../problems/refusal.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import type { FiledItem, SeenFile } from './diskMoves.js';
import { FilingRepository, type FilingRow } from './filing.repository.js';
import { MoverService } from './mover.service.js';
import { TagsAlongService } from './tagsAlong.service.js';
import type { ActTx } from '../journal/actTx.js';
import type { RowChange } from '../journal/rowChange.js';

/** An original as it stands on the disk. */
export interface Standing {
  path: string;
  seen: SeenFile;
}

/** What comes into a folder. */
export interface Source {
  path: string;
  name: string;
  isFolder: boolean;
  /** What stood there when it was chosen; null for bytes from outside. */
  seen: SeenFile | null;
}

export interface Folder {
  path: string;
  name: string;
  dev: number;
  made: string | null;
}

/** How an act of filing is told. */
export interface Told {
  act: string;
  /** Of what was left out so many are not in it. */
  summary: string | ((left: number) => string);
  /** While it goes on. */
  title: string;
  by?: 'person' | 'automatic';
  /** What cannot go when its turn comes stays, and the others go; otherwise one that cannot stops them all. */
  leavesOut?: boolean;
  /** What else changes in the same act. */
  within?(tx: ActTx, items: readonly FiledItem[]): Promise<void>;
}

/** A thing that stayed when its turn came. */
export interface LeftOut {
  path: string;
  why: string;
}

/** What holds for one thing alone: the next may go all the same. */
const OF_ONE: ReadonlySet<RefusalKind> = new Set(['not-found', 'changed-since', 'no-access', 'not-valid', 'forbidden']);

/**
 * How far a filing has come is written this often: after a crash what is not known to be filed is looked at all the
 * same.
 */
const KEEP_MS = 200;
/** After so long what could not be put back is tried again. */
const RETRY_MS = 5000;
/** So many names that are taken are told at once. */
const MOST_CLASHES = 200;
/** Of a file's name, in bytes (limits.h, NAME_MAX). */
const LONGEST_NAME = 255;

@Injectable()
export class FilingService implements OnApplicationShutdown, WithinAct, AfterAct, AfterDisk {
  private readonly log = new Logger('filing');
  /** Filings somebody works on just now. */
  private readonly working = new Set<string>();
  /** One filing at a time into a folder: names are chosen and taken together. */
  private readonly turns = new Map<string, LimitFunction>();
  private retry: NodeJS.Timeout | undefined;

  constructor(
    private readonly rows: FilingRepository,
    private readonly journal: JournalService,
    private readonly originals: OriginalsService,
    private readonly shortcuts: ShortcutsService,
    private readonly places: PlaceRegistry,
    private readonly monitor: PlaceMonitor,
    private readonly indexer: IndexerService,
    private readonly activity: ActivityService,
    private readonly disk: DiskService,
    private readonly mover: MoverService,
    private readonly identity: IdentityService,
    private readonly events: EventsService,
    private readonly tagsAlong: TagsAlongService,
  ) {}

  /** An undo carries the files back, and a redo there again, before its transaction ends. */
  async withinAct(changes: RowChange[], _tx: ActTx, { direction }: ChangeContext): Promise<void> {
    if (direction === 'do') return;
    for (const { table, id, after } of changes)
      if (table === 'filing' && after?.state) await this.bring(id, after.state);
  }

  /** What a place's going away left half-way is put right when it is here again. */
  async afterDisk(event: PlaceEvent): Promise<void> {
    if (event.kind === 'state' && event.state === 'here') await this.start();
  }

  afterAct(changes: RowChange[], { direction }: ChangeContext): void {
    if (direction === 'do') return;
    for (const { table, id } of changes) if (table === 'filing') void this.follow(id);
  }

  /** What could not be put right just now is tried again: somebody may have held a folder, or swapped it. */
  private retrySoon(): void {
    this.retry ??= setTimeout(() => {
      this.retry = undefined;
      void this.start().catch((error: Error) => this.log.warn(error.message));
    }, RETRY_MS).unref();
  }

  onApplicationShutdown(): void {
    clearTimeout(this.retry);
    this.retry = undefined;
  }

  /** After a crash, or where a place went away half-way: each filing is brought to what its row says. */
  async start(): Promise<void> {
    for (const row of await this.rows.busy()) {
      if (this.working.has(row.id) || this.awayOf(row.items) !== undefined) continue;
      this.working.add(row.id);
      try {
        await this.bring(row.id, row.state);
        await this.settled(row.id);
        if (row.state === 'intent') await this.forget(row.id);
      } catch (error) {
        this.log.warn(`filing ${row.id} could not be finished: ${(error as Error).message}`);
        this.retrySoon();
      } finally {
        this.working.delete(row.id);
      }
    }
  }

  async file(request: FilingRequest): Promise<FilingView> {
    const folder = await this.targetOf(request.into);
    const sources = await this.sourcesOf(request, folder);
    return this.inTurn(folder.path, async () => {
      const names = namesFor(sources, await this.namesIn(folder), request.clash);
      if (names.kind === 'clashes')
        return this.clashes(
          names.indexes.map((i) => sources[i]!),
          folder,
        );
      const id = randomUUID();
      const items = names.filed.map((filed) => this.item(id, sources[filed.index]!, filed, folder, request.how));
      const done = { filed: items.length, skipped: names.skipped.length, into: folder.name };
      if (items.length === 0) return { state: 'done', ...done, notes: [] };
      const what = items.length === 1 ? `“${shown(nameOf(items[0]!.to))}”` : `${items.length} things`;
      const verb = request.how === 'move' ? 'Moved' : 'Copied';
      for (const item of items)
        if (item.way === 'copy' || item.way === 'carry')
          item.digest = await this.mover.run({ kind: 'digest', path: item.from! });
      const told: Told = {
        act: `file-${request.how}`,
        summary: `${verb} ${what} into “${folder.name}”`,
        title: `${request.how === 'move' ? 'Moving' : 'Copying'} into ${folder.name}`,
      };
      await this.perform(id, items, told, folder.made);
      return { state: 'done', ...done, notes: notesOn(items) };
    });
  }

  /** A folder, empty: an act as all others, undone by taking it away where it is still empty. Its absolute path. */
  async makeFolder(into: FilingTarget): Promise<string> {
    if (!into.newFolder?.trim()) throw new Refusal('not-valid', 'A folder needs a name.');
    const { name: above } = await this.targetOf({ ...into, newFolder: undefined });
    const folder = await this.targetOf(into);
    return this.inTurn(folder.path, async () => {
      const { made } = await this.targetOf(into);
      if (!made) throw new Refusal('conflict', `There is a folder “${folder.name}” in “${above}” already.`);
      const summary = `Made the folder “${folder.name}” in “${above}”`;
      await this.perform(randomUUID(), [], { act: 'make-folder', summary, title: `Making ${folder.name}` }, made);
      return made;
    });
  }

  /** Bytes from outside the page, as a new file of this name. */
  async upload(into: FilingTarget, name: string, bytes: Readable, clash: ClashChoice | undefined): Promise<FilingView> {
    refuseNoName(name, 'file');
    const folder = await this.targetOf(into);
    const incoming = [{ name, isFolder: false }];
    const choose = async () => namesFor(incoming, await this.namesIn(folder), clash);
    const asked = await choose();
    if (asked.kind === 'clashes') {
      bytes.resume();
      return this.clashes([{ ...incoming[0]!, path: '', seen: null }], folder);
    }
    if (asked.filed.length === 0) {
      bytes.resume();
      return { state: 'done', filed: 0, skipped: 1, into: folder.name, notes: [] };
    }
    const id = randomUUID();
    const item = this.item(id, undefined, asked.filed[0]!, folder, 'copy');
    // meant before the first byte is written: whatever an end leaves behind is known by it
    await this.mean(id, [item], folder.made);
    this.working.add(id);
    try {
      if (folder.made) await this.mover.run({ kind: 'make-folder', path: folder.made });
      await this.receive(item, bytes);
      faultPoint('upload received');
      return await this.inTurn(folder.path, async () => {
        // while the bytes came the name may have been taken
        const names = await choose();
        const [filed] = names.kind === 'names' ? names.filed : [];
        if (!filed) {
          await this.putBack(id, [item], null);
          if (names.kind === 'clashes') return this.clashes([{ ...incoming[0]!, path: '', seen: null }], folder);
          return { state: 'done', filed: 0, skipped: 1, into: folder.name, notes: [] };
        }
        const { to, stash } = this.item(id, undefined, filed, folder, 'copy');
        Object.assign(item, { to, stash, digest: await this.mover.run({ kind: 'digest', path: item.part }) });
        await this.rows.saveItems(id, [item]);
        const summary = `Copied “${shown(nameOf(to))}” into “${folder.name}”`;
        await this.carryOut(id, [item], folder.made, {
          act: 'file-upload',
          summary,
          title: `Copying into ${folder.name}`,
        });
        return { state: 'done', filed: 1, skipped: 0, into: folder.name, notes: [] };
      });
    } catch (error) {
      await this.putBack(id, [item], folder.made);
      throw error;
    } finally {
      this.working.delete(id);
    }
  }

  /** Writes what comes into the part; an end that comes too early leaves nothing. */
  private async receive(item: FiledItem, bytes: Readable): Promise<void> {
    const file = await this.mover.run({ kind: 'begin-part', path: item.part });
    let isOpen = true;
    try {
      for await (const chunk of bytes as AsyncIterable<Buffer>)
        // a copy of its own: what is handed over is gone from here
        await this.mover.run({ kind: 'write', file, bytes: Uint8Array.from(chunk) });
      isOpen = false;
      await this.mover.run({ kind: 'end-part', path: item.part, file });
    } finally {
      if (isOpen) await this.mover.run({ kind: 'end-part', path: '', file });
    }
  }

  /** While no other filing chooses names in the folder. */
  async inTurn<T>(folder: string, work: () => Promise<T>): Promise<T> {
    const turn = this.turns.get(folder) ?? pLimit(1);
    this.turns.set(folder, turn);
    try {
      return await turn(work);
    } finally {
      if (turn.activeCount + turn.pendingCount === 0) this.turns.delete(folder);
    }
  }

  /** The same of several folders at once; always in one order, so that no two wait for each other. */
  inTurns<T>(folders: Iterable<string>, work: () => Promise<T>): Promise<T> {
    const [first, ...rest] = [...new Set(folders)].sort();
    return first === undefined ? work() : this.inTurn(first, () => this.inTurns(rest, work));
  }

  /** Originals as they stand now, in their order. */
  async standing(refs: readonly OriginalRef[]): Promise<Standing[]> {
    const found = await this.originals.wherever(refs);
    const seen = await this.mover.run({ kind: 'probe', paths: found.map((f) => f.path) });
    return found.map(({ row, path }, i) => {
      if (row.name === '') throw new Refusal('not-valid', 'A whole place is not changed here. Choose what lies in it.');
      const now = seen[i];
      if (!now) throw new Refusal('not-found', `${shown(row.name)} is not there any more; nothing was changed.`);
      return { path, seen: now };
    });
  }

  /** Items as one act: the intent first, then the disk, then the journal's line. Where it fails, all is put back. */
  async perform(id: string, items: FiledItem[], told: Told, made: string | null = null): Promise<LeftOut[]> {
    this.refuseOwn(items);
    await this.tagsAlong.note(items);
    await this.mean(id, items, made);
    return this.carryOut(id, items, made, told);
  }

  /** Rellin's own data stay where they are, whatever is done with a folder above them. */
  private refuseOwn(items: readonly FiledItem[]): void {
    const { own } = this.disk.bounds();
    for (const { from, way } of items)
      if (from !== null && way !== 'copy' && own.some((folder) => isWithin(from, folder)))
        throw new Refusal('conflict', `Rellin’s own data lie in “${shown(nameOf(from))}”; it stays where it is.`);
  }

  async targetOf(into: FilingTarget): Promise<Folder> {
    const ref = into.shortcutId === undefined ? into : await this.originalOf(into.shortcutId);
    if (ref.placeId === undefined || ref.originalId === undefined)
      throw new Refusal('not-valid', 'There is no folder named to move or copy to.');
    const { row, path } = await this.originals.whereabouts(ref.placeId, ref.originalId);
    if (row.type !== 'folder' && row.type !== 'link')
      throw new Refusal('not-a-folder', `${shown(row.name)} is not a folder. Things are moved or copied into folders.`);
    const real = await this.disk.real(ref.placeId, path);
    const [seen] = await this.mover.run({ kind: 'probe', paths: [real] });
    if (!seen?.isFolder) throw new Refusal('not-a-folder', `${shown(row.name)} is not a folder.`);
    const name = row.name || this.places.need(ref.placeId).entity.name;
    const fresh = into.newFolder?.trim();
    if (!fresh) return { path: real, name: shown(name), dev: seen.dev, made: null };
    refuseNoName(fresh, 'folder');
    const made = absolute(real, fresh);
    const [there] = await this.mover.run({ kind: 'probe', paths: [made] });
    if (there && !there.isFolder) throw new Refusal('conflict', `There is a file “${fresh}” in it already.`);
    return { path: made, name: fresh, dev: seen.dev, made: there ? null : made };
  }

  private async originalOf(shortcutId: ShortcutId): Promise<OriginalRef> {
    const s = await this.shortcuts.need(shortcutId);
    if (s.placeId === null || s.originalId === null)
      throw new Refusal('not-a-folder', `“${s.name}” points to no file or folder.`);
    if (s.state === 'lost' || s.state === 'unsure')
      throw new Refusal('original-lost', `“${s.name}” cannot be used now. ${s.stateReason}`);
    return { placeId: s.placeId, originalId: s.originalId };
  }

  private async sourcesOf(request: FilingRequest, folder: Folder): Promise<Source[]> {
    const refs = [...(request.originals ?? [])];
    for (const id of request.shortcutIds ?? []) refs.push(await this.originalOf(id));
    if (refs.length === 0) throw new Refusal('not-valid', 'There is nothing named to move or copy.');
    const each = new Map((await this.standing(refs)).map((one) => [one.path, one]));
    return [...each.values()].map(({ path, seen }) => {
      const name = nameOf(path);
      if (seen.isFolder && isWithin(path, folder.path))
        throw new Refusal('conflict', `“${shown(name)}” cannot go into itself.`);
      if (parentOf(path) === folder.path && request.how === 'move')
        throw new Refusal('conflict', `“${shown(name)}” lies in “${folder.name}” already.`);
      return { path, name, isFolder: seen.isFolder, seen };
    });
  }

  private async namesIn(folder: Folder): Promise<Set<string>> {
    if (folder.made) return new Set();
    return new Set(await this.mover.run({ kind: 'names', path: folder.path }));
  }

  private clashes(sources: readonly Source[], { path, name }: Folder): Promise<FilingView> {
    return this.clashesAt(
      sources.map((source) => ({ source, at: absolute(path, source.name) })),
      name,
    );
  }

  /** What these would have to replace, told by a name for all their folders together. */
  async clashesAt(clashes: readonly { source: Source; at: string }[], into: string): Promise<FilingView> {
    const some = clashes.slice(0, MOST_CLASHES);
    const there = await this.mover.run({ kind: 'probe', paths: some.map((c) => c.at) });
    const facts = (s: SeenFile | null | undefined) =>
      s ? { size: s.isFolder ? null : s.size, modified: s.modified } : null;
    return {
      state: 'clashes',
      into,
      clashes: some.map(({ source: { name, seen } }, i) => ({ name, there: facts(there[i]), coming: facts(seen) })),
      total: clashes.length,
    };
  }

  item(id: string, source: Source | undefined, filed: FiledName, folder: Folder, how: 'move' | 'copy'): FiledItem {
    const short = id.slice(0, 8);
    return {
      from: source?.path ?? null,
      to: absolute(folder.path, filed.name),
      stash: filed.replaces ? absolute(folder.path, `.rellin-replaced-${short}/${filed.name}`) : null,
      way: !source ? 'upload' : how === 'copy' ? 'copy' : source.seen!.dev === folder.dev ? 'rename' : 'carry',
      ...(source?.seen && { source: { dev: source.seen.dev, inode: source.seen.inode } }),
      part: absolute(folder.path, `.rellin-part-${short}-${filed.index}`),
    };
  }

  /** The intent, before anything is done on the disk. */
  private async mean(id: string, items: FiledItem[], made: string | null): Promise<void> {
    await this.rows.mean({ id, madeFolder: made, items });
    faultPoint('filing meant');
  }

  /** Act, done. Where it fails, everything is put back and the reason told. */
  private async carryOut(id: string, items: FiledItem[], made: string | null, told: Told): Promise<LeftOut[]> {
    const { title } = told;
    const left: LeftOut[] = [];
    this.working.add(id);
    const stop = new AbortController();
    const activityId = `filing-${id}`;
    this.activity.begin(activityId, title, items.length, () => stop.abort());
    let done = 0;
    let kept = Date.now();
    let isSaved = true;
    try {
      if (made) await this.mover.run({ kind: 'make-folder', path: made });
      for (const [i, before] of items.entries()) {
        const way = before.way;
        const item = (items[i] = await this.forward(before, told, left, stop.signal));
        faultPoint('one filed');
        this.activity.progress(activityId, ++done);
        // how it went is needed to take it back
        if (item.way !== way || item.isLeftOut) isSaved = false;
        if (!isSaved && item.way !== way) isSaved = await this.saveItems(id, items);
        if (done < items.length && Date.now() - kept < KEEP_MS) continue;
        kept = Date.now();
        // of what was left out nothing counts as filed
        if (!isSaved) isSaved = await this.saveItems(id, items);
        await this.rows.saveProgress(id, done);
      }
      for (const item of items) {
        await this.mover.run({ kind: 'release', item });
        faultPoint('one released');
      }
      // nothing went, and nothing is told
      if (items.length > 0 && left.length === items.length) await this.putBack(id, items, made);
      else await this.tell(id, told, items, left.length);
    } catch (error) {
      const gone = await this.goneMeanwhile(items);
      if (gone !== undefined) throw wentAway(gone, items, done);
      await this.putBack(id, items, made);
      if (stop.signal.aborted)
        throw new Refusal('stopped', `Stopped; the ${done} done so far were put back where they were.`);
      throw error;
    } finally {
      this.activity.end(activityId);
      this.working.delete(id);
    }
    await this.follow(id);
    return left;
  }

  /** The item as it went; one that could not go is put back and left out, where the others go on. */
  private async forward(item: FiledItem, told: Told, left: LeftOut[], signal: AbortSignal): Promise<FiledItem> {
    try {
      return await this.mover.run({ kind: 'forward', item }, signal);
    } catch (error) {
      if (!told.leavesOut || !(error instanceof Refusal) || !OF_ONE.has(error.kind)) throw error;
      await this.mover.run({ kind: 'backward', item });
      left.push({ path: item.from!, why: error.detail });
      return { ...item, isLeftOut: true };
    }
  }

  private async saveItems(id: string, items: readonly FiledItem[]): Promise<true> {
    await this.rows.saveItems(id, items);
    return true;
  }

  /** The journal's line. What fails once it stands there, in those who hear of it, undoes nothing. */
  private async tell(id: string, told: Told, items: readonly FiledItem[], left: number): Promise<void> {
    const summary = typeof told.summary === 'string' ? told.summary : told.summary(left);
    try {
      await this.journal.act({ act: told.act, summary, by: told.by }, async (tx) => {
        await tx.update('filing', id, { state: 'done' });
        await told.within?.(tx, items);
      });
    } catch (error) {
      if (!(await this.isTold(id))) throw error;
      this.log.warn(`after filing ${id}: ${(error as Error).message}`);
    }
  }

  /** Whether the journal has it; where that cannot be read just now, start() brings the disk to what it says. */
  private async isTold(id: string): Promise<boolean> {
    const row = await this.rows.one(id).catch(() => undefined);
    return row?.state === 'done';
  }

  private placesOf(items: readonly FiledItem[]): LivePlace[] {
    const paths = items.flatMap((i) => [i.to, ...(i.from === null ? [] : [i.from])]);
    return [...new Set(paths.flatMap((p) => this.places.placeOf(p) ?? []))];
  }

  /** The name of a place that these need and that is away. */
  private awayOf(items: readonly FiledItem[]): string | undefined {
    return this.placesOf(items).find((p) => p.state === 'away')?.entity.name;
  }

  /** The same after a look at the disk. */
  private async goneMeanwhile(items: readonly FiledItem[]): Promise<string | undefined> {
    for (const place of this.placesOf(items)) await this.monitor.check(place.entity.id);
    return this.awayOf(items);
  }

  /** Where it cannot be put back just now its intent stays, and it is tried again. */
  private async putBack(id: string, items: FiledItem[], made: string | null): Promise<void> {
    await this.takeBack(id, items, made).catch((error: Error) => {
      this.log.warn(`filing ${id} could not be put back: ${error.message}`);
      this.retrySoon();
    });
  }

  private async takeBack(id: string, items: FiledItem[], made: string | null): Promise<void> {
    if (await this.isTold(id)) return;
    for (const item of [...items].reverse()) await this.mover.run({ kind: 'backward', item });
    if (made) await this.mover.run({ kind: 'remove-empty', path: made });
    await this.forget(id);
    await this.rescan(items, made);
  }

  /** Brings the disk to what a state means. What was done on the way is undone where it fails. */
  private async bring(id: string, state: FilingRow['state']): Promise<void> {
    await this.rows.markBusy(id);
    const row = await this.rows.one(id);
    if (!row) return;
    const order = state === 'done' ? row.items : [...row.items].reverse();
    const [step, undo] = state === 'done' ? (['forward', 'backward'] as const) : (['backward', 'forward'] as const);
    if (state === 'done' && row.madeFolder) await this.mover.run({ kind: 'make-folder', path: row.madeFolder });
    const passed: FiledItem[] = [];
    try {
      for (const item of order) {
        passed.push((await this.mover.run({ kind: step, item })) ?? item);
        faultPoint('one brought');
      }
      if (state === 'done') for (const item of passed) await this.mover.run({ kind: 'release', item });
    } catch (error) {
      for (const item of passed.reverse()) await this.mover.run({ kind: undo, item });
      await this.rows.markSettled(id);
      throw error;
    }
    if (state === 'intent' && row.madeFolder) await this.mover.run({ kind: 'remove-empty', path: row.madeFolder });
  }

  /** What was done stays done, whatever hinders those that go along; they are tried again. */
  private async follow(id: string): Promise<void> {
    await this.settled(id).catch((error: Error) => {
      this.log.warn(`after filing ${id}: ${error.message}`);
      this.retrySoon();
    });
  }

  /** The disk is as the row says; the index and the shortcuts go along. */
  private async settled(id: string): Promise<void> {
    await this.rows.markSettled(id);
    const row = await this.rows.one(id);
    if (!row) return;
    await this.rescan(row.items, row.madeFolder);
    if (await this.tagsAlong.follow(row.items, row.state)) {
      await this.rows.saveItems(id, row.items);
      this.events.changed('tags', 'originals', 'searches');
    }
    await this.identity.examineMoved(
      row.items.flatMap((i) => (!i.isLeftOut && (i.way === 'rename' || i.way === 'carry') ? [i.from!, i.to] : [])),
    );
  }

  /**
   * An intent that came to nothing leaves no trace; one that was done and undone is kept, so that it can be done again.
   */
  private async forget(id: string): Promise<void> {
    await this.rows.removeIntent(id);
    await this.rows.markSettled(id);
  }

  /**
   * What filings replaced waits hidden beside what replaced it for `days`; then it goes for good, and its filing can no
   * longer be taken back. A folder that is away just now is left for another day. Returns how many were cleared.
   */
  async clearReplaced(days: number): Promise<number> {
    const rows = await this.rows.ended(days);
    let cleared = 0;
    for (const { id, items } of rows) {
      const stashes = items.flatMap((i) => (i.stash === null ? [] : [i.stash]));
      // what somebody put beside them is theirs, and stays
      if (!(await this.clearStashes(stashes))) continue;
      await this.rows.remove(id);
      cleared++;
    }
    return cleared;
  }

  /** Whether all of them are gone; where their folder cannot be reached just now they are left. */
  private async clearStashes(stashes: readonly string[]): Promise<boolean> {
    const folders = [...new Set(stashes.map(parentOf))];
    try {
      const here = await this.mover.run({ kind: 'probe', paths: folders.map(parentOf) });
      if (here.includes(null)) return false;
      for (const path of stashes) await this.mover.run({ kind: 'remove', path });
      for (const path of folders) await this.mover.run({ kind: 'remove-empty', path });
      return true;
    } catch (error) {
      this.log.warn(`what was replaced cannot be cleared: ${(error as Error).message}`);
      return false;
    }
  }

  private async rescan(items: readonly FiledItem[], made: string | null): Promise<void> {
    const places = new Set(this.placesOf(items));
    const ofMade = made === null ? undefined : this.places.placeOf(made);
    if (ofMade) places.add(ofMade);
    for (const place of places) await this.indexer.settle(place.entity.id).catch(() => undefined);
  }
}

function wentAway(place: string, items: readonly FiledItem[], done: number): Refusal {
  const moved = items.slice(0, done).some((i) => i.way === 'rename');
  return new Refusal(
    'original-away',
    moved
      ? `${place} went away half-way. The ${done} moved so far lie on it, and go back where they were as soon as it is here again.`
      : `${place} went away half-way. Everything is still where it was; copies begun on it are cleared as soon as it is here again.`,
    { remedy: `Connect ${place}, then do it again.` },
  );
}

/** What was not kept of things that went to another file system, to be said. */
export function notesOn(items: readonly FiledItem[]): string[] {
  const notes: string[] = [];
  for (const [lost, what] of [
    ['owner', 'owner'],
    ['attributes', 'extended attributes or access lists'],
  ] as const) {
    const n = items.filter((i) => i.lost?.includes(lost)).length;
    if (n > 0)
      notes.push(`The file system there did not take the ${what} of ${n === 1 ? 'one thing' : `${n} things`}.`);
  }
  return notes;
}

export function refuseNoName(name: string, what: 'file' | 'folder'): void {
  if (name === '' || name === '.' || name === '..' || /[/\0]/.test(name))
    throw new Refusal('not-valid', `A ${what} needs a name without “/”.`);
  if (Buffer.byteLength(name) > LONGEST_NAME)
    throw new Refusal(
      'not-valid',
      `A name has ${LONGEST_NAME} bytes at most; this one has ${Buffer.byteLength(name)}.`,
    );
}
