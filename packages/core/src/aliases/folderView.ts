/** Folders as a plan sees them: what lies in each, which names are free, and what goes along with a renamed one. */
import { grouped } from '../lists/index.js';
import type { LinkForm } from './names.js';

export interface SeenEntry {
  name: string;
  form: LinkForm | 'other';
  content: string;
  inode: number;
}

/** What a folder holds, and which folder that is: another may stand under its name meanwhile. */
export interface Listing {
  inode: number;
  entries: readonly SeenEntry[];
}

export const below = (folder: string, name: string) => (folder === '/' ? `/${name}` : `${folder}/${name}`);

/** A name beside others that are alike. */
function numbered(name: string, n: number): string {
  const dot = name.lastIndexOf('.');
  return dot > 0 ? `${name.slice(0, dot)} (${n})${name.slice(dot)}` : `${name} (${n})`;
}

/** Whether a file's name is one that was wanted, numbered or not. */
export function isNameOf(file: string, name: string): boolean {
  const n = Number(/ \((\d+)\)(?:\.[^.]*)?$/.exec(file)?.[1] ?? 0);
  return file === name || (n > 1 && file === numbered(name, n));
}

/** By absolute paths. What the plan makes and removes is seen from then on. */
export class FolderView {
  /** Folders that nobody listed yet, and that were asked for. */
  readonly unseen = new Set<string>();
  private readonly seen = new Map<string, Map<string, SeenEntry>>();
  private readonly inodes = new Map<string, number>();
  private readonly byInode = new Map<string, Map<number, SeenEntry[]>>();
  private readonly taken = new Map<string, Set<string>>();
  /** Folders that get another name; the latest first, so that the deepest counts. */
  private readonly carried: { from: string; to: string }[] = [];

  /** `list` as `planLinks` is given it. */
  constructor(private readonly list: (folder: string) => Listing | null | undefined) {}

  /** By name; undefined where it cannot be seen. */
  entries(folder: string): Map<string, SeenEntry> | undefined {
    const known = this.seen.get(folder);
    if (known) return known;
    const listing = this.list(folder);
    if (listing === undefined) this.unseen.add(folder);
    if (!listing) return undefined;
    const map = new Map(listing.entries.map((e) => [e.name, e]));
    this.seen.set(folder, map);
    this.inodes.set(folder, listing.inode);
    return map;
  }

  /** Which folder stands under a path; undefined for one that was not seen. */
  inodeOf(folder: string): number | undefined {
    return this.inodes.get(folder);
  }

  withInode(folder: string, inode: number): readonly SeenEntry[] {
    let entries = this.byInode.get(folder);
    if (!entries) {
      entries = grouped(this.entries(folder)?.values() ?? [], (e) => e.inode);
      this.byInode.set(folder, entries);
    }
    return entries.get(inode) ?? [];
  }

  /** A folder that the plan makes, and that is empty. */
  made(folder: string): void {
    this.seen.set(folder, new Map());
  }

  removed(folder: string, name: string): void {
    this.entries(folder)?.delete(name);
  }

  /** A folder gets another name: what lies in it goes along. */
  carry(from: string, to: string, inode: number): void {
    this.carried.unshift({ from, to });
    const inside = this.entries(from);
    if (inside) this.seen.set(to, inside);
    this.inodes.set(to, inode);
  }

  /** Where a path is once folders have their new names. */
  carriedTo(path: string): string {
    const c = this.carried.find(({ from }) => path.startsWith(`${from}/`));
    return c ? c.to + path.slice(c.from.length) : path;
  }

  /** Where it was before. */
  carriedBack(path: string): string {
    const c = this.carried.find(({ to }) => path.startsWith(`${to}/`));
    return c ? c.from + path.slice(c.to.length) : path;
  }

  /** A name that is free in a folder, and taken from now on: this one, or numbered. */
  takeName(folder: string, name: string): string {
    let names = this.taken.get(folder);
    if (!names) {
      // case is not told apart on every file system
      names = new Set([...(this.entries(folder)?.keys() ?? [])].map((n) => n.toLowerCase()));
      this.taken.set(folder, names);
    }
    let free = name;
    for (let n = 2; names.has(free.toLowerCase()); n++) free = numbered(name, n);
    names.add(free.toLowerCase());
    return free;
  }
}
