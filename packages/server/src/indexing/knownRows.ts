/** What the index holds of a place, in columns grouped by folder, for one comparison with the disk. */
import type { PlaceId } from '@rellin/contract';
import type { Client } from 'pg';
import { partitionName } from '../database/partition.js';
import type { KnownEntry } from '@rellin/core/reconcile';
import type { EntryType } from '@rellin/core/kinds';
import { copyOut } from './copyOut.js';

export class KnownRows {
  readonly ids: number[] = [];
  readonly parents: number[] = [];
  readonly names: string[] = [];
  readonly types: EntryType[] = [];
  readonly sizes: number[] = [];
  readonly mtimes: number[] = [];
  readonly births: number[] = [];
  readonly inodes: number[] = [];
  /** 1 once the walk met the row. */
  met = new Uint8Array(0);
  private readonly range = new Map<number, [number, number]>();
  private readonly folderByInode = new Map<number, number>();

  static async load(client: Client, placeId: PlaceId): Promise<KnownRows> {
    const rows = new KnownRows();
    await copyOut(
      client,
      `SELECT id, parent_id, type, size, mtime, birth, inode, name FROM ${partitionName(placeId)} ORDER BY parent_id`,
      (row) => {
        const i = rows.ids.length;
        rows.ids.push(row.whole());
        const parent = row.whole();
        rows.parents.push(parent);
        const type = row.text() as EntryType;
        rows.types.push(type);
        rows.sizes.push(row.whole());
        rows.mtimes.push(row.float());
        rows.births.push(row.float());
        const inode = row.float();
        rows.inodes.push(inode);
        rows.names.push(row.text());
        const range = rows.range.get(parent);
        if (range) range[1] = i + 1;
        else rows.range.set(parent, [i, i + 1]);
        if (type === 'folder') rows.folderByInode.set(inode, i);
      },
    );
    rows.met = new Uint8Array(rows.ids.length);
    return rows;
  }

  /** Name → row number for the children of a folder. */
  childrenOf(id: number): Map<string, number> {
    const out = new Map<string, number>();
    const range = this.range.get(id);
    if (range) for (let i = range[0]; i < range[1]; i++) out.set(this.names[i]!, i);
    return out;
  }

  /** A folder row of this inode and birth that the walk has not met yet. */
  unmetFolder(inode: number, birth: number): number | undefined {
    const i = this.folderByInode.get(inode);
    if (i === undefined || this.met[i] === 1) return undefined;
    return this.births[i] === birth && birth !== 0 ? i : undefined;
  }

  known(i: number): KnownEntry {
    return {
      id: this.ids[i]!,
      type: this.types[i]!,
      name: this.names[i]!,
      size: this.sizes[i]!,
      mtime: this.mtimes[i]!,
      birth: this.births[i]!,
      inode: this.inodes[i]!,
    };
  }

  /** Marks all below a folder as met: it could not be read, which says nothing about what lies in it. */
  keepBelow(id: number): void {
    const range = this.range.get(id);
    if (!range) return;
    for (let i = range[0]; i < range[1]; i++) {
      this.met[i] = 1;
      if (this.types[i] === 'folder') this.keepBelow(this.ids[i]!);
    }
  }
}
