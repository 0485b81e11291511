/**
 * Watches the folders of one place, one system watch a folder. Events only mark names as dirty; what is true is read
 * from the disk and compared with the index, so that a lost or doubled event does no harm. Bursts are folded.
 */
import { readFileSync, watch, type FSWatcher } from 'node:fs';
import { Buffer } from 'node:buffer';
import type { Client } from 'pg';
import { fromBytes } from '@rellin/core/paths';
import type { EntryType } from '@rellin/core/kinds';
import { isSameEntry, type Known } from '@rellin/core/reconcile';
import { partitionName } from '../database/partition.js';
import { absolute, diskPath, type DiskPath } from '../disk/paths.js';
import { entryStat } from '../disk/stat.js';
import {
  compare,
  noDifferences,
  writeDifferences,
  type Appeared,
  type Differences,
  type Written,
} from './differences.js';
import { compileExcludes, type Excludes } from './excludes.js';
import { ROOT_ID, rootEntry } from './scan.js';
import { lstatSync, readdirSync } from '../disk/port.js';

const QUIET_MS = 40;
const LONGEST_MS = 400;
/** So often a disk that fails is asked for the same again. */
const MOST_TRIES = 5;
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
  /** As the index has it, in milliseconds: true just after the place was looked through. */
  mtime: number;
  watcher?: FSWatcher;
}

export interface WatchHost {
  /** Runs work on the database one piece at a time. */
  exclusively<T>(work: (client: Client) => Promise<T>): Promise<T>;
  onWritten(placeId: number, written: Written): void;
  onRootGone(placeId: number): void;
  /** More happened than could be heard: the place is to be looked through. */
  onOverflow(placeId: number): void;
  onTrouble(placeId: number, error: Error): void;
}

export class PlaceWatcher {
  private readonly folders = new Map<number, Folder>();
  private dirty = new Map<number, Set<string> | 'all'>();
  private timer: NodeJS.Timeout | undefined;
  private firstDirtyAt = 0;
  /** How often in a row a look met what could not be looked at. */
  private failedLooks = 0;
  private running: Promise<void> = Promise.resolve();
  private excludes: Excludes = compileExcludes([]);
  private closed = false;
  limited = false;

  constructor(
    readonly placeId: number,
    readonly root: string,
    readonly rootInode: number,
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
      if (isOlder(folder, at)) this.mark(id, undefined);
    }
  }

  /**
   * Goes on after the place was looked through again, before anything else is taken up: what it knows of folders must be
   * what the index has now. The watches stay: closed and set anew, they would lose what happened meanwhile.
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
    for (const id of this.folders.keys()) this.unwatch(id);
    this.folders.clear();
    this.dirty.clear();
  }

  mayHaveMissed(): void {
    this.host.onOverflow(this.placeId);
  }

  /** Takes up all pending changes, and the whole of one folder where given, and waits until they are in the index. */
  async settle(folderId?: number): Promise<void> {
    if (folderId !== undefined) this.dirty.set(folderId, 'all');
    else await new Promise((resolve) => setTimeout(resolve, 5)); // lets the kernel's queue reach us
    this.fire();
    await this.running;
  }

  /** Looks at folders that have no watch, as if something had happened in each. */
  poll(ids: readonly number[]): void {
    for (const id of ids) {
      const folder = this.folders.get(id);
      if (folder && !folder.watcher) this.mark(id, undefined);
    }
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

  private watchFolder(id: number): void {
    const folder = this.folders.get(id);
    const path = this.pathOf(id);
    if (!folder || path === undefined || folder.watcher) return;
    if (inUse >= watchLimit() * LIMIT_SHARE) {
      this.limited = true;
      return;
    }
    this.setWatch(id, folder, diskPath(absolute(this.root, path)));
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

  private mark(folderId: number, name: string | undefined): void {
    if (this.closed) return;
    const marked = this.dirty.get(folderId);
    if (name === undefined) this.dirty.set(folderId, 'all');
    else if (marked === undefined) this.dirty.set(folderId, new Set([name]));
    else if (marked !== 'all') {
      marked.add(name);
      if (marked.size > 500) this.dirty.set(folderId, 'all');
    }
    const now = Date.now();
    if (this.timer === undefined) this.firstDirtyAt = now;
    clearTimeout(this.timer);
    const wait = Math.max(0, Math.min(QUIET_MS, this.firstDirtyAt + LONGEST_MS - now));
    this.timer = setTimeout(() => this.fire(), wait);
  }

  private fire(): void {
    clearTimeout(this.timer);
    this.timer = undefined;
    this.running = this.running
      .then(() => this.process())
      .catch((error: Error) => this.host.onTrouble(this.placeId, error));
  }

  private async process(): Promise<void> {
    if (this.dirty.size === 0 || this.closed) return;
    // an unmounted place looks empty: its entries are away, not gone
    if (rootEntry(this.root)?.inode !== this.rootInode) {
      this.dirty.clear();
      this.host.onRootGone(this.placeId);
      return;
    }
    const written = await this.host.exclusively(async (client) => {
      let look = await this.look(client);
      if (look.found.gone.length > 0) {
        // the other half of a move may still be on its way
        await new Promise((resolve) => setTimeout(resolve, QUIET_MS));
        if (this.dirty.size > 0) look = await this.look(client, look);
      }
      if (this.closed) return undefined;
      if (look.isIncomplete && this.failedLooks < MOST_TRIES) {
        // a disk that fails is asked for all of it again: what moved is known only from both of its ends
        this.failedLooks++;
        addAll(this.dirty, look.dirty);
        this.timer ??= setTimeout(() => this.fire(), LONGEST_MS);
        return undefined;
      }
      this.failedLooks = 0;
      if (isEmpty(look.found)) return undefined;
      await client.query('BEGIN');
      try {
        const result = await writeDifferences(client, this.placeId, look.found, look.nextId, new Date().toISOString());
        await client.query('COMMIT');
        await this.follow(client, look.found);
        return result;
      } catch (error) {
        await client.query('ROLLBACK').catch(() => undefined);
        addAll(this.dirty, look.dirty);
        throw error;
      }
    });
    if (written) this.host.onWritten(this.placeId, written);
  }

  /** Compares what is dirty with the index. With an earlier look, its dirty names are looked at again together. */
  private async look(client: Client, earlier?: Look): Promise<Look> {
    const dirty = this.dirty;
    this.dirty = new Map();
    if (earlier) addAll(dirty, earlier.dirty);
    const status = await client.query(`SELECT next_id FROM place_status WHERE place_id = $1`, [this.placeId]);
    const look: Look = {
      dirty,
      found: noDifferences(),
      appeared: [],
      isIncomplete: false,
      nextId: Number((status.rows[0] as { next_id: string }).next_id),
    };
    for (const [id, names] of dirty) await this.lookAt(client, look, id, names);
    this.expand(look);
    return look;
  }

  private async lookAt(client: Client, look: Look, id: number, names: Set<string> | 'all'): Promise<void> {
    const path = this.pathOf(id);
    if (path === undefined) return;
    const base = absolute(this.root, path);
    let onDisk: string[];
    try {
      onDisk = names === 'all' ? listNames(base) : [...names];
    } catch (error) {
      // unreadable is not empty; and of one that is gone the parent is dirty too
      if ((error as NodeJS.ErrnoException).code === 'EIO') look.isIncomplete = true;
      return;
    }
    const rows = await this.rowsIn(client, id, names);
    for (const name of onDisk) {
      const entry = this.entryAt(base, path, name);
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

  private async rowsIn(client: Client, id: number, names: Set<string> | 'all'): Promise<Map<string, Known>> {
    const result = await client.query(
      `SELECT id, name, type, size, mtime, birth, inode FROM ${partitionName(this.placeId)}
       WHERE parent_id = $1 ${names === 'all' ? '' : 'AND name = ANY($2)'}`,
      names === 'all' ? [id] : [id, [...names]],
    );
    const rows = new Map<string, Known>();
    for (const r of result.rows as Record<string, string | number>[])
      rows.set(r['name'] as string, {
        id: Number(r['id']),
        name: r['name'] as string,
        type: r['type'] as EntryType,
        size: Number(r['size']),
        mtime: Number(r['mtime']),
        birth: Number(r['birth']),
        inode: Number(r['inode']),
      });
    return rows;
  }

  private entryAt(base: string, folder: string, name: string) {
    try {
      const s = lstatSync(diskPath(absolute(base, name)), { throwIfNoEntry: false });
      if (!s) return undefined;
      if (s.isDirectory() && this.excludes.isShut(s)) return undefined;
      const relative = folder === '' ? name : `${folder}/${name}`;
      return this.excludes.isExcluded(relative, name, s.isDirectory()) ? undefined : entryStat(s);
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      return code === 'ENOENT' || code === 'ENOTDIR' ? undefined : 'failed';
    }
  }

  /**
   * Sorts what appeared: a folder that vanished elsewhere in the same look has moved and keeps what lies in it; a new
   * one is listed to the bottom, since its own events came before it was watched.
   */
  private expand(look: Look): void {
    const { found } = look;
    const open = look.appeared.map((entry) => ({ entry, folder: this.pathOf(entry.parentId) }));
    for (let next = open.pop(); next; next = open.pop()) {
      const { entry, folder } = next;
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
      entry.id = look.nextId++;
      found.appeared.push(entry);
      if (folder === undefined) continue;
      const path = folder === '' ? entry.name : `${folder}/${entry.name}`;
      const base = absolute(this.root, path);
      for (const name of namesIn(base)) {
        const below = this.entryAt(base, path, name);
        if (below === 'failed') look.isIncomplete = true;
        else if (below) open.push({ entry: { ...below, name, parentId: entry.id, id: 0 }, folder: path });
      }
    }
    for (const entry of found.appeared) if (entry.id === 0) entry.id = look.nextId++;
  }

  /** Watches new folders and leaves those that went, after changes were written. */
  private async follow(client: Client, found: Differences): Promise<void> {
    const touchesFolders =
      found.movedFolders.length > 0 || [...found.gone, ...found.appeared].some((entry) => entry.type === 'folder');
    if (!touchesFolders) return;
    await this.bringAfter(client);
  }

  /**
   * Watches what the index has as folders now, and nothing else. What is new, or at another path, is looked at: what came
   * in between listing and watching told nobody.
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
    for (const id of changed) {
      this.watchFolder(id);
      this.mark(id, undefined);
    }
  }

  /** All folders of the place, as one text: names hold no stroke, and a row for each would cost more than the rest. */
  private async folderRows(client: Client): Promise<Map<number, Folder>> {
    const result = await client.query<{ all: string | null }>(
      `SELECT string_agg(id || '/' || parent_id || '/' || mtime || '/' || name, '/' ORDER BY id) AS all
       FROM ${partitionName(this.placeId)} WHERE type = 'folder'`,
    );
    const parts = result.rows[0]!.all?.split('/') ?? [];
    const folders = new Map<number, Folder>();
    for (let i = 0; i < parts.length; i += 4)
      folders.set(Number(parts[i]), {
        parentId: Number(parts[i + 1]),
        mtime: Number(parts[i + 2]),
        name: parts[i + 3]!,
      });
    return folders;
  }
}

interface Look {
  dirty: Map<number, Set<string> | 'all'>;
  found: Differences;
  /** Entries at paths the index does not know, before they are sorted. */
  appeared: Appeared[];
  nextId: number;
  /** The disk failed at some of it. */
  isIncomplete: boolean;
}

/** Marks what was to be looked at before together with what is. */
function addAll(dirty: Look['dirty'], more: Look['dirty']): void {
  for (const [id, names] of more) {
    const known = dirty.get(id);
    if (known === undefined || names === 'all') dirty.set(id, names);
    else if (known !== 'all') for (const name of names) known.add(name);
  }
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

/** Whether something came to a folder, or went, after it was looked through and before it was watched. */
function isOlder(folder: Folder, at: DiskPath): boolean {
  try {
    return lstatSync(at).mtimeMs !== folder.mtime;
  } catch {
    // gone or out of reach: the folder it lies in tells
    return false;
  }
}

function namesIn(base: string): string[] {
  try {
    return listNames(base);
  } catch {
    return [];
  }
}

function listNames(base: string): string[] {
  return readdirSync(diskPath(base), { encoding: 'buffer' }).map((name) => fromBytes(Buffer.from(name)));
}
