/** Adding several at once, into collections, with tags and onto the strip: one act. No act here touches an original. */
import { Injectable } from '@nestjs/common';
import type { MeantView, NewShortcuts, ShortcutId, ShortcutsMade } from '@rellin/contract';
import { CollectionsService } from '../collections/collections.service.js';
import { JournalService } from '../journal/journal.service.js';
import { PinsService } from '../pins/pins.service.js';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from '../settings/settings.service.js';
import { ShortcutsService, type PreparedShortcut } from '../shortcuts/shortcuts.service.js';
import { TagsService } from '../tags/tags.service.js';

/** So much of what was typed is told back. */
const MOST_TOLD = 80;

@Injectable()
export class NewShortcutsService {
  constructor(
    private readonly shortcuts: ShortcutsService,
    private readonly collections: CollectionsService,
    private readonly tags: TagsService,
    private readonly pins: PinsService,
    private readonly settings: SettingsService,
    private readonly journal: JournalService,
  ) {}

  /** What something typed would lead to, and what stands against it; nothing is changed. */
  async meant(typed: string): Promise<MeantView> {
    try {
      const { id, ...meant } = await this.shortcuts.meant(typed);
      const shortcut = id === undefined ? null : { id, name: (await this.shortcuts.need(id)).name };
      return { meant: { ...meant, shortcut }, trouble: null };
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      return { meant: null, trouble: { kind: error.kind, text: error.message } };
    }
  }

  /** What cannot be pointed to is left out and told; where that is all of it, nothing is done. */
  async add({ items, collectionIds = [], tagIds = [], pin }: NewShortcuts): Promise<ShortcutsMade> {
    const notMade: ShortcutsMade['notMade'] = [];
    const ids: ShortcutId[] = [];
    const made = new Map<ShortcutId, PreparedShortcut>();
    for (const item of items)
      try {
        const one = await this.shortcuts.gather([item]);
        // the same twice among them is one
        const twin = one.made[0] && [...made.values()].find((m) => isSame(m, one.made[0]!));
        for (const fresh of twin ? [] : one.made) made.set(fresh.id, fresh);
        ids.push(...(twin ? [twin.id] : one.ids));
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        const name = item.name ?? item.typed ?? item.url ?? '';
        notMade.push({ name: name.slice(0, MOST_TOLD), reason: error.message });
      }
    if (ids.length === 0) throw new Refusal('not-valid', notMade[0]?.reason ?? 'There is nothing to add.');
    const all = [...new Set(ids)];
    let pinned = 0;
    const what = () => (all.length === 1 ? `“${nameOfFirst(made) ?? 'one thing'}”` : `${all.length} shortcuts`);
    await this.journal.act({ act: 'add-shortcut', summary: () => `Added ${what()}` }, async (tx) => {
      await this.shortcuts.insertAll(tx, [...made.values()]);
      for (const id of collectionIds) await this.collections.putWithin(tx, id, all);
      for (const id of tagIds) await this.tags.putOnShortcuts(tx, id, all);
      if (!pin) return;
      const strip = await this.pins.slots();
      const { pinLimit } = await this.settings.all();
      const room = pinLimit - (await this.pins.list()).length;
      for (const id of all.filter((one) => !strip.has(one)).slice(0, Math.max(0, room))) {
        await this.pins.insert(tx, { target: 'shortcut', id });
        pinned++;
      }
    });
    this.shortcuts.inserted();
    return { ids: all, added: made.size, pinned, notMade };
  }
}

const nameOfFirst = (made: ReadonlyMap<ShortcutId, PreparedShortcut>) => made.values().next().value?.name;

const isSame = (a: PreparedShortcut, b: PreparedShortcut) =>
  a.row.place_id === b.row.place_id &&
  a.row.original_id === b.row.original_id &&
  a.row.program_id === b.row.program_id &&
  a.row.url === b.row.url;
