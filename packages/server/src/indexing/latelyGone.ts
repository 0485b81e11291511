/**
 * What went from the index a moment ago. Of a move the half that leaves may be seen well before the half that arrives,
 * as where a folder above is renamed in between; what arrives then gets the id back that everything points to.
 */
import type { EntryType } from '@rellin/core/kinds';
import { isSameEntry, type KnownEntry, type SeenEntry } from '@rellin/core/reconcile';

const REMEMBERED_MS = 10_000;
const MOST = 50_000;

export interface Gone extends KnownEntry {
  type: EntryType;
  firstSeen: string;
  cameFrom: string | null;
}

export class LatelyGone {
  private readonly byInode = new Map<number, Gone & { until: number }>();

  constructor(private readonly now: () => number = Date.now) {}

  remember(rows: readonly Gone[]): void {
    const now = this.now();
    // in the order they went: the first that is remembered still ends it
    for (const [inode, { until }] of this.byInode) {
      if (until > now) break;
      this.byInode.delete(inode);
    }
    for (const row of rows) {
      if (this.byInode.size >= MOST) return;
      this.byInode.delete(row.inode);
      this.byInode.set(row.inode, { ...row, until: now + REMEMBERED_MS });
    }
  }

  /** The row that an entry was; it stays remembered until it is written again. */
  find(entry: SeenEntry): Gone | undefined {
    const row = this.byInode.get(entry.inode);
    return row && row.until > this.now() && isSameEntry(row, entry) ? row : undefined;
  }

  forget(rows: readonly Gone[]): void {
    for (const row of rows) if (this.byInode.get(row.inode)?.id === row.id) this.byInode.delete(row.inode);
  }
}
