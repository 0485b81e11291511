/**
 * Joins what vanished and what appeared in one look at a tree: renames, moves and exchanges, by inode number and birth
 * time. Our own; the rules are those of docs/models.md 6 as far as an index can apply them without reading content.
 */
import type { EntryType } from '../kinds/index.js';

export interface SeenEntry {
  type: EntryType;
  name: string;
  size: number;
  mtime: number;
  /** 0 where the file system keeps none. */
  birth: number;
  inode: number;
}

export interface KnownEntry extends SeenEntry {
  id: number;
}

/**
 * Whether an entry that appeared is the one that vanished. Without birth times the name or the content's date must
 * agree.
 */
export function isSameEntry(gone: SeenEntry, appeared: SeenEntry): boolean {
  if (gone.inode !== appeared.inode || gone.type !== appeared.type) return false;
  if (gone.birth !== 0 && appeared.birth !== 0) return gone.birth === appeared.birth;
  return gone.name === appeared.name || (gone.size === appeared.size && gone.mtime === appeared.mtime);
}

export interface Reconciled<A extends SeenEntry> {
  /** A vanished entry and where it appeared. */
  moves: { gone: KnownEntry; appeared: A }[];
  gone: KnownEntry[];
  appeared: A[];
}

/** Pairs vanished with appeared entries; each takes part at most once, in the order given. Linear. */
export function reconcile<A extends SeenEntry>(gone: readonly KnownEntry[], appeared: readonly A[]): Reconciled<A> {
  const byInode = new Map<number, KnownEntry[]>();
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
export interface Replaced<A extends SeenEntry> {
  row: KnownEntry;
  now: A;
}

/** An entry that is known from a moment ago, and where it is now. */
export interface Move<A extends SeenEntry> {
  row: KnownEntry;
  now: A;
}

export interface Rearranged<A extends SeenEntry> {
  moves: Move<A>[];
  gone: KnownEntry[];
  appeared: A[];
  /** Paths at which another file stands for good; `from` is what that was known as, where it was known. */
  replaced: (Replaced<A> & { from?: KnownEntry })[];
}

/**
 * Who is who after a look at the disk: what vanished is joined with what appeared, and files that went round between
 * paths that are all still there (two exchanged, three rotated, one gone on and another in its place) are followed each
 * to where it is. At a path that a file left for a backup's name another stays: that is how programs save. A file saved
 * over one that is no more stays at that path, as what it was. Without birth times only what vanished and appeared is
 * joined. Linear but for chains that come undone, which are as long as they are.
 *
 * @example rearrange([], [], [{ row: a, now: b }, { row: b, now: a }]).moves // both, each at the other's path
 */
export function rearrange<A extends SeenEntry>(
  gone: readonly KnownEntry[],
  appeared: readonly A[],
  replaced: readonly Replaced<A>[],
): Rearranged<A> {
  const first = reconcile(gone, appeared);
  const isTold = (row: KnownEntry) => row.type !== 'folder' && row.birth !== 0;
  const wasGone = new Map(first.gone.filter(isTold).map((row) => [row.inode, row]));
  const wasReplaced = new Map(replaced.filter((r) => isTold(r.row)).map((r) => [r.row.inode, r]));
  const isNowAt = new Map(replaced.map((r) => [r.now.inode, r]));
  const appearedAt = new Map(first.appeared.map((a) => [a.inode, a]));
  /** What is known of the file that stands at the path now. */
  const fromOf = (r: Replaced<A>): KnownEntry | undefined =>
    [wasReplaced.get(r.now.inode)?.row, wasGone.get(r.now.inode)].find((row) => row && sameBirth(row, r.now));
  /** Where the file went that stood at the path: to another of these, to an entry that appeared, or nowhere. */
  const wentTo = (r: Replaced<A>): { path: Replaced<A> } | { entry: A; isBackup: boolean } | undefined => {
    const there = isNowAt.get(r.row.inode);
    if (there && sameBirth(r.row, there.now)) return { path: there };
    const entry = appearedAt.get(r.row.inode);
    if (!entry || !sameBirth(r.row, entry)) return undefined;
    return { entry, isBackup: isBackupName(entry.name, r.row.name) };
  };
  const going = new Map<Replaced<A>, NonNullable<ReturnType<typeof wentTo>>>();
  for (const r of replaced) {
    const to = fromOf(r) && wentTo(r);
    if (to && !('isBackup' in to && to.isBackup)) going.set(r, to);
  }
  // one that would come to where somebody stays who left a backup stays as well
  for (let before = -1; before !== going.size;) {
    before = going.size;
    for (const [r, to] of going) if ('path' in to && !going.has(to.path) && wentTo(to.path)) going.delete(r);
  }
  const moves: Move<A>[] = first.moves.map((m) => ({ row: m.gone, now: m.appeared }));
  const left = new Set<KnownEntry>();
  const arrived = new Set<A>();
  const overwritten = new Set<Replaced<A>>();
  /** At a path that was left came a file whose own path a new one took: as what that was it stays there. */
  const fresh: A[] = [];
  for (const [r, to] of going) {
    if ('entry' in to) arrived.add(to.entry);
    else if (!going.has(to.path)) overwritten.add(to.path);
    moves.push({ row: r.row, now: 'entry' in to ? to.entry : to.path.now });
    const from = fromOf(r)!;
    const comes = wasReplaced.get(from.inode);
    if (comes?.row === from) {
      if (!going.has(comes)) fresh.push(r.now);
    } else {
      moves.push({ row: from, now: r.now });
      left.add(from);
    }
  }
  return {
    moves,
    gone: [...first.gone.filter((row) => !left.has(row)), ...[...overwritten].map((r) => r.row)],
    appeared: [...first.appeared.filter((entry) => !arrived.has(entry)), ...fresh],
    replaced: replaced.flatMap((r) => (going.has(r) || overwritten.has(r) ? [] : [{ ...r, from: fromOf(r) }])),
  };
}

// without birth times an exchange cannot be told from two inode numbers used again
const sameBirth = (a: SeenEntry, b: SeenEntry) => a.type === b.type && a.birth !== 0 && a.birth === b.birth;

/**
 * Whether a name is one that programs and people give to what is kept beside the file itself. Common practice; `of` is
 * the file's own name, after which numbered ones (`log.1`) are told.
 */
export function isBackupName(name: string, of: string): boolean {
  const isOne = (text: string) => /(\.(bak|backup|orig|old|save|sav|rej)|~|#)$|\b(copy|backup)\b/i.test(text);
  if (isOne(of)) return false;
  return isOne(name) || (name.startsWith(`${of}.`) && /^\d+(\.\w+)?$/.test(name.slice(of.length + 1)));
}
