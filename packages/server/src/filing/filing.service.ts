/**
 * Filing originals into real folders: moved or copied, said before, undone exactly. The intent is written first, then the
 * disk is changed, then the act is marked done with its journal line; on start what was left half-way is finished or taken
 * back, so that rows and disk agree.
 */
import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { access, constants, lstat, mkdir, readdir, rm, rmdir } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { Readable } from 'node:stream';
import { Injectable, Logger } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { namesFor, type ClashChoice, type FiledName } from '@rellin/core/filing';
import { fromBytes, isWithin, nameOf, parentOf, shown } from '@rellin/core/paths';
import type { FilingView } from '@rellin/contract';
import { ActivityService } from '../activity/activity.service.js';
import { absolute, diskPath } from '../disk/paths.js';
import { faultPoint } from '../faults/faultPoint.js';
import { IndexerService } from '../indexing/indexer.service.js';
import { JournalService } from '../journal/journal.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import { realInside } from '../originals/resolve.js';
import { PlacesService, type LivePlace } from '../places/places.service.js';
import { Refusal } from '../problems/refusal.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import { backward, contentDigest, forward, release, type FiledItem } from './diskMoves.js';

export interface OriginalRef {
  placeId: number;
  originalId: number;
}

export interface FilingTarget {
  shortcutId?: string;
  placeId?: number;
  originalId?: number;
  /** A folder to make in it first, and file into. */
  newFolder?: string;
}

export interface FilingRequest {
  shortcutIds?: string[];
  originals?: OriginalRef[];
  into: FilingTarget;
  how: 'move' | 'copy';
  clash?: ClashChoice;
}

interface Source {
  path: string;
  name: string;
  isFolder: boolean;
  dev: number;
}

interface Folder {
  path: string;
  name: string;
  dev: number;
  made: string | null;
}

interface Row {
  id: string;
  state: 'intent' | 'done';
  made_folder: string | null;
  items: FiledItem[];
}

/** How far a filing has come is written this often: after a crash what is not known to be filed is looked at all the same. */
const KEEP_MS = 200;

@Injectable()
export class FilingService {
  private readonly log = new Logger('filing');
  /** Filings somebody works on just now. */
  private readonly working = new Set<string>();

  constructor(
    private readonly db: DataSource,
    private readonly journal: JournalService,
    private readonly originals: OriginalsService,
    private readonly shortcuts: ShortcutsService,
    private readonly places: PlacesService,
    private readonly indexer: IndexerService,
    private readonly activity: ActivityService,
  ) {
    journal.onChange(async (changes, _tx, { direction }) => {
      if (direction === 'do') return;
      for (const { table, id, after } of changes)
        if (table === 'filing') await this.bring(id, (after as { state: Row['state'] }).state);
    });
    // what a place's going away left half-way is put right when it is here again
    places.onEvent(async (event) => {
      if (event.kind === 'state' && event.state === 'here') await this.start();
    });
    journal.onCommitted((changes, { direction }) => {
      if (direction === 'do') return;
      for (const { table, id } of changes) if (table === 'filing') void this.settled(id);
    });
  }

  /** After a crash, or where a place went away half-way: each filing is brought to what its row says. */
  async start(): Promise<void> {
    for (const row of await this.rows('busy')) {
      if (this.working.has(row.id) || this.awayOf(row.items) !== undefined) continue;
      this.working.add(row.id);
      try {
        await this.bring(row.id, row.state);
        await this.settled(row.id);
        if (row.state === 'intent') await this.forget(row.id);
      } catch (error) {
        this.log.warn(`filing ${row.id} could not be finished: ${(error as Error).message}`);
      } finally {
        this.working.delete(row.id);
      }
    }
  }

  async file(request: FilingRequest): Promise<FilingView> {
    const folder = await this.targetOf(request.into);
    const sources = await this.sourcesOf(request, folder);
    const names = namesFor(sources, await this.namesIn(folder), request.clash);
    if (names.kind === 'clashes') return this.clashes(names.indexes, sources, folder);
    const id = randomUUID();
    const items = names.filed.map((filed) => this.item(id, sources[filed.index]!, filed, folder, request.how));
    if (items.length === 0) return { state: 'done', filed: 0, skipped: names.skipped.length, into: folder.name };
    const what = items.length === 1 ? `“${shown(nameOf(items[0]!.to))}”` : `${items.length} things`;
    const verb = request.how === 'move' ? 'Moved' : 'Copied';
    await this.carryOut(id, items, folder, `${verb} ${what} into “${folder.name}”`, `file-${request.how}`);
    return { state: 'done', filed: items.length, skipped: names.skipped.length, into: folder.name };
  }

  /** Bytes from outside the page, as a new file of this name. */
  async upload(into: FilingTarget, name: string, bytes: Readable, clash: ClashChoice | undefined): Promise<FilingView> {
    if (name === '' || name === '.' || name === '..' || /[/\0]/.test(name))
      throw new Refusal('not-valid', 'A file needs a name without “/”.');
    const folder = await this.targetOf(into);
    const incoming = [{ name, isFolder: false }];
    const names = namesFor(incoming, await this.namesIn(folder), clash);
    if (names.kind === 'clashes') {
      bytes.resume();
      return this.clashes([0], [{ ...incoming[0]!, path: '', dev: 0 }], folder);
    }
    if (names.filed.length === 0) return { state: 'done', filed: 0, skipped: 1, into: folder.name };
    const id = randomUUID();
    const item = this.item(id, undefined, names.filed[0]!, folder, 'copy');
    try {
      if (folder.made) await mkdir(diskPath(folder.path));
      await pipeline(bytes, createWriteStream(diskPath(item.part), { flags: 'wx' }));
    } catch (error) {
      await rm(diskPath(item.part), { force: true });
      if (folder.made) await rmdir(diskPath(folder.made)).catch(() => undefined);
      throw diskRefusal(error, folder.path);
    }
    item.digest = await contentDigest(item.part);
    await this.carryOut(id, [item], folder, `Filed “${shown(nameOf(item.to))}” into “${folder.name}”`, 'file-upload');
    return { state: 'done', filed: 1, skipped: 0, into: folder.name };
  }

  private async targetOf(into: FilingTarget): Promise<Folder> {
    const ref = into.shortcutId === undefined ? into : await this.originalOf(into.shortcutId);
    if (ref.placeId === undefined || ref.originalId === undefined)
      throw new Refusal('not-valid', 'There is no folder named to file into.');
    const { row, path, roots } = await this.originals.whereabouts(ref.placeId, ref.originalId);
    if (row.type !== 'folder' && row.type !== 'link')
      throw new Refusal('not-a-folder', `${shown(row.name)} is not a folder; things are filed into folders.`);
    const real = await realInside(path, roots);
    const stat = await lstat(diskPath(real));
    if (!stat.isDirectory()) throw new Refusal('not-a-folder', `${shown(row.name)} is not a folder.`);
    await access(diskPath(real), constants.W_OK | constants.X_OK).catch((error: unknown) => {
      throw diskRefusal(error, real);
    });
    const name = row.name || this.places.need(ref.placeId).entity.name;
    const fresh = into.newFolder?.trim();
    if (!fresh) return { path: real, name: shown(name), dev: stat.dev, made: null };
    if (/[/\0]/.test(fresh) || fresh === '.' || fresh === '..')
      throw new Refusal('not-valid', 'A folder needs a name without “/”.');
    const made = absolute(real, fresh);
    const there = await lstat(diskPath(made)).catch(() => undefined);
    if (there && !there.isDirectory()) throw new Refusal('conflict', `There is a file “${fresh}” in it already.`);
    return { path: made, name: fresh, dev: stat.dev, made: there ? null : made };
  }

  private async originalOf(shortcutId: string): Promise<OriginalRef> {
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
    if (refs.length === 0) throw new Refusal('not-valid', 'There is nothing named to file.');
    const out = new Map<string, Source>();
    for (const { placeId, originalId } of refs) {
      const { row, path } = await this.originals.whereabouts(placeId, originalId);
      if (row.name === '')
        throw new Refusal('not-valid', 'A whole place cannot be filed into a folder; file what lies in it.');
      const stat = await lstat(diskPath(path)).catch((error: unknown) => {
        throw diskRefusal(error, path);
      });
      const isFolder = stat.isDirectory();
      if (isFolder && isWithin(path, folder.path))
        throw new Refusal('conflict', `“${shown(row.name)}” cannot be filed into itself.`);
      if (parentOf(path) === folder.path && request.how === 'move')
        throw new Refusal('conflict', `“${shown(row.name)}” lies in “${folder.name}” already.`);
      out.set(path, { path, name: row.name, isFolder, dev: stat.dev });
    }
    return [...out.values()];
  }

  private async namesIn(folder: Folder): Promise<Set<string>> {
    if (folder.made) return new Set();
    return new Set((await readdir(diskPath(folder.path), { encoding: 'buffer' })).map((n) => fromBytes(n)));
  }

  private async clashes(indexes: number[], sources: Source[], folder: Folder): Promise<FilingView> {
    const facts = async (path: string) => {
      const s = await lstat(diskPath(path)).catch(() => undefined);
      return s ? { size: s.isDirectory() ? null : s.size, modified: s.mtimeMs } : null;
    };
    return {
      state: 'clashes',
      into: folder.name,
      clashes: await Promise.all(
        indexes.slice(0, 200).map(async (i) => ({
          name: sources[i]!.name,
          there: await facts(absolute(folder.path, sources[i]!.name)),
          coming: sources[i]!.path === '' ? null : await facts(sources[i]!.path),
        })),
      ),
      total: indexes.length,
    };
  }

  private item(
    id: string,
    source: Source | undefined,
    filed: FiledName,
    folder: Folder,
    how: 'move' | 'copy',
  ): FiledItem {
    const short = id.slice(0, 8);
    return {
      from: source?.path ?? null,
      to: absolute(folder.path, filed.name),
      stash: filed.replaces ? absolute(folder.path, `.rellin-replaced-${short}/${filed.name}`) : null,
      way: !source ? 'upload' : how === 'copy' ? 'copy' : source.dev === folder.dev ? 'rename' : 'carry',
      part: absolute(folder.path, `.rellin-part-${short}-${filed.index}`),
    };
  }

  /** Intent, act, done. Where it fails, everything is put back and the reason told. */
  private async carryOut(id: string, items: FiledItem[], folder: Folder, summary: string, act: string): Promise<void> {
    for (const item of items)
      if (item.way === 'copy' || item.way === 'carry') item.digest = await contentDigest(item.from!);
    await this.db.query(
      `WITH own AS (INSERT INTO filing (id, state, made_folder, items) VALUES ($1, 'intent', $2, $3))
       INSERT INTO filing_busy VALUES ($1)`,
      [id, folder.made, JSON.stringify(items)],
    );
    faultPoint('filing meant');
    this.working.add(id);
    const stop = new AbortController();
    const activityId = `filing-${id}`;
    this.activity.begin(activityId, `Filing into ${folder.name}`, items.length, () => stop.abort());
    let done = 0;
    let kept = Date.now();
    try {
      if (folder.made) await mkdir(diskPath(folder.made), { recursive: true });
      for (const item of items) {
        stop.signal.throwIfAborted();
        const way = item.way;
        await forward(item, stop.signal);
        faultPoint('one filed');
        this.activity.progress(activityId, ++done);
        // how it went is needed to take it back
        if (item.way !== way) await this.keepItems(id, items);
        if (done < items.length && Date.now() - kept < KEEP_MS) continue;
        kept = Date.now();
        await this.db.query(`UPDATE filing SET filed = $2 WHERE id = $1`, [id, done]);
      }
      for (const item of items) {
        await release(item);
        faultPoint('one released');
      }
      await this.journal.act({ act, summary }, (tx) => tx.update('filing', id, { state: 'done' }));
      await this.settled(id);
    } catch (error) {
      const gone = await this.goneMeanwhile(items);
      if (gone !== undefined) throw wentAway(gone, items, done);
      await this.takeBack(id, items, folder.made);
      if (stop.signal.aborted)
        throw new Refusal('stopped', `Stopped; the ${done} filed so far were put back where they were.`);
      throw diskRefusal(error, folder.path);
    } finally {
      this.activity.end(activityId);
      this.working.delete(id);
    }
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
    for (const place of this.placesOf(items)) await this.places.check(place.entity.id);
    return this.awayOf(items);
  }

  private async keepItems(id: string, items: FiledItem[]): Promise<void> {
    await this.db.query(`UPDATE filing SET items = $2 WHERE id = $1`, [id, JSON.stringify(items)]);
  }

  private async takeBack(id: string, items: FiledItem[], made: string | null): Promise<void> {
    for (const item of [...items].reverse()) await backward(item);
    if (made) await rmdir(diskPath(made)).catch(() => undefined);
    await this.forget(id);
    await this.look(items);
  }

  /** Brings the disk to what a state means. What was done on the way is undone where it fails. */
  private async bring(id: string, state: Row['state']): Promise<void> {
    // on a connection of its own: it must stand even where the transaction around does not come to its end
    await this.db.query(`INSERT INTO filing_busy VALUES ($1) ON CONFLICT DO NOTHING`, [id]);
    const [row] = await this.rows('one', id);
    if (!row) return;
    const order = state === 'done' ? row.items : [...row.items].reverse();
    const step = state === 'done' ? forward : backward;
    const undo = state === 'done' ? backward : forward;
    if (state === 'done' && row.made_folder) await mkdir(diskPath(row.made_folder), { recursive: true });
    const passed: FiledItem[] = [];
    try {
      for (const item of order) {
        await step(item);
        faultPoint('one brought');
        passed.push(item);
      }
      if (state === 'done') for (const item of order) await release(item);
    } catch (error) {
      for (const item of passed.reverse()) await undo(item);
      await this.free(id);
      throw diskRefusal(error, row.items[0]?.to ?? '');
    }
    if (state === 'intent' && row.made_folder) await rmdir(diskPath(row.made_folder)).catch(() => undefined);
  }

  private async rows(which: 'busy' | 'one', id?: string): Promise<Row[]> {
    const rows = (await this.db.query(
      `SELECT id::text, state, made_folder, items, filed FROM filing
       WHERE ${which === 'busy' ? 'id IN (SELECT filing_id FROM filing_busy)' : 'id = $1'}`,
      which === 'busy' ? [] : [id],
    )) as (Row & { filed: number })[];
    for (const { items, filed } of rows) for (const item of items.slice(0, filed)) item.filed = true;
    return rows;
  }

  /** The disk is as the row says; the index and the shortcuts go along. */
  private async settled(id: string): Promise<void> {
    await this.free(id);
    const [row] = await this.rows('one', id);
    if (row) await this.look(row.items);
  }

  private async free(id: string): Promise<void> {
    await this.db.query(`DELETE FROM filing_busy WHERE filing_id = $1`, [id]);
  }

  /** An intent that came to nothing leaves no trace; one that was done and undone is kept, so that it can be done again. */
  private async forget(id: string): Promise<void> {
    await this.db.query(
      `DELETE FROM filing f WHERE id = $1 AND state = 'intent'
         AND NOT EXISTS (SELECT 1 FROM journal j WHERE j.changes @> jsonb_build_array(jsonb_build_object('table', 'filing', 'id', $1::text)))`,
      [id],
    );
    await this.free(id);
  }

  /**
   * What filings replaced waits hidden beside what replaced it for `days`; then it goes for good, and its filing can no
   * longer be taken back. A folder that is away just now is left for another day. Returns how many were cleared.
   */
  async sweep(days: number): Promise<number> {
    const rows = (await this.db.query(
      `SELECT id::text, state, made_folder, items FROM filing
       WHERE at <= now() - make_interval(days => $1) AND id NOT IN (SELECT filing_id FROM filing_busy)`,
      [days],
    )) as Row[];
    let cleared = 0;
    for (const { id, items } of rows) {
      const stashes = new Set(items.flatMap((i) => (i.stash === null ? [] : [parentOf(i.stash)])));
      const folders = [...stashes].map(parentOf);
      const here = await Promise.all(folders.map((f) => lstat(diskPath(f)).catch(() => undefined)));
      if (here.includes(undefined)) continue;
      for (const stash of stashes) await rm(diskPath(stash), { recursive: true, force: true });
      await this.db.query(`DELETE FROM filing WHERE id = $1`, [id]);
      cleared++;
    }
    return cleared;
  }

  private async look(items: readonly FiledItem[]): Promise<void> {
    for (const place of this.placesOf(items)) await this.indexer.settle(place.entity.id).catch(() => undefined);
  }
}

function wentAway(place: string, items: readonly FiledItem[], done: number): Refusal {
  const moved = items.slice(0, done).some((i) => i.way === 'rename');
  return new Refusal(
    'original-away',
    moved
      ? `${place} went away half-way. The ${done} filed so far lie on it, and go back where they were as soon as it is here again.`
      : `${place} went away half-way. Everything is still where it was; copies begun on it are cleared as soon as it is here again.`,
    { remedy: `Connect ${place}, then file it again.` },
  );
}

/** What the disk said, in words. */
export function diskRefusal(error: unknown, path: string): Error {
  if (error instanceof Refusal) return error;
  const where = shown(path);
  switch ((error as NodeJS.ErrnoException).code) {
    case 'ENOSPC':
    case 'EDQUOT':
      return new Refusal('no-room', `There is no room left at ${where}; everything was put back where it was.`, {
        remedy: 'Free some space there, then file it again.',
      });
    case 'EROFS':
      return new Refusal('no-access', `${where} can only be read; nothing was changed.`);
    case 'EACCES':
    case 'EPERM':
      return new Refusal('no-access', `The system does not let Rellin write at ${where}; nothing was changed.`);
    case 'ENOENT':
      return new Refusal('not-found', `Something at ${where} is not there any more; everything was put back.`);
    case 'EEXIST':
      return new Refusal('changed-since', `A name at ${where} was taken just now; everything was put back.`);
    default:
      return error as Error;
  }
}
