/** Adding several at once, into collections, with tags and onto the strip: one act. No act here touches an original. */
import { Injectable } from '@nestjs/common';
import type { MeantView, NewShortcut, NewShortcuts, ShortcutId, ShortcutsMade } from '@rellin/contract';
import { CollectionsService } from '../collections/collections.service.js';
import { JournalService } from '../journal/journal.service.js';
import { PinsService } from '../pins/pins.service.js';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from '../settings/settings.service.js';
import { ShortcutsService, type PreparedShortcut } from '../shortcuts/shortcuts.service.js';
import { TagsService } from '../tags/tags.service.js';

interface Gathered {
  ids: ShortcutId[];
  made: PreparedShortcut[];
  notMade: ShortcutsMade['notMade'];
}

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
  async add({ items, collectionIds = [], tagIds = [], pin, slot }: NewShortcuts): Promise<ShortcutsMade> {
    const { ids, made, notMade } = await this.gathered(items);
    if (ids.length === 0) throw new Refusal('not-valid', notMade[0]?.reason ?? 'There is nothing to add.');
    let pinned = 0;
    const what = () => (ids.length === 1 ? `“${made[0]?.name ?? 'one thing'}”` : `${ids.length} shortcuts`);
    await this.journal.act({ act: 'add-shortcut', summary: () => `Added ${what()}` }, async (tx) => {
      await this.shortcuts.insertAll(tx, made);
      for (const id of collectionIds) await this.collections.putWithin(tx, id, ids);
      for (const id of tagIds) await this.tags.putOnShortcuts(tx, id, ids);
      if (!pin) return;
      const strip = await this.pins.list();
      const there = new Set(strip.map((p) => p.targetId));
      const { pinLimit } = await this.settings.all();
      for (const id of ids.filter((one) => !there.has(one)).slice(0, Math.max(0, pinLimit - strip.length))) {
        await this.pins.insert(tx, { target: 'shortcut', id }, slot === undefined ? undefined : slot + pinned);
        pinned++;
      }
    });
    this.shortcuts.inserted();
    return { ids, added: made.length, pinned, notMade };
  }

  /** All of them together; where one of them is refused, each by itself, so that the others are made. */
  private async gathered(items: readonly NewShortcut[]): Promise<Gathered> {
    try {
      return { ...(await this.shortcuts.gather(items)), notMade: [] };
    } catch (error) {
      // a single one is refused for its own reason, which may say what helps
      if (!(error instanceof Refusal) || items.length === 1) throw error;
    }
    const fit: NewShortcut[] = [];
    const notMade: ShortcutsMade['notMade'] = [];
    for (const item of items)
      try {
        await this.shortcuts.gather([item]);
        fit.push(item);
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        const name = item.name ?? item.typed ?? item.url ?? '';
        notMade.push({ name: name.slice(0, MOST_TOLD), reason: error.message });
      }
    return { ...(await this.shortcuts.gather(fit)), notMade };
  }
}
