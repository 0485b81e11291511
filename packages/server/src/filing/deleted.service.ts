/**
 * Deleted originals: into the bin of their disk (Trash specification 1.0) and back, as filings, with one undo; or for
 * good, which has none.
 */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { namesFor } from '@rellin/core/filing';
import { grouped, piecesOf } from '@rellin/core/lists';
import { isWithin, nameOf, parentOf, shown } from '@rellin/core/paths';
import { trashName, type TrashInfo } from '@rellin/core/trash';
import type {
  DeleteRequest,
  DeleteView,
  ExpungeRequest,
  ExpungeView,
  FilingView,
  RestoreRequest,
} from '@rellin/contract';
import { ActivityService } from '../activity/activity.service.js';
import { absolute } from '../disk/paths.js';
import { EventsService } from '../events/events.service.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { Refusal } from '../problems/refusal.js';
import type { Bin } from '../trash/bins.js';
import type { Expunged } from '../trash/infoFiles.js';
import { BinsService, DELETED_BY, type Binned } from './bins.service.js';
import type { FiledItem } from './diskMoves.js';
import { FilingService, notesOn, type Source, type Standing } from './filing.service.js';
import { MoverService } from './mover.service.js';

/** So many are deleted for good between two looks at what programs have open. */
const AT_ONCE = 200;
/** Of a thing whose info file was missing: there is none to remove, and its undo writes one without a path. */
const NOT_TOLD: TrashInfo = { path: '', deletedAt: null, by: null };
const WHY: Record<Exclude<Expunged, 'gone'>, string> = {
  'in-use': 'a program has it open',
  changed: 'something else lies there now',
};

/** A thing, and the bin that it goes into; carried where the bin lies on another volume. */
export interface IntoBin extends Standing {
  bin: Bin;
  isCarried: boolean;
}

/** Where a thing from the bin goes. */
interface Return {
  binned: Binned;
  source: Source;
  at: string;
  replaces: boolean;
  folder: Above;
}

/** What there is of a folder's path. */
interface Above {
  /** The device of the deepest that stands. */
  dev: number;
  /** Those that are missing, the outermost first. */
  missing: string[];
}

@Injectable()
export class DeletedService {
  constructor(
    private readonly bins: BinsService,
    private readonly filing: FilingService,
    private readonly mover: MoverService,
    private readonly places: PlaceRegistry,
    private readonly activity: ActivityService,
    private readonly events: EventsService,
  ) {}

  async delete({ originals, acrossVolumes = false }: DeleteRequest): Promise<DeleteView> {
    const things = topmost(await this.filing.standing(originals));
    const bins = await this.bins.forPaths(things.map((t) => t.path));
    const without = things.filter((_, i) => bins[i] === null);
    if (without.length > 0 && !acrossVolumes)
      return {
        state: 'no-bin',
        originals: without.length,
        name: this.places.placeOf(without[0]!.path)?.entity.name ?? shown(parentOf(without[0]!.path)),
      };
    const going = things.map(({ path, seen }, i): IntoBin => ({
      path,
      seen,
      bin: bins[i] ?? this.bins.home,
      isCarried: bins[i] === null,
    }));
    return this.filing.inTurns(
      going.map(({ bin }) => bin.folder),
      async () => {
        const id = randomUUID();
        const items = await this.intoBins(id, going);
        for (const item of items)
          if (item.way === 'carry') item.digest = await this.mover.run({ kind: 'digest', path: item.from! });
        const what = items.length === 1 ? `“${shown(nameOf(items[0]!.from!))}”` : `${items.length} originals`;
        const summary = `Deleted ${what} to the bin`;
        await this.filing.perform(id, items, { act: 'delete-original', summary, title: 'Deleting originals' });
        return { state: 'done', deleted: items.length, notes: notesOn(items) };
      },
    );
  }

  /** Each under a name that is free in its bin; asked while no other filing takes names there. */
  async intoBins(id: string, things: readonly IntoBin[], from = 0): Promise<FiledItem[]> {
    const taken = new Map<string, Set<string>>();
    const items: FiledItem[] = [];
    for (const [i, { path, seen, bin, isCarried }] of things.entries()) {
      if (isWithin(path, bin.folder))
        throw new Refusal('conflict', `The bin itself lies in “${shown(nameOf(path))}”; it stays where it is.`);
      const names = taken.get(bin.folder) ?? new Set(await this.mover.run({ kind: 'bin-names', bin }));
      taken.set(bin.folder, names);
      const name = trashName(nameOf(path), (n) => names.has(n));
      names.add(name);
      const fromTop = bin.top === null ? path : path.slice(bin.top === '/' ? 1 : bin.top.length + 1);
      items.push({
        from: path,
        to: absolute(bin.folder, `files/${name}`),
        stash: null,
        way: isCarried ? 'carry' : 'rename',
        source: { dev: seen.dev, inode: seen.inode },
        part: absolute(bin.folder, `files/.rellin-part-${id.slice(0, 8)}-${from + i}`),
        bin: { end: 'to', bin, name, info: { path: fromTop, deletedAt: null, by: DELETED_BY } },
      });
    }
    return items;
  }

  async restore({ ids, into, clash }: RestoreRequest): Promise<FilingView> {
    const found = await this.bins.all(ids);
    const folder = into && (await this.filing.targetOf(into));
    const unknown = found.find(({ entry }) => entry.path === null);
    if (!folder && unknown)
      throw new Refusal('not-valid', `It is not known where “${shown(unknown.entry.name)}” lay.`, {
        remedy: 'Restore it to a folder of your choice.',
      });
    const byFolder = grouped(found, ({ entry }) => folder?.path ?? parentOf(entry.path!));
    for (const path of byFolder.keys()) this.refuseOutside(path);
    const [first] = byFolder.keys();
    const name = folder?.name ?? (byFolder.size === 1 ? shown(nameOf(first!)) : 'where they were');
    return this.filing.inTurns(byFolder.keys(), async () => {
      const returns: Return[] = [];
      const clashes: { source: Source; at: string }[] = [];
      let skipped = 0;
      for (const [path, binned] of byFolder) {
        const above = folder?.made ? { dev: folder.dev, missing: [] } : await this.above(path);
        const isThere = above.missing.length === 0 && !folder?.made;
        const there = isThere ? await this.mover.run({ kind: 'names', path }) : [];
        const sources = binned.map(sourceOf);
        const names = namesFor(sources, new Set(there), clash);
        if (names.kind === 'clashes') {
          for (const i of names.indexes) clashes.push({ source: sources[i]!, at: absolute(path, sources[i]!.name) });
          continue;
        }
        skipped += names.skipped.length;
        for (const filed of names.filed) {
          const [one, source] = [binned[filed.index]!, sources[filed.index]!];
          const at = absolute(path, filed.name);
          returns.push({ binned: one, source, at, replaces: filed.replaces, folder: above });
        }
      }
      if (clashes.length > 0) return this.filing.clashesAt(clashes, name);
      const id = randomUUID();
      const items = itemsOf(id, returns);
      for (const item of items)
        if (item.way === 'carry')
          item.digest = await this.mover.run({ kind: 'digest', path: item.from!, bin: item.bin!.bin });
      if (items.length > 0) {
        const what = items.length === 1 ? `“${shown(nameOf(items[0]!.to))}”` : `${items.length} originals`;
        const summary = `Restored ${what} from the bin`;
        const told = { act: 'restore-original', summary, title: 'Restoring originals' };
        await this.filing.perform(id, items, told, folder?.made ?? null);
      }
      return { state: 'done', filed: items.length, skipped, into: name, notes: notesOn(items) };
    });
  }

  /** What is gone by now, or was put there since it was listed, is left. */
  async expunge({ ids }: ExpungeRequest): Promise<ExpungeView> {
    const found = await this.bins.those(ids);
    const out: ExpungeView = { deleted: 0, kept: [] };
    const stop = new AbortController();
    const activity = `expunge-${randomUUID()}`;
    this.activity.begin(activity, 'Deleting for good', found.length, () => stop.abort());
    let done = 0;
    try {
      for (const [folder, binned] of grouped(found, ({ bin }) => bin.folder))
        await this.filing.inTurn(folder, async () => {
          const { bin } = binned[0]!;
          for (const some of piecesOf(binned, AT_ONCE)) {
            if (stop.signal.aborted) return;
            const things = some.map(({ entry: { name, dev, inode } }) => ({ name, dev, inode }));
            const ends = await this.mover.run({ kind: 'expunge', bin, things }, stop.signal);
            ends.forEach((end, i) => {
              if (end === 'gone') out.deleted++;
              else out.kept.push({ name: shown(things[i]!.name), why: WHY[end] });
            });
            this.activity.progress(activity, (done += some.length));
          }
          await this.mover.run({ kind: 'clear-lone-infos', bin });
        });
    } catch (error) {
      if (!stop.signal.aborted) throw error;
    } finally {
      this.activity.end(activity);
      this.events.changed('deleted');
    }
    return out;
  }

  private refuseOutside(path: string): void {
    const place = this.places.placeOf(path);
    if (!place)
      throw new Refusal('outside-places', `${shown(path)} lies outside every place that Rellin may change.`, {
        remedy: 'Restore it to another folder, or add a folder above it as a place in Settings.',
      });
    if (place.state === 'away')
      throw new Refusal('original-away', `${place.entity.name} is away: ${place.awayReason}.`, {
        remedy: 'Connect it, or restore to another folder.',
      });
  }

  private async above(path: string): Promise<Above> {
    const missing: string[] = [];
    for (let at = path; ; at = parentOf(at)) {
      const [there] = await this.mover.run({ kind: 'probe', paths: [at] });
      if (there) return { dev: there.dev, missing };
      missing.unshift(at);
    }
  }
}

/** What lies in a folder that is deleted as well goes with it. */
function topmost(things: readonly Standing[]): Standing[] {
  const all = new Map(things.map((thing) => [thing.path, thing]));
  return [...all.values()].filter(({ path }) => !isBelow(path, all));
}

/** Whether a folder above it is among these. */
function isBelow(path: string, among: { has(path: string): boolean }): boolean {
  for (let at = parentOf(path); at !== '' && at !== '/'; at = parentOf(at)) if (among.has(at)) return true;
  return false;
}

function sourceOf({ bin, entry }: Binned): Source {
  const { dev, inode, size, modified } = entry;
  const isFolder = entry.type === 'folder';
  return {
    name: entry.path === null ? entry.name : nameOf(entry.path),
    path: absolute(bin.folder, `files/${entry.name}`),
    isFolder,
    seen: { dev, inode, isFolder, size, modified, changed: modified },
  };
}

/** Folders first, so that what lay in one that comes back as well finds it there. */
function itemsOf(id: string, returns: readonly Return[]): FiledItem[] {
  const short = id.slice(0, 8);
  const coming = new Set(returns.map((r) => r.at));
  const order = [...returns].sort((a, b) => a.at.split('/').length - b.at.split('/').length);
  return order.map(({ binned: { bin, entry }, source, at, replaces, folder }, i) => ({
    from: source.path,
    to: at,
    stash: replaces ? absolute(parentOf(at), `.rellin-replaced-${short}/${nameOf(at)}`) : null,
    way: folder.dev === entry.dev ? 'rename' : 'carry',
    source: { dev: entry.dev, inode: entry.inode },
    part: absolute(parentOf(at), `.rellin-part-${short}-${i}`),
    folders: folder.missing.filter((path) => !coming.has(path) && !isBelow(path, coming)),
    bin: { end: 'from', bin, name: entry.name, info: entry.info ?? NOT_TOLD },
  }));
}
