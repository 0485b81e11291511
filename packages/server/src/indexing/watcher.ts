/**
 * Watches the folders of one place, one system watch a folder. Events only mark names as dirty; what is true is read
 * from the disk and compared with the index, so that a lost or doubled event does no harm. Bursts are folded.
 */
import type { OriginalId, PlaceId } from '@rellin/contract';
import { readFileSync, watch, type FSWatcher } from 'node:fs';
import { Buffer } from 'node:buffer';
import type { Client } from 'pg';
import { grouped } from '@rellin/core/lists';
import { fromBytes } from '@rellin/core/paths';
import type { EntryType } from '@rellin/core/kinds';
import { isSameEntry, type KnownEntry } from '@rellin/core/reconcile';
import { partitionName } from '../database/partition.js';
import { HeldFolder } from '../disk/inside.js';
import { absolute, diskPath, type DiskPath } from '../disk/paths.js';
import { entryStat, modifiedMs } from '../disk/stat.js';
import {
  compare,
  noDifferences,
  writeDifferences,
  type Appeared,
  type Differences,
  type Written,
} from './differences.js';
import { addAll, note, PutOffChanges, type Changes } from './changes.js';
import { compileExcludes, type Excludes } from './excludes.js';
import { LatelyGone, type Gone } from './latelyGone.js';
import { ROOT_ID, rootEntry } from './scan.js';
import { lstatSync, readdirSync } from '../disk/port.js';

const QUIET_MS = 40;
const LONGEST_MS = 400;
/** How often it is said which folders are looked at more rarely, while there are such. */
const SLOWED_MS = 10_000;
/** So often a disk that fails is asked for the same again. */
const MOST_TRIES = 5;
/** What could not be looked at or written is tried again twice as late each time, at the latest after this. */
const LATEST_AGAIN_MS = 60_000;
/** So often it is waited for the other half of a move while there is more to come. */
const MOST_ROUNDS = 10;
/** Of more than that which appeared at once it is not asked whether it was elsewhere before. */
const MOST_SOUGHT = 2000;
/** Above this share of the system's limit Rellin leaves watches to others. */
const LIMIT_SHARE = 0.8;

/** How many watches there are, over all places. */
let inUse = 0;

/** How many watches the system allows one user (inotify), or fewer where the person says so. */
export function watchLimit(): number {
  const own = Number(process.env['RELLIN_WATCHES'] ?? '');
  if (own > 0) return own;
  try {
    return Number(readFileSync('/proc/sys/fs/inotify/max_user_watches', 'utf8'));
  } catch {
    return 8192;
  }
}

/** How many events the kernel keeps for us; what comes beyond is lost, and nobody is told. */
function queueLimit(): number {
  try {
    return Number(readFileSync('/proc/sys/fs/inotify/max_queued_events', 'utf8'));
  } catch {
    return 16_384;
  }
}

/** All that watch, over all places: their events share one queue. */
const watching = new Set<PlaceWatcher>();
/** Events in this turn of the loop, which empties the queue. */
let heard = 0;

function hear(): void {
  if (heard++ > 0) return;
  setImmediate(() => {
    // not a single one fewer counts as full: others may have been merged
    if (heard >= queueLimit() * 0.9) for (const watcher of watching) watcher.mayHaveMissed();
    heard = 0;
  });
}

interface Folder {
  parentId: number;
  name: string;
  /** By which it is known, wherever it stands. */
  inode: number;
  /** As the index has it, in milliseconds: true just after the place was looked through. */
  mtime: number;
  watcher?: FSWatcher;
}

export interface WatchHost {
  /** Runs work on the database one piece at a time. */
  exclusively<T>(work: (client: Client) => Promise<T>): Promise<T>;
  onWritten(placeId: PlaceId, written: Written): void;
  onRootGone(placeId: PlaceId): void;
  /** More happened than could be heard: the place is to be looked through. */
  onOverflow(placeId: PlaceId): void;
  /** Folders below the place that are looked at more rarely, since they change without rest. */
  onSlowed(placeId: PlaceId, paths: readonly string[]): void;
  onTrouble(placeId: PlaceId, error: Error): void;
}

export class PlaceWatcher {
  private readonly folders = new Map<number, Folder>();
  private dirty: Changes = new Map();
  private timer: NodeJS.Timeout | undefined;
  private firstDirtyAt = 0;
  /** How often in a row a look met what could not be looked at. */
  private failedLooks = 0;
  /** How often in a row it could not be looked or written. */
  private troubles = 0;
  /** How often in a row a folder with changes was not where it should be and nothing told where it went. */
  private strayLooks = 0;
  private running: Promise<void> = Promise.resolve();
  private readonly latelyGone = new LatelyGone();
  private readonly putOff = new PutOffChanges();
  private putOffTimer: NodeJS.Timeout | undefined;
  private toldSlowed = '';
  private slowedTimer: NodeJS.Timeout | undefined;
  private excludes: Excludes = compileExcludes([]);
  private closed = false;
  limited = false;

  constructor(
    readonly placeId: PlaceId,
    readonly root: string,
    readonly rootInode: number,
    readonly rootDev: number,
    private readonly host: WatchHost,
  ) {}

  /** Sets up one watch a folder the index knows, after the place was looked through. */
  async start(client: Client, excludes: Excludes): Promise<void> {
    watching.add(this);
    this.excludes = excludes;
    const rows = await this.folderRows(client);
    const most = watchLimit() * LIMIT_SHARE;
    this.limited = inUse + rows.size > most;
    for (const [id, row] of rows) this.folders.set(id, row);
    const paths = this.allPaths();
    for (const [id, folder] of this.folders) {
      const path = paths.get(id);
      if (path === undefined) continue;
      const at = diskPath(absolute(this.root, path));
      if (inUse < most) this.setWatch(id, folder, at);
      // only now: what came before the watch told nobody
      const is = lstatOr(at);
      if (is?.ino !== folder.inode) this.unwatch(id);
      if (is?.ino !== folder.inode || modifiedMs(is, at) !== folder.mtime) this.mark(id, undefined);
    }
  }

  /**
   * Goes on after the place was looked through again, before anything else is taken up: what it knows of folders must
   * be what the index has now. The watches stay: closed and set anew, they would lose what happened meanwhile.
   */
  async goOn(client: Client, excludes: Excludes): Promise<void> {
    this.excludes = excludes;
    this.limited = false;
    await this.bringAfter(client);
    const without = [...this.folders.values()].filter((folder) => !folder.watcher).length;
    this.limited ||= inUse + without > watchLimit() * LIMIT_SHARE;
  }

  close(): void {
    this.closed = true;
    watching.delete(this);
    clearTimeout(this.timer);
    clearTimeout(this.putOffTimer);
    clearTimeout(this.slowedTimer);
    for (const id of this.folders.keys()) this.unwatch(id);
    this.folders.clear();
    this.dirty.clear();
  }

  mayHaveMissed(): void {
    this.host.onOverflow(this.placeId);
  }

  /** Takes up all pending changes, and the whole of one folder where given, and waits until they are in the index. */
  async settle(folderId?: OriginalId): Promise<void> {
    this.putOff.takeAll(this.dirty);
    if (folderId !== undefined) {
      this.putOff.calm(folderId);
      this.dirty.set(folderId, 'all');
    } else await new Promise((resolve) => setTimeout(resolve, 5)); // lets the kernel's queue reach us
    this.fire();
    await this.running;
  }

  /** Looks at folders that have no watch, as if something had happened in each. */
  poll(ids: readonly number[]): void {
    for (const id of ids) {
      const folder = this.folders.get(id);
      if (folder && !folder.watcher) note(this.dirty, id, undefined);
    }
    if (this.dirty.size > 0) this.soon();
  }

  private pathOf(id: number): string | undefined {
    const names: string[] = [];
    for (let at = id; at !== ROOT_ID;) {
      const folder = this.folders.get(at);
      if (!folder) return undefined;
      names.unshift(folder.name);
      at = folder.parentId;
    }
    return names.join('/');
  }

  /** The paths of all folders; each is made from that of the folder it lies in. */
  private allPaths(): Map<number, string> {
    const paths = new Map([[ROOT_ID, '']]);
    const pathOf = (id: number): string | undefined => {
      const known = paths.get(id);
      if (known !== undefined) return known;
      const folder = this.folders.get(id);
      const above = folder && pathOf(folder.parentId);
      if (above === undefined) return undefined;
      const path = above === '' ? folder!.name : `${above}/${folder!.name}`;
      paths.set(id, path);
      return path;
    };
    for (const id of this.folders.keys()) pathOf(id);
    return paths;
  }

  /** Through the handle: whatever its path is by now, it is this folder that is watched. */
  private watchHeld(id: number, held: HeldFolder): void {
    const folder = this.folders.get(id);
    if (!folder || folder.watcher) return;
    if (inUse >= watchLimit() * LIMIT_SHARE) this.limited = true;
    else this.setWatch(id, folder, held.at());
  }

  /** Holds a folder open where it is known to be, if it is that folder that stands there. */
  private hold(id: number): HeldFolder | 'astray' | 'closed' | 'failed' {
    const path = this.pathOf(id);
    const inode = id === ROOT_ID ? this.rootInode : this.folders.get(id)?.inode;
    if (path === undefined || inode === undefined) return 'astray';
    return holdIf(absolute(this.root, path), inode);
  }

  private setWatch(id: number, folder: Folder, at: DiskPath): void {
    try {
      folder.watcher = watch(at, { encoding: 'buffer' }, (_, name) => {
        hear();
        this.mark(id, name === null ? undefined : fromBytes(name as unknown as Uint8Array));
      });
      inUse++;
      folder.watcher.on('error', () => this.unwatch(id));
    } catch (error) {
      const code = (error as NodeJS.ErrnoException).code;
      if (code === 'ENOSPC' || code === 'EMFILE') this.limited = true;
      // a folder gone or out of reach: its parent's events tell the rest
    }
  }

  private unwatch(id: number): void {
    const folder = this.folders.get(id);
    if (!folder?.watcher) return;
    folder.watcher.close();
    folder.watcher = undefined;
    inUse--;
  }

  private mark(folderId: OriginalId, name: string | undefined): void {
    if (this.closed) return;
    const wait = this.putOff.heard(this.dirty, folderId, name);
    if (wait > 0) this.putOffTimer ??= setTimeout(() => this.takeUp(), wait).unref();
    else this.soon();
  }

  /** Folders that were left alone long enough are looked at. */
  private takeUp(): void {
    this.putOffTimer = undefined;
    if (this.closed) return;
    const next = this.putOff.takeDue(this.dirty);
    if (next !== undefined) this.putOffTimer = setTimeout(() => this.takeUp(), next).unref();
    if (this.dirty.size > 0) this.soon();
  }

  /** Said while there are some, since nothing tells that one came to rest. */
  private tellSlowed(): void {
    this.slowedTimer = undefined;
    const paths = this.putOff.slowed().flatMap((id) => this.pathOf(id) ?? []);
    if (paths.length > 0) this.slowedTimer = setTimeout(() => this.tellSlowed(), SLOWED_MS).unref();
    if (paths.join('\n') === this.toldSlowed) return;
    this.toldSlowed = paths.join('\n');
    this.host.onSlowed(this.placeId, paths);
  }

  private soon(): void {
    if (this.closed) return;
    const now = Date.now();
    if (this.timer === undefined) this.firstDirtyAt = now;
    clearTimeout(this.timer);
    const wait = Math.max(0, Math.min(QUIET_MS, this.firstDirtyAt + LONGEST_MS - now));
    this.timer = setTimeout(() => this.fire(), wait);
  }

  private fire(): void {
    clearTimeout(this.timer);
    this.timer = undefined;
    this.running = this.running.then(async () => {
      try {
        await this.process();
        this.troubles = 0;
      } catch (error) {
        this.host.onTrouble(this.placeId, error as Error);
        // nobody tells of it once more: what was to be looked at is kept, and looked at before long
        this.timer ??= setTimeout(() => this.fire(), Math.min(LATEST_AGAIN_MS, LONGEST_MS * 2 ** this.troubles++));
      }
    });
  }

  /**
   * An unmounted place looks empty: its entries are away, not gone. Another file system in its place may have the same
   * number for its top.
   */
  private isRootGone(): boolean {
    const root = rootEntry(this.root);
    if (root?.inode === this.rootInode && root.dev === this.rootDev) return false;
    this.dirty.clear();
    this.host.onRootGone(this.placeId);
    return true;
  }

  /** What a folder that is not where it should be lies in, as far as that is: there it is missed. */
  private nearestThere(id: number): { id: number; name: string } | undefined {
    for (let at = this.folders.get(id); at; at = this.folders.get(at.parentId)) {
      const above = this.hold(at.parentId);
      if (typeof above === 'string') {
        if (above === 'astray') continue;
        return undefined;
      }
      above.close();
      return { id: at.parentId, name: at.name };
    }
    return undefined;
  }

  private async process(): Promise<void> {
    if (this.dirty.size === 0 || this.closed) return;
    if (this.isRootGone()) return;
    const written = await this.host.exclusively(async (client) => {
      let look = await this.look(client);
      for (let n = 0; look.found.gone.length > 0 && n < MOST_ROUNDS; n++) {
        // the other half of a move may still be on its way
        await new Promise((resolve) => setTimeout(resolve, QUIET_MS));
        if (this.dirty.size === 0) break;
        look = await this.look(client, look);
      }
      if (this.closed || this.isRootGone()) return undefined;
      if (look.isIncomplete && this.failedLooks < MOST_TRIES) {
        // a disk that fails is asked for all of it again: what moved is known only from both of its ends
        this.failedLooks++;
        addAll(this.dirty, look.dirty);
        this.timer ??= setTimeout(() => this.fire(), LONGEST_MS);
        return undefined;
      }
      this.failedLooks = 0;
      if (isEmpty(look.found)) {
        this.retryStrays(look, this.strayLooks + 1);
        return undefined;
      }
      const written = await this.write(client, look);
      await this.follow(client, look.found).catch((error: Error) => {
        this.host.onTrouble(this.placeId, error);
        // it is written, and which folders are to be watched now is not known: the place is looked through
        this.host.onOverflow(this.placeId);
      });
      this.retryStrays(look, 0);
      return written;
    });
    if (written) this.host.onWritten(this.placeId, written);
  }

  private async write(client: Client, { dirty, found, nextId, back }: Probe): Promise<Written> {
    await client.query('BEGIN');
    let isCommitting = false;
    try {
      const { written, removed } = await writeDifferences(client, this.placeId, found, {
        nextId,
        now: new Date().toISOString(),
        back: [...back.values()],
      });
      isCommitting = true;
      await client.query('COMMIT');
      this.latelyGone.remember(removed);
      this.latelyGone.forget([...back.values()]);
      return written;
    } catch (error) {
      await client.query('ROLLBACK').catch(() => undefined);
      addAll(this.dirty, dirty);
      // it may have been written all the same; looked at again it is no difference then, and nobody is told of it
      if (isCommitting) this.host.onOverflow(this.placeId);
      throw error;
    }
  }

  /**
   * Changes in folders that were not where they should be are looked at again where those are now. One that went is
   * forgotten with them. Where nobody tells, asked ever more rarely, the place is looked through.
   */
  private retryStrays(look: Probe, inVain: number): void {
    const strays = [...look.strays].filter(([id]) => id === ROOT_ID || this.folders.has(id));
    this.strayLooks = strays.length > 0 ? inVain : 0;
    if (strays.length === 0) return;
    if (inVain > MOST_TRIES) {
      this.strayLooks = 0;
      this.host.onOverflow(this.placeId);
      return;
    }
    addAll(this.dirty, new Map(strays));
    this.timer ??= setTimeout(() => this.fire(), QUIET_MS * 2 ** inVain);
  }

  /** Compares what is dirty with the index. With an earlier look, its dirty names are looked at again together. */
  private async look(client: Client, earlier?: Probe): Promise<Probe> {
    const dirty = this.dirty;
    this.dirty = new Map();
    if (earlier) addAll(dirty, earlier.dirty);
    try {
      return await this.lookAt(client, dirty);
    } catch (error) {
      addAll(this.dirty, dirty);
      throw error;
    }
  }

  private async lookAt(client: Client, dirty: Changes): Promise<Probe> {
    const status = await client.query(`SELECT next_id FROM place_status WHERE place_id = $1`, [this.placeId]);
    const look: Probe = {
      dirty,
      found: noDifferences(),
      appeared: [],
      strays: new Map(),
      back: new Map(),
      isIncomplete: false,
      nextId: (status.rows[0] as { next_id: number }).next_id,
    };
    this.putOff.looked(dirty);
    if (this.slowedTimer === undefined) this.tellSlowed();
    const missed: Changes = new Map();
    for (const [id, names] of dirty)
      if ((await this.probeFolder(client, look, id, names)) === 'astray') {
        look.strays.set(id, names);
        const there = this.nearestThere(id);
        if (there) addAll(missed, new Map([[there.id, new Set([there.name])]]));
      }
    // what is missed there may be dirty of itself; it is looked at once
    for (const [id, names] of missed) {
      const known = dirty.get(id);
      const more = known === 'all' ? [] : [...names].filter((name) => !known?.has(name));
      if (more.length > 0) await this.probeFolder(client, look, id, new Set(more));
    }
    await this.expand(client, look);
    // what moved or went is told as that
    const told = new Set([...look.found.movedFolders.map((m) => m.row.id), ...look.found.gone.map((row) => row.id)]);
    const edited = new Map(look.found.edited.map((e) => [e.row.id, e]));
    look.found.edited = [...edited.values()].filter((e) => !told.has(e.row.id));
    return look;
  }

  private async probeFolder(
    client: Client,
    look: Probe,
    id: number,
    names: Set<string> | 'all',
  ): Promise<'astray' | undefined> {
    const rows = await this.rowsIn(client, id, names);
    // from here on nothing is waited for: all that is told of the folder is of one moment
    const held = this.hold(id);
    if (held === 'astray') return held;
    if (held === 'failed') look.isIncomplete = true;
    if (held === 'failed' || held === 'closed') return undefined;
    try {
      this.watchHeld(id, held);
      this.compareHeld(look, id, held, names, rows);
    } finally {
      held.close();
    }
    return undefined;
  }

  private compareHeld(
    look: Probe,
    id: number,
    held: HeldFolder,
    names: Set<string> | 'all',
    { rows, own }: { rows: Map<string, KnownEntry>; own: (KnownEntry & { parentId: number }) | undefined },
  ): void {
    const path = this.pathOf(id)!;
    let onDisk: string[];
    try {
      onDisk = names === 'all' ? listNames(held) : [...names];
    } catch (error) {
      // unreadable is not empty
      if ((error as NodeJS.ErrnoException).code === 'EIO') look.isIncomplete = true;
      return;
    }
    if (own) {
      const now = { ...entryStat(lstatSync(held.at()), held.at()), name: own.name, parentId: own.parentId, id };
      if (compare(own, now) === 'edited') look.found.edited.push({ row: own, now });
    }
    for (const name of onDisk) {
      const entry = this.entryAt(held, path, name);
      const row = rows.get(name);
      if (entry === 'failed') {
        // what cannot be looked at is not gone
        rows.delete(name);
        look.isIncomplete = true;
        continue;
      }
      if (!entry) continue;
      rows.delete(name);
      const now: Appeared = { ...entry, name, parentId: id, id: 0 };
      if (!row) look.appeared.push(now);
      else {
        const verdict = compare(row, now);
        if (verdict === 'edited') look.found.edited.push({ row, now });
        else if (verdict === 'replaced') {
          if (row.type === 'folder' || now.type === 'folder') {
            look.found.gone.push(row);
            look.appeared.push(now);
          } else look.found.replaced.push({ row, now });
        }
      }
    }
    look.found.gone.push(...rows.values());
  }

  /** What the index has of a folder, and in it. */
  private async rowsIn(client: Client, id: number, names: Set<string> | 'all') {
    const result = await client.query<RawRow>(
      `SELECT ${ROW} FROM ${partitionName(this.placeId)}
       WHERE id = $1 OR parent_id = $1 ${names === 'all' ? '' : 'AND name = ANY($2)'}`,
      names === 'all' ? [id] : [id, [...names]],
    );
    const rows = new Map<string, KnownEntry>();
    let own: ReturnType<typeof knownRow> | undefined;
    for (const raw of result.rows) {
      const row = knownRow(raw);
      if (row.id === id) own = row;
      else rows.set(row.name, row);
    }
    return { rows, own };
  }

  /**
   * What appeared may be known from a folder that was not looked at: it moved, and the event of where it left is still
   * on its way. It is not taken for new: all that points to it would be lost.
   */
  private async addMoved(client: Client, look: Probe, appeared: readonly Appeared[]): Promise<void> {
    if (appeared.length > MOST_SOUGHT) return;
    const known = new Set([...look.found.gone, ...look.found.movedFolders.map((m) => m.row)].map((row) => row.id));
    const byInode = grouped(appeared, (entry) => entry.inode);
    const result = await client.query<RawRow>(
      `SELECT ${ROW} FROM ${partitionName(this.placeId)} WHERE inode = ANY($1::float8[])`,
      [[...byInode.keys()]],
    );
    for (const row of result.rows.map(knownRow)) {
      if (known.has(row.id) || !byInode.get(row.inode)!.some((entry) => isSameEntry(row, entry))) continue;
      const held = this.hold(row.parentId);
      try {
        const stands = typeof held !== 'string' && held.seen(row.name)?.ino === row.inode;
        // where it cannot be looked whether it has left, all of it is looked at again
        if (held === 'failed') look.isIncomplete = true;
        else if (!stands && held !== 'closed') look.found.gone.push(row);
      } catch {
        look.isIncomplete = true;
      } finally {
        if (typeof held !== 'string') held.close();
      }
    }
  }

  private entryAt(held: HeldFolder, folder: string, name: string) {
    try {
      const s = held.seen(name);
      if (!s) return undefined;
      if (s.isDirectory() && this.excludes.isShut(s)) return undefined;
      const relative = folder === '' ? name : `${folder}/${name}`;
      return this.excludes.isExcluded(relative, name, s.isDirectory()) ? undefined : entryStat(s, held.at(name));
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      return code === 'ENOENT' || code === 'ENOTDIR' ? undefined : 'failed';
    }
  }

  /**
   * Sorts what appeared: a folder that vanished elsewhere in the same look has moved and keeps what lies in it; a new
   * one is listed to the bottom, since its own events came before it was watched.
   */
  private async expand(client: Client, look: Probe): Promise<void> {
    const { found } = look;
    let open = look.appeared.map((entry) => ({ entry, folder: this.pathOf(entry.parentId) }));
    while (open.length > 0) {
      await this.addMoved(
        client,
        look,
        open.map((o) => o.entry),
      );
      const inside: typeof open = [];
      for (const { entry, folder } of open) {
        if (entry.type !== 'folder') {
          found.appeared.push(entry);
          continue;
        }
        const at = found.gone.findIndex((row) => isSameEntry(row, entry));
        if (at >= 0) {
          found.movedFolders.push({ row: found.gone[at]!, now: entry });
          found.gone.splice(at, 1);
          continue;
        }
        entry.id = this.idOf(look, entry);
        found.appeared.push(entry);
        if (folder === undefined) continue;
        const path = folder === '' ? entry.name : `${folder}/${entry.name}`;
        // one that went again meanwhile is empty for now: as every new folder it is looked at once more when it is
        // known
        const held = holdIf(absolute(this.root, path), entry.inode);
        if (typeof held === 'string') continue;
        try {
          for (const name of namesIn(held)) {
            const below = this.entryAt(held, path, name);
            if (below === 'failed') look.isIncomplete = true;
            else if (below) inside.push({ entry: { ...below, name, parentId: entry.id, id: 0 }, folder: path });
          }
        } finally {
          held.close();
        }
      }
      open = inside;
    }
    for (const entry of found.appeared) if (entry.id === 0) entry.id = this.idOf(look, entry);
  }

  /** A new id, or the one that it had until a moment ago. */
  private idOf(look: Probe, entry: Appeared): number {
    const was = this.latelyGone.find(entry);
    if (!was || look.back.has(was.id)) return look.nextId++;
    look.back.set(was.id, was);
    return was.id;
  }

  /** Watches new folders and leaves those that went, after changes were written. */
  private async follow(client: Client, found: Differences): Promise<void> {
    const touchesFolders =
      found.movedFolders.length > 0 || [...found.gone, ...found.appeared].some((entry) => entry.type === 'folder');
    if (!touchesFolders) return;
    await this.bringAfter(client);
  }

  /**
   * Watches what the index has as folders now, and nothing else. What is new, or at another path, is looked at: what
   * came in between listing and watching told nobody.
   */
  private async bringAfter(client: Client): Promise<void> {
    const now = await this.folderRows(client);
    for (const id of [...this.folders.keys()])
      if (!now.has(id)) {
        this.unwatch(id);
        this.folders.delete(id);
      }
    const changed: number[] = [];
    for (const [id, row] of now) {
      const folder = this.folders.get(id);
      if (!folder) this.folders.set(id, row);
      else if (folder.parentId === row.parentId && folder.name === row.name) continue;
      else {
        folder.parentId = row.parentId;
        folder.name = row.name;
      }
      changed.push(id);
    }
    for (const id of changed) this.mark(id, undefined);
  }

  /** All folders of the place, as one text: names hold no stroke, and a row for each would cost more than the rest. */
  private async folderRows(client: Client): Promise<Map<number, Folder>> {
    const result = await client.query<{ all: string | null }>(
      `SELECT string_agg(id || '/' || parent_id || '/' || mtime || '/' || inode || '/' || name, '/' ORDER BY id) AS all
       FROM ${partitionName(this.placeId)} WHERE type = 'folder'`,
    );
    const parts = result.rows[0]!.all?.split('/') ?? [];
    const folders = new Map<number, Folder>();
    for (let i = 0; i < parts.length; i += 5)
      folders.set(Number(parts[i]), {
        parentId: Number(parts[i + 1]),
        mtime: Number(parts[i + 2]),
        inode: Number(parts[i + 3]),
        name: parts[i + 4]!,
      });
    return folders;
  }
}

interface Probe {
  dirty: Changes;
  found: Differences;
  /** Entries at paths the index does not know, before they are sorted. */
  appeared: Appeared[];
  nextId: number;
  /** What was to be looked at in folders that are not where they should be. */
  strays: Changes;
  /** What appeared that was gone for a moment only, by id. */
  back: Map<number, Gone>;
  /** The disk failed at some of it. */
  isIncomplete: boolean;
}

function isEmpty(found: Differences): boolean {
  return (
    found.appeared.length +
      found.gone.length +
      found.replaced.length +
      found.edited.length +
      found.movedFolders.length ===
    0
  );
}

const ROW = 'id, parent_id, name, type, size, mtime, birth, inode';

interface RawRow {
  id: number;
  parent_id: number;
  name: string;
  type: EntryType;
  size: number;
  mtime: number;
  birth: number;
  inode: number;
}

const knownRow = (r: RawRow): KnownEntry & { parentId: number } => ({
  id: r.id,
  parentId: r.parent_id,
  name: r.name,
  type: r.type,
  size: r.size,
  mtime: r.mtime,
  birth: r.birth,
  inode: r.inode,
});

function lstatOr(at: DiskPath) {
  try {
    return lstatSync(at, { throwIfNoEntry: false });
  } catch {
    return undefined;
  }
}

const NONE: ReadonlySet<string> = new Set();

/** A folder that is held open, if it is the one with that inode: “astray” where it is not there, or another is. */
function holdIf(path: string, inode: number): HeldFolder | 'astray' | 'closed' | 'failed' {
  let held: HeldFolder;
  try {
    held = HeldFolder.hold(diskPath(path), path, NONE);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'ENOENT' || code === 'ENOTDIR' || code === 'EINSIDE') return 'astray';
    return code === 'EIO' ? 'failed' : 'closed';
  }
  try {
    if (lstatSync(held.at()).ino === inode) return held;
  } catch (error) {
    held.close();
    return (error as NodeJS.ErrnoException).code === 'EIO' ? 'failed' : 'closed';
  }
  held.close();
  return 'astray';
}

function namesIn(held: HeldFolder): string[] {
  try {
    return listNames(held);
  } catch {
    return [];
  }
}

function listNames(held: HeldFolder): string[] {
  return readdirSync(held.at(), { encoding: 'buffer' }).map((name) => fromBytes(Buffer.from(name)));
}
