/**
 * What goes with a shortcut: further shortcuts it carries beside its main original, such as a manual or a code list.
 */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { NewShortcut, ShortcutDetail, ShortcutId } from '@rellin/contract';
import { JournalService } from '../journal/journal.service.js';
import { Refusal } from '../problems/refusal.js';
import { ShortcutsService } from './shortcuts.service.js';
import { ShortcutsRepository } from './shortcuts.repository.js';

@Injectable()
export class GoesWithService {
  constructor(
    private readonly rows: ShortcutsRepository,
    private readonly journal: JournalService,
    private readonly shortcuts: ShortcutsService,
  ) {}

  async of(shortcutId: ShortcutId): Promise<ShortcutDetail['goesWith']> {
    return this.rows.goingWith(shortcutId);
  }

  /** A shortcut there is, or a new one to a path, address, original or program. */
  async add(shortcutId: ShortcutId, request: NewShortcut & { withId?: string }): Promise<void> {
    const shortcut = await this.shortcuts.need(shortcutId);
    const there = request.withId ?? (await this.shortcuts.existing(request));
    const made = there ? undefined : await this.shortcuts.prepare(request);
    const withId = there ?? made!.id;
    if (withId === shortcutId) throw new Refusal('conflict', `“${shortcut.name}” goes with itself already.`);
    const other = made?.name ?? (await this.shortcuts.need(withId)).name;
    const listed = await this.of(shortcutId);
    if (listed.some((w) => w.shortcutId === withId))
      throw new Refusal('conflict', `“${other}” goes with “${shortcut.name}” already.`);
    const last = await this.rows.lastOfGoingWith(shortcutId);
    await this.journal.act(
      { act: 'add-goes-with', summary: `“${other}” goes with “${shortcut.name}” now` },
      async (tx) => {
        if (made) await this.shortcuts.insert(tx, made);
        await tx.insert('companion', {
          id: randomUUID(),
          shortcut_id: shortcutId,
          with_id: withId,
          sort: Number(last) + 1,
        });
      },
    );
    if (made) this.shortcuts.inserted();
  }

  async remove(shortcutId: ShortcutId, companionId: string): Promise<void> {
    const shortcut = await this.shortcuts.need(shortcutId);
    const own = (await this.of(shortcutId)).find((w) => w.id === companionId);
    if (!own) throw new Refusal('not-found', `That does not go with “${shortcut.name}” any more.`);
    await this.journal.act(
      { act: 'remove-goes-with', summary: `“${own.name}” no longer goes with “${shortcut.name}”` },
      (tx) => tx.remove('companion', companionId),
    );
  }
}
