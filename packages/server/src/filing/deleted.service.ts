/**
 * Deleted originals: into the bin of their disk (Trash specification 1.0) and back, as filings, with one undo; or for
 * good, which has none.
 */
import { createHash, randomUUID } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import { namesFor } from '@rellin/core/filing';
import { kindOf } from '@rellin/core/kinds';
import { grouped, piecesOf } from '@rellin/core/lists';
import { isWithin, nameOf, parentOf, shown } from '@rellin/core/paths';
import { momentOf, trashName, type TrashInfo } from '@rellin/core/trash';
import type {
  DeletedId,
  DeleteRequest,
  DeleteView,
  DiskBin,
  ExpungeRequest,
  ExpungeView,
  FilingView,
  OriginalRef,
  RestoreRequest,
} from '@rellin/contract';
import { ActivityService } from '../activity/activity.service.js';
import { CONFIG, type Config } from '../config/config.js';
import { absolute } from '../disk/paths.js';
import { EventsService } from '../events/events.service.js';
import type { FiledItem, SeenFile } from './diskMoves.js';
import { FilingService, notesOn, type Source } from './filing.service.js';
import { MoverService } from './mover.service.js';
import type { ListedBin, WhereBins } from './moverMessages.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { Refusal } from '../problems/refusal.js';
import { homeBin, type Bin } from '../trash/bins.js';
import type { BinEntry } from '../trash/infoFiles.js';

/** By which what Rellin put into a bin is known. */
const OURS = 'Rellin';
/** So many are deleted for good between two looks at what programs have open. */
const AT_ONCE = 200;
/** Of a thing whose info file was missing: there is none to remove, and its undo writes one without a path. */
const NOT_TOLD: TrashInfo = { path: '', deletedAt: null, by: null };

interface Thing {
  path: string;
  seen: SeenFile;
}

interface Found {
  bin: Bin;
  entry: BinEntry;
}

@Injectable()
export class DeletedService {
  private readonly dataHome: string;

  constructor(
    @Inject(CONFIG) config: Config,
    private readonly filing: FilingService,
    private readonly mover: MoverService,
    private readonly originals: OriginalsService,
    private readonly places: PlaceRegistry,
    private readonly activity: ActivityService,
    private readonly events: EventsService,
  ) {
    this.dataHome = config.xdg.dataHome;
  }

  async list(): Promise<DiskBin[]> {
    const here = (await this.bins()).map(({ bin, entries, trouble }): DiskBin => {
      const originals = entries.map((entry) => {
        const name = entry.path === null ? entry.name : nameOf(entry.path);
        return {
          id: idOf(bin, entry),
          name: shown(name),
          path: entry.path,
          deletedAt: entry.info?.deletedAt ? momentOf(entry.info.deletedAt) : null,
          kind: kindOf(entry.type, name),
          isFolder: entry.type === 'folder',
          takes: entry.takes,
          byRellin: entry.info?.by === OURS,
        };
      });
      const takes = originals.reduce((sum, o) => sum + o.takes, 0);
      return { name: this.nameOf(bin), state: 'here', takes, trouble, originals };
    });
    const away = this.places.all().filter((p) => p.state === 'away' && p.entity.type !== 'fixed');
    return [
      ...here,
      ...away.map(({ entity }): DiskBin => ({
        ...{ name: entity.name, state: 'away', takes: 0, trouble: '', originals: [] },
      })),
    ];
  }

  private bins(): Promise<ListedBin[]> {
    return this.mover.run({ kind: 'bin-list', where: this.where() });
  }

  private where(): WhereBins {
    const standIns = this.places.all().filter((p) => p.state === 'here' && p.entity.standInStore !== null);
    return { dataHome: this.dataHome, standIns: standIns.map((p) => p.entity.root) };
  }

  /** By the place that its volume is known by; a volume without one by its folder. */
  private nameOf({ top }: Bin): string {
    if (top === null) return 'Home';
    const roots = this.places.all().map(({ entity }) => entity);
    const own = roots.find((p) => p.root === top) ?? roots.find((p) => top !== '/' && isWithin(top, p.root));
    return own?.name ?? shown(nameOf(top) || '/');
  }

  async delete({ originals, acrossVolumes = false }: DeleteRequest): Promise<DeleteView> {
    const things = await this.things(originals);
    const bins = await this.mover.run({
      kind: 'bins-for',
      paths: things.map((t) => t.path),
      where: this.where(),
    });
    const without = things.filter((_, i) => bins[i] === null);
    if (without.length > 0 && !acrossVolumes) {
      const volume = this.places.placeOf(without[0]!.path)!.entity.name;
      return { state: 'no-bin', originals: without.length, name: volume };
    }
    const home = homeBin(this.dataHome);
    const folders = [...new Set(bins.map((bin) => (bin ?? home).folder))].sort();
    return this.inTurns(folders, async () => {
      const id = randomUUID();
      const taken = new Map<string, Set<string>>();
      const items: FiledItem[] = [];
      for (const [i, thing] of things.entries()) {
        const bin = bins[i] ?? home;
        const names = taken.get(bin.folder) ?? new Set(await this.mover.run({ kind: 'bin-names', bin }));
        taken.set(bin.folder, names);
        const name = trashName(nameOf(thing.path), (n) => names.has(n));
        names.add(name);
        items.push(await this.into(bin, name, thing, bins[i] === null, `${id.slice(0, 8)}-${i}`));
      }
      const what = items.length === 1 ? `“${shown(nameOf(items[0]!.from!))}”` : `${items.length} originals`;
      await this.filing.perform(id, items, {
        act: 'delete-original',
        summary: `Deleted ${what} to the bin`,
        title: 'Deleting originals',
      });
      return { state: 'done', deleted: items.length, notes: notesOn(items) };
    });
  }

  private async into(
    bin: Bin,
    name: string,
    { path, seen }: Thing,
    isCarried: boolean,
    mark: string,
  ): Promise<FiledItem> {
    const files = absolute(bin.folder, 'files');
    const fromTop = bin.top === null ? path : path.slice(bin.top === '/' ? 1 : bin.top.length + 1);
    return {
      from: path,
      to: absolute(files, name),
      stash: null,
      way: isCarried ? 'carry' : 'rename',
      source: { dev: seen.dev, inode: seen.inode },
      part: absolute(files, `.rellin-part-${mark}`),
      ...(isCarried && { digest: await this.mover.run({ kind: 'digest', path }) }),
      bin: { end: 'to', bin, name, info: { path: fromTop, deletedAt: null, by: OURS } },
    };
  }

  /** Where they are, and what stands there now; what lies in a folder that is deleted with it goes with it. */
  private async things(refs: readonly OriginalRef[]): Promise<Thing[]> {
    const found = await this.originals.wherever(refs);
    const seen = await this.mover.run({ kind: 'probe', paths: found.map((f) => f.path) });
    const things = new Map<string, Thing>();
    found.forEach(({ row, path }, i) => {
      if (row.name === '') throw new Refusal('not-valid', 'The top folder of a place is not deleted here.');
      const now = seen[i];
      if (!now) throw new Refusal('not-found', `${shown(row.name)} is not there any more; nothing was changed.`);
      things.set(path, { path, seen: now });
    });
    const isBelowAnother = (path: string): boolean => {
      for (let at = parentOf(path); at !== '' && at !== '/'; at = parentOf(at)) if (things.has(at)) return true;
      return false;
    };
    return [...things.values()].filter(({ path }) => !isBelowAnother(path));
  }

  async restore({ ids, into, clash }: RestoreRequest): Promise<FilingView> {
    const found = await this.found(ids);
    const folder = into && (await this.filing.targetOf(into));
    const lost = found.find(({ entry }) => entry.path === null);
    if (!folder && lost)
      throw new Refusal('not-valid', `It is not known where “${shown(lost.entry.name)}” lay.`, {
        remedy: 'Restore it to a folder of your choice.',
      });
    const target = ({ entry }: Found) => folder?.path ?? parentOf(entry.path!);
    for (const one of found)
      if (!this.places.placeOf(target(one)))
        throw new Refusal('outside-places', `${shown(target(one))} lies outside every place that Rellin may change.`, {
          remedy: 'Restore it to another folder, or add a folder above it as a place in Settings.',
        });
    const byFolder = grouped(found, target);
    return this.inTurns([...byFolder.keys()].sort(), async () => {
      const id = randomUUID();
      const items: FiledItem[] = [];
      const clashing: Source[] = [];
      let skipped = 0;
      for (const [path, own] of byFolder) {
        const missing = folder?.made ? [] : await this.missingAbove(path);
        const isThere = missing.length === 0 && !folder?.made;
        const there = isThere ? await this.mover.run({ kind: 'names', path }) : [];
        const dev = isThere ? (await this.mover.run({ kind: 'probe', paths: [path] }))[0]?.dev : undefined;
        const sources = own.map(({ bin, entry }): Source => ({
          name: entry.path === null ? entry.name : nameOf(entry.path),
          isFolder: entry.type === 'folder',
          path: absolute(bin.folder, `files/${entry.name}`),
          seen: {
            dev: entry.dev,
            inode: entry.inode,
            isFolder: entry.type === 'folder',
            size: entry.takes,
            modified: 0,
          },
        }));
        const names = namesFor(sources, new Set(there), clash);
        if (names.kind === 'clashes') {
          clashing.push(...names.indexes.map((i) => ({ ...sources[i]!, at: path })));
          continue;
        }
        skipped += names.skipped.length;
        for (const { index, name, replaces } of names.filed) {
          const { bin, entry } = own[index]!;
          const mark = `${id.slice(0, 8)}-${items.length}`;
          const from = sources[index]!.path;
          const isCarried = (dev ?? (await this.deviceAbove(path))) !== entry.dev;
          items.push({
            from,
            to: absolute(path, name),
            stash: replaces ? absolute(path, `.rellin-replaced-${id.slice(0, 8)}/${name}`) : null,
            way: isCarried ? 'carry' : 'rename',
            source: { dev: entry.dev, inode: entry.inode },
            part: absolute(path, `.rellin-part-${mark}`),
            ...(missing.length > 0 && { folders: missing }),
            bin: { end: 'from', bin, name: entry.name, info: entry.info ?? NOT_TOLD },
          });
        }
      }
      const [first] = byFolder.keys();
      const name = folder?.name ?? (byFolder.size === 1 ? shown(nameOf(first!)) : 'where they were');
      if (clashing.length > 0) return this.filing.clashes(clashing, { path: first!, name });
      if (items.length > 0) {
        const what = items.length === 1 ? `“${shown(nameOf(items[0]!.to))}”` : `${items.length} originals`;
        const told = {
          act: 'restore-original',
          summary: `Restored ${what} from the bin`,
          title: 'Restoring originals',
        };
        await this.filing.perform(id, items, told, folder?.made ?? null);
      }
      return { state: 'done', filed: items.length, skipped, into: name, notes: notesOn(items) };
    });
  }

  async expunge({ ids }: ExpungeRequest): Promise<ExpungeView> {
    const listed = await this.bins();
    const wanted = ids && new Set(ids);
    const out: ExpungeView = { deleted: 0, kept: [] };
    const stop = new AbortController();
    const chosen = listed.map(({ bin, entries }) => ({
      bin,
      entries: wanted ? entries.filter((e) => wanted.has(idOf(bin, e))) : entries,
    }));
    const total = chosen.reduce((sum, { entries }) => sum + entries.length, 0);
    const activity = `expunge-${randomUUID()}`;
    this.activity.begin(activity, 'Deleting for good', total, () => stop.abort());
    let done = 0;
    try {
      for (const { bin, entries } of chosen)
        await this.filing.inTurn(bin.folder, async () => {
          for (const some of piecesOf(entries, AT_ONCE)) {
            if (stop.signal.aborted) return;
            const names = some.map((e) => e.name);
            const ends = await this.mover.run({ kind: 'expunge', bin, names }, stop.signal);
            ends.forEach((end, i) => {
              if (end === 'gone') out.deleted++;
              else out.kept.push({ name: shown(some[i]!.name), why: 'a program has it open' });
            });
            this.activity.progress(activity, (done += some.length));
          }
          if (!wanted) await this.mover.run({ kind: 'clear-lone-infos', bin });
        });
    } catch (error) {
      if (!stop.signal.aborted) throw error;
    } finally {
      this.activity.end(activity);
      this.events.changed('deleted');
    }
    return out;
  }

  private async found(ids: readonly DeletedId[]): Promise<Found[]> {
    const known = new Map<string, Found>();
    for (const { bin, entries } of await this.bins())
      for (const entry of entries) known.set(idOf(bin, entry), { bin, entry });
    return [...new Set(ids)].map((id) => {
      const found = known.get(id);
      if (!found) throw new Refusal('not-found', 'It is not in the bin any more; nothing was changed.');
      return found;
    });
  }

  /** Folders that are to be made above, the outermost first. */
  private async missingAbove(path: string): Promise<string[]> {
    const root = this.places.placeOf(path)!.entity.root;
    const missing: string[] = [];
    for (let at = path; isWithin(root, at) && at !== root; at = parentOf(at)) {
      const [there] = await this.mover.run({ kind: 'probe', paths: [at] });
      if (there) break;
      missing.unshift(at);
    }
    return missing;
  }

  private async deviceAbove(path: string): Promise<number | undefined> {
    const missing = await this.missingAbove(path);
    const [above] = await this.mover.run({ kind: 'probe', paths: [parentOf(missing[0] ?? path)] });
    return above?.dev;
  }

  private inTurns<T>(folders: readonly string[], work: () => Promise<T>): Promise<T> {
    const [first, ...rest] = folders;
    return first === undefined ? work() : this.filing.inTurn(first, () => this.inTurns(rest, work));
  }
}

/** The same as long as it lies there. */
function idOf(bin: Bin, { name, info }: BinEntry): DeletedId {
  const text = [bin.folder, name, info?.path ?? '', info?.deletedAt ?? ''].join('\n');
  return createHash('sha256').update(text).digest('base64url').slice(0, 24) as DeletedId;
}
