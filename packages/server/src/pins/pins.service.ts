/** The pin strip: which things, in which order. Pins of what lies in the bin keep their place and are not shown. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { PinId, PinTarget, PinView, ShortcutId, TagId } from '@rellin/contract';
import type { ActTx } from '../journal/actTx.js';
import { JournalService } from '../journal/journal.service.js';
import type { JournaledTable } from '../journal/topics.js';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from '../settings/settings.service.js';
import { PinsRepository, type PinRow } from './pins.repository.js';

/** What a pin is of. */
export interface Pinned {
  target: PinTarget;
  id: string;
}

const COLUMN: Record<PinTarget, string> = {
  shortcut: 'shortcut_id',
  collection: 'collection_id',
  tag: 'tag_id',
  search: 'search_id',
};
/** The journaled table of what is pinned. */
const TABLE = {
  shortcut: 'shortcut',
  collection: 'collection',
  tag: 'tag',
  search: 'saved_search',
} as const satisfies Record<PinTarget, JournaledTable>;

/** Slots 1 to 9 have their digit as key. */
function keyOfSlot(slot: number): string | null {
  return slot <= 9 ? String(slot) : null;
}

@Injectable()
export class PinsService {
  constructor(
    private readonly rows: PinsRepository,
    private readonly journal: JournalService,
    private readonly settings: SettingsService,
  ) {}

  async list(): Promise<PinView[]> {
    return (await this.rows.strip()).map((row, i) => ({
      id: row.id,
      target: row.target,
      targetId: row.target_id,
      slot: i + 1,
      key: keyOfSlot(i + 1),
      name: row.name,
      kind: row.kind,
      state: row.state,
      count: row.count,
      fresh: row.fresh,
      colour: row.colour,
      aside: row.aside,
      kept: row.kept,
    }));
  }

  /** Shortcut id → slot. */
  async slots(): Promise<Map<string, number>> {
    const rows = await this.rows.strip();
    return new Map(rows.flatMap((row, i) => (row.target === 'shortcut' ? [[row.target_id, i + 1] as const] : [])));
  }

  /** Within an act; nothing where it is not pinned. */
  async unpinShortcut(tx: ActTx, shortcutId: ShortcutId): Promise<void> {
    for (const { id } of await this.rows.ofShortcuts([shortcutId], tx.manager)) await tx.remove('pin', id);
  }

  /** Within an act that puts it back: where the strip filled up meanwhile, it comes without its pin. */
  async unpinWhereFull(tx: ActTx, shortcutId: ShortcutId): Promise<void> {
    const { pinLimit } = await this.settings.all();
    if ((await this.rows.strip(tx.manager)).length >= pinLimit) await this.unpinShortcut(tx, shortcutId);
  }

  /** Within an act that removes a tag. */
  async unpinTag(tx: ActTx, tagId: TagId): Promise<void> {
    for (const id of await this.rows.ofTag(tagId, tx.manager)) await tx.remove('pin', id);
  }

  /** Within an act that makes one of several shortcuts: it gets a pin of the others where it has none. */
  async handOver(tx: ActTx, kept: ShortcutId, others: readonly ShortcutId[]): Promise<void> {
    const pins = await this.rows.ofShortcuts([kept, ...others], tx.manager);
    if (pins[0] && !pins.some((pin) => pin.of === kept)) await tx.update('pin', pins[0].id, { shortcut_id: kept });
  }

  /** The point between the neighbours of a slot (from 1), the rows without the one that moves. */
  private sortFor(rows: PinRow[], slot: number): number {
    const at = Math.max(0, Math.min(rows.length, slot - 1));
    const before = rows[at - 1]?.sort;
    const after = rows[at]?.sort;
    if (before === undefined) return after === undefined ? 1 : after - 1;
    return after === undefined ? before + 1 : (before + after) / 2;
  }

  async insert(tx: ActTx, { target, id }: Pinned, slot?: number): Promise<void> {
    const { pinLimit } = await this.settings.all();
    const rows = await this.rows.strip(tx.manager);
    if (rows.some((row) => row.target === target && row.target_id === id))
      throw new Refusal('conflict', 'It is pinned already.');
    if (rows.length >= pinLimit)
      throw new Refusal('conflict', `The strip is full: ${pinLimit} pins is what you chose.`, {
        remedy: 'Unpin one, or allow more in Settings.',
      });
    await tx.insert('pin', {
      id: randomUUID(),
      [COLUMN[target]]: id,
      aside: false,
      sort: this.sortFor(rows, slot ?? rows.length + 1),
    });
  }

  async pin(what: Pinned, slot?: number): Promise<void> {
    let name = '';
    await this.journal.act({ act: 'pin', summary: () => `Pinned “${name}”` }, async (tx) => {
      const row = await tx.need(TABLE[what.target], what.id, `That ${what.target}`);
      if ('removed_at' in row && row.removed_at) throw new Refusal('conflict', 'It is in the bin; put it back first.');
      name = row.name;
      await this.insert(tx, what, slot);
    });
  }

  /**
   * Several shortcuts at the strip's end, in one act; those pinned already stay where they are. All of them, or none.
   */
  async pinMany(ids: string[]): Promise<void> {
    await this.journal.act({ act: 'pin', summary: `Pinned ${ids.length} shortcuts` }, async (tx) => {
      const { pinLimit } = await this.settings.all();
      const rows = await this.rows.strip(tx.manager);
      const pinned = new Set(rows.map((r) => r.target_id));
      const fresh = ids.filter((id) => !pinned.has(id));
      const room = pinLimit - rows.length;
      if (fresh.length > room)
        throw new Refusal(
          'conflict',
          `The strip has room for ${Math.max(0, room)} more, and ${fresh.length} were to be pinned; none was.`,
          { remedy: 'Unpin some, or allow more in Settings.' },
        );
      for (const id of fresh) {
        const row = await tx.need('shortcut', id, 'That shortcut');
        if ('removed_at' in row && row.removed_at)
          throw new Refusal('conflict', 'It is in the bin; put it back first.');
        await this.insert(tx, { target: 'shortcut', id });
      }
    });
  }

  /** As if all had been where they are for so many weeks: what was pinned a moment ago is left alone by the plan. */
  async placedSince(weeks: number): Promise<void> {
    await this.rows.placedSince(weeks);
  }

  /** Into the menu at the strip's end for good, or back onto the strip. */
  async putAside(id: PinId, aside: boolean): Promise<void> {
    const row = await this.need(id);
    const summary = aside ? `Put the pin “${row.name}” aside` : `Put the pin “${row.name}” back on the strip`;
    await this.journal.act({ act: 'put-pin-aside', summary }, (tx) => tx.update('pin', id, { aside }));
  }

  /** The plan leaves it where it is, or may move it again. */
  async keep(id: PinId, kept: boolean): Promise<void> {
    const row = await this.need(id);
    const summary = kept ? `Kept the pin “${row.name}” where it is` : `Let the plan move the pin “${row.name}”`;
    await this.journal.act({ act: 'keep-pin', summary }, (tx) => tx.update('pin', id, { kept }));
  }

  private async need(id: PinId): Promise<PinRow> {
    const row = (await this.rows.strip()).find((r) => r.id === id);
    if (!row) throw new Refusal('not-found', 'That pin is not on the strip any more.');
    return row;
  }

  async move(id: PinId, slot: number): Promise<void> {
    let name = '';
    await this.journal.act({ act: 'move-pin', summary: () => `Moved the pin “${name}” to ${slot}` }, async (tx) => {
      const rows = await this.rows.strip(tx.manager);
      const own = rows.find((row) => row.id === id);
      if (!own) throw new Refusal('not-found', 'That pin is not on the strip any more.');
      name = own.name;
      const sort = this.sortFor(
        rows.filter((row) => row !== own),
        slot,
      );
      await tx.update('pin', id, { sort, placed_at: new Date().toISOString() });
    });
  }

  async unpin(id: PinId): Promise<void> {
    const row = await this.need(id);
    await this.journal.act({ act: 'unpin', summary: `Unpinned “${row.name}”` }, (tx) => tx.remove('pin', id));
  }
}
