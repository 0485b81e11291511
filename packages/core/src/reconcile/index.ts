/**
 * Joins what vanished and what appeared in one look at a tree: renames, moves and exchanges, by inode number and birth
 * time. Our own; the rules are those of models.md 6 as far as an index can apply them without reading content.
 */
import type { EntryType } from '../kinds/index.js';

export interface Seen {
  type: EntryType;
  name: string;
  size: number;
  mtime: number;
  /** 0 where the file system keeps none. */
  birth: number;
  inode: number;
}

export interface Known extends Seen {
  id: number;
}

/** Whether an entry that appeared is the one that vanished. Without birth times the name or the content's date must agree. */
export function isSameEntry(gone: Seen, appeared: Seen): boolean {
  if (gone.inode !== appeared.inode || gone.type !== appeared.type) return false;
  if (gone.birth !== 0 && appeared.birth !== 0) return gone.birth === appeared.birth;
  return gone.name === appeared.name || (gone.size === appeared.size && gone.mtime === appeared.mtime);
}

export interface Reconciled<A extends Seen> {
  /** A vanished entry and where it appeared. */
  moves: { gone: Known; appeared: A }[];
  gone: Known[];
  appeared: A[];
}

/** Pairs vanished with appeared entries; each takes part at most once, in the order given. Linear. */
export function reconcile<A extends Seen>(gone: readonly Known[], appeared: readonly A[]): Reconciled<A> {
  const byInode = new Map<number, Known[]>();
  for (const row of gone) {
    const rows = byInode.get(row.inode);
    if (rows) rows.push(row);
    else byInode.set(row.inode, [row]);
  }
  const moves: Reconciled<A>['moves'] = [];
  const rest: A[] = [];
  const moved = new Set<number>();
  for (const entry of appeared) {
    const row = byInode.get(entry.inode)?.find((r) => !moved.has(r.id) && isSameEntry(r, entry));
    if (row) {
      moved.add(row.id);
      moves.push({ gone: row, appeared: entry });
    } else rest.push(entry);
  }
  return { moves, gone: gone.filter((r) => !moved.has(r.id)), appeared: rest };
}

/** A known entry at whose path another file now stands. */
export interface Replaced<A extends Seen> {
  row: Known;
  now: A;
}

/** Finds pairs of known files that exchanged their paths: each now stands where the other was. */
export function findSwaps<A extends Seen>(replaced: readonly Replaced<A>[]): [Replaced<A>, Replaced<A>][] {
  const byOldInode = new Map(replaced.map((r) => [r.row.inode, r]));
  const swaps: [Replaced<A>, Replaced<A>][] = [];
  for (const a of replaced) {
    const b = byOldInode.get(a.now.inode);
    if (!b || b === a || b.now.inode !== a.row.inode || a.row.id > b.row.id) continue;
    if (sameBirth(a.row, b.now) && sameBirth(b.row, a.now)) swaps.push([a, b]);
  }
  return swaps;
}

// without birth times an exchange cannot be told from two inode numbers used again
const sameBirth = (a: Seen, b: Seen) => a.type === b.type && a.birth !== 0 && a.birth === b.birth;
