/** Does what suggestions say, within the act that applies them; each row is changed by the room it belongs to. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { Suggestion } from '@rellin/core/plan';
import type { ShortcutId } from '@rellin/contract';
import { BoardItemsService } from '../boards/boardItems.service.js';
import { CollectionsService } from '../collections/collections.service.js';
import type { ActTx } from '../journal/actTx.js';
import { PinsService } from '../pins/pins.service.js';
import { ShortcutsService, type PreparedShortcut } from '../shortcuts/shortcuts.service.js';
import { TagsService } from '../tags/tags.service.js';

/** Suggestions to be applied, with the shortcuts that some of them make. */
export interface Chosen {
  suggestions: readonly Suggestion[];
  made: ReadonlyMap<Suggestion, PreparedShortcut>;
}

@Injectable()
export class PlanApplier {
  constructor(
    private readonly boards: BoardItemsService,
    private readonly collections: CollectionsService,
    private readonly pins: PinsService,
    private readonly shortcuts: ShortcutsService,
    private readonly tags: TagsService,
  ) {}

  /** All that must be known of them before an act begins. */
  async prepare(suggestions: readonly Suggestion[]): Promise<Chosen> {
    const made = new Map<Suggestion, PreparedShortcut>();
    for (const s of suggestions) {
      if (!s.original) continue;
      const { placeId, originalId } = s.original;
      made.set(s, await this.shortcuts.prepare({ placeId, originalId }));
    }
    return { suggestions, made };
  }

  async apply(tx: ActTx, chosen: Chosen): Promise<void> {
    // what leaves the strip first, so that there is room
    const order = [...chosen.suggestions].sort((a, b) => Number(b.kind === 'unpin') - Number(a.kind === 'unpin'));
    for (const s of order) await this.applyOne(tx, s, chosen.made.get(s));
    await this.keepForecast(tx, chosen);
  }

  /** After the act. */
  applied({ made }: Chosen): void {
    if (made.size > 0) this.shortcuts.inserted();
  }

  private async applyOne(tx: ActTx, s: Suggestion, made: PreparedShortcut | undefined): Promise<void> {
    const [first, second] = s.ids;
    switch (s.kind) {
      case 'exchange':
        await this.pins.unpinShortcut(tx, second!);
        return this.pins.insert(tx, { target: 'shortcut', id: first! }, s.slot! + 1);
      case 'pin':
        return this.pins.insert(tx, { target: 'shortcut', id: first! }, s.slot! + 1);
      case 'unpin':
        return this.pins.unpinShortcut(tx, first!);
      case 'key':
        return this.shortcuts.giveKeys(tx, first!, s.key!.keys);
      case 'merge':
        return this.merge(tx, first!, s.ids.slice(1));
      case 'drop':
        return this.shortcuts.intoBin(tx, [first!]);
      case 'add':
        return this.shortcuts.insert(tx, made!);
      case 'split':
        return this.collections.split(tx, first!, [...s.grouping!.groups]);
    }
  }

  /** Makes one of several shortcuts to one original: the one that stays takes over what hangs on the others. */
  private async merge(tx: ActTx, kept: ShortcutId, others: readonly ShortcutId[]): Promise<void> {
    for (const room of [this.tags, this.collections, this.boards, this.pins]) await room.handOver(tx, kept, others);
    await this.shortcuts.takeOver(tx, kept, others);
  }

  /** What it is to save, by the shortcuts it is to save it with: an undo takes that back as well. */
  private async keepForecast(tx: ActTx, { suggestions, made }: Chosen): Promise<void> {
    const timed = suggestions.flatMap((s) => {
      const id = made.get(s)?.id ?? s.ids[0];
      return s.before === null || s.after === null || s.kind === 'split' || id === undefined
        ? []
        : [{ id, saved: s.before - s.after, gain: s.gain }];
    });
    if (timed.length === 0) return;
    await tx.insert('plan_forecast', {
      id: randomUUID(),
      at: new Date().toISOString(),
      shortcuts: timed.map(({ id, saved }) => ({ id, saved })),
      seconds: timed.reduce((sum, one) => sum + one.gain, 0),
    });
  }
}
