/** The pin strip: which shortcuts, in which order. Pins of shortcuts in the bin keep their place and are not shown. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { ShortcutState } from '@rellin/core/identity';
import type { Kind } from '@rellin/core/kinds';
import type { PinView } from '@rellin/contract';
import type { ActTx } from '../journal/actTx.js';
import { JournalService } from '../journal/journal.service.js';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from '../settings/settings.service.js';

interface PinRow {
  id: string;
  shortcut_id: string;
  sort: number;
  name: string;
  kind: Kind;
  state: ShortcutState;
}

/** Slots 1 to 9 have their digit as key. */
export function keyOfSlot(slot: number): string | null {
  return slot <= 9 ? String(slot) : null;
}

@Injectable()
export class PinsService {
  constructor(
    private readonly db: DataSource,
    private readonly journal: JournalService,
    private readonly settings: SettingsService,
  ) {}

  private async rows(manager: Pick<DataSource, 'query'> = this.db): Promise<PinRow[]> {
    return (await manager.query(
      `SELECT p.id, p.shortcut_id, p.sort, s.name, s.kind, s.state FROM pin p
       JOIN shortcut s ON s.id = p.shortcut_id WHERE s.removed_at IS NULL ORDER BY p.sort, p.id`,
    )) as PinRow[];
  }

  async list(): Promise<PinView[]> {
    return (await this.rows()).map((row, i) => ({
      id: row.id,
      shortcutId: row.shortcut_id,
      slot: i + 1,
      key: keyOfSlot(i + 1),
      name: row.name,
      kind: row.kind,
      state: row.state,
    }));
  }

  /** Shortcut id → slot. */
  async slots(): Promise<Map<string, number>> {
    return new Map((await this.rows()).map((row, i) => [row.shortcut_id, i + 1]));
  }

  async pinOf(shortcutId: string): Promise<{ id: string } | undefined> {
    const rows = (await this.db.query(`SELECT id FROM pin WHERE shortcut_id = $1`, [shortcutId])) as { id: string }[];
    return rows[0];
  }

  async isFull(): Promise<boolean> {
    return (await this.rows()).length >= (await this.settings.all()).pinLimit;
  }

  /** The point between the neighbours of a slot (from 1), the rows without the one that moves. */
  private sortFor(rows: PinRow[], slot: number): number {
    const at = Math.max(0, Math.min(rows.length, slot - 1));
    const before = rows[at - 1]?.sort;
    const after = rows[at]?.sort;
    if (before === undefined) return after === undefined ? 1 : after - 1;
    return after === undefined ? before + 1 : (before + after) / 2;
  }

  async insert(tx: ActTx, shortcutId: string, slot?: number): Promise<void> {
    const { pinLimit } = await this.settings.all();
    const rows = await this.rows(tx.manager);
    if (rows.some((row) => row.shortcut_id === shortcutId)) throw new Refusal('conflict', 'It is pinned already.');
    if (rows.length >= pinLimit)
      throw new Refusal('conflict', `The strip is full: ${pinLimit} pins is what you chose.`, {
        remedy: 'Unpin one, or allow more in Settings.',
      });
    await tx.insert('pin', {
      id: randomUUID(),
      shortcut_id: shortcutId,
      sort: this.sortFor(rows, slot ?? rows.length + 1),
    });
  }

  async pin(shortcutId: string, slot?: number): Promise<void> {
    let name = '';
    await this.journal.act({ act: 'pin', summary: () => `Pinned “${name}”` }, async (tx) => {
      const shortcut = await tx.need('shortcut', shortcutId, 'That shortcut');
      if (shortcut['removed_at']) throw new Refusal('conflict', 'It is in the bin; put it back first.');
      name = String(shortcut['name']);
      await this.insert(tx, shortcutId, slot);
    });
  }

  async move(id: string, slot: number): Promise<void> {
    let name = '';
    await this.journal.act({ act: 'move-pin', summary: () => `Moved the pin “${name}” to ${slot}` }, async (tx) => {
      const rows = await this.rows(tx.manager);
      const own = rows.find((row) => row.id === id);
      if (!own) throw new Refusal('not-found', 'That pin is not on the strip any more.');
      name = own.name;
      const sort = this.sortFor(
        rows.filter((row) => row !== own),
        slot,
      );
      await tx.update('pin', id, { sort });
    });
  }

  async unpin(id: string): Promise<void> {
    const row = (await this.rows()).find((r) => r.id === id);
    if (!row) throw new Refusal('not-found', 'That pin is not on the strip any more.');
    await this.journal.act({ act: 'unpin', summary: `Unpinned “${row.name}”` }, (tx) => tx.remove('pin', id));
  }
}
