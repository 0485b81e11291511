/** Tags on shortcuts and on originals alike; what bears one is found wherever it lies. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { leastUsed } from '@rellin/core/palette';
import type { Bearers, OriginalRef, SearchId, ShortcutId, TagId, TagView, TaggedView } from '@rellin/contract';
import type { ActTx } from '../journal/actTx.js';
import { JournalService } from '../journal/journal.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PinsService } from '../pins/pins.service.js';
import { PublicationsRepository } from '../publications/publications.repository.js';
import { Refusal } from '../problems/refusal.js';
import type { TagEntity } from '../database/entities/tag.entity.js';
import { TagsRepository, type TaggingRow } from './tags.repository.js';

/** What a tag is on: one of these, the others null. */
type Bearer = Omit<TaggingRow, 'id'>;

const keyOf = (r: Bearer) => r.shortcut_id ?? r.search_id ?? `${r.place_id}/${r.original_id}`;

@Injectable()
export class TagsService {
  constructor(
    private readonly rows: TagsRepository,
    private readonly journal: JournalService,
    private readonly originals: OriginalsService,
    private readonly pins: PinsService,
    private readonly publications: PublicationsRepository,
  ) {}

  async one(id: TagId): Promise<TagView> {
    const [tag] = await this.rows.views(id);
    if (!tag) throw new Refusal('not-found', 'There is no such tag any more.');
    return tag;
  }

  list(): Promise<TagView[]> {
    return this.rows.views();
  }

  private async need(id: TagId): Promise<TagEntity> {
    const tag = await this.rows.one(id);
    if (!tag) throw new Refusal('not-found', 'There is no such tag any more.');
    return tag;
  }

  async add(request: { name: string; colour?: string } & Bearers): Promise<string> {
    const name = await this.freeName(request.name);
    const id = randomUUID();
    const used = await this.rows.colours();
    await this.journal.act({ act: 'add-tag', summary: `Made the tag “${name}”` }, async (tx) => {
      await tx.insert('tag', { id, name, colour: request.colour ?? leastUsed(used) });
      for (const bearer of bearers(request)) await tx.insert('tagging', { id: randomUUID(), tag_id: id, ...bearer });
    });
    return id;
  }

  private async freeName(text: string, own?: string): Promise<string> {
    const name = text.trim();
    if (!name) throw new Refusal('not-valid', 'A tag needs a name.');
    const there = await this.rows.named(name);
    if (there !== undefined && there !== own) throw new Refusal('conflict', `There is a tag “${name}” already.`);
    return name;
  }

  async change(id: TagId, patch: { name?: string; colour?: string }): Promise<void> {
    const tag = await this.need(id);
    const name = patch.name === undefined ? undefined : await this.freeName(patch.name, id);
    const summary =
      name !== undefined && name !== tag.name
        ? `Renamed the tag “${tag.name}” to “${name}”`
        : `Changed the tag “${tag.name}”`;
    await this.journal.act({ act: 'change-tag', summary }, (tx) =>
      tx.update('tag', id, { ...(name !== undefined && { name }), ...(patch.colour && { colour: patch.colour }) }),
    );
  }

  /** Off everything and gone; undo brings it back onto everything it was on. */
  async remove(id: TagId): Promise<void> {
    const tag = await this.need(id);
    await this.journal.act({ act: 'remove-tag', summary: `Removed the tag “${tag.name}”` }, async (tx) => {
      for (const row of await this.rows.taggings(id)) await tx.remove('tagging', row.id);
      await this.pins.unpinTag(tx, id);
      await this.publications.removeOfTag(tx, id);
      await tx.remove('tag', id);
    });
  }

  /** A tag of this name, made where there is none, on originals; within another act. */
  async putNamed(tx: ActTx, name: string, originals: readonly OriginalRef[]): Promise<void> {
    const known = await this.rows.named(name);
    const id = known ?? randomUUID();
    if (known === undefined) await tx.insert('tag', { id, name, colour: leastUsed(await this.rows.colours()) });
    const there = new Set((await this.rows.taggings(id)).map(keyOf));
    await tx.insertMany(
      'tagging',
      bearers({ originals: [...originals] })
        .filter((bearer) => !there.has(keyOf(bearer)))
        .map((bearer) => ({ id: randomUUID(), tag_id: id, ...bearer })),
    );
  }

  /** Puts the tag on many in one act; what bears it already is left. */
  async put(id: TagId, request: Bearers): Promise<number> {
    const tag = await this.need(id);
    let count = 0;
    await this.journal.act(
      { act: 'put-tag', summary: () => `Tagged ${count === 1 ? 'one thing' : `${count} things`} “${tag.name}”` },
      async (tx) => {
        const there = new Set((await this.rows.taggings(id)).map(keyOf));
        const fresh = bearers(request).filter((bearer) => {
          const isNew = !there.has(keyOf(bearer));
          there.add(keyOf(bearer));
          return isNew;
        });
        await tx.insertMany(
          'tagging',
          fresh.map((bearer) => ({ id: randomUUID(), tag_id: id, ...bearer })),
        );
        count = fresh.length;
      },
    );
    return count;
  }

  /** Within an act: a person took away the link that stood for it. */
  takeOff(tx: ActTx, taggingId: string): Promise<void> {
    return tx.remove('tagging', taggingId);
  }

  /** Within an act. */
  async putOnShortcut(tx: ActTx, tagId: TagId, shortcutId: ShortcutId): Promise<void> {
    await tx.insert('tagging', { id: randomUUID(), tag_id: tagId, ...NONE, shortcut_id: shortcutId });
  }

  /** Within an act: those of these shortcuts that do not bear it yet. */
  async putOnShortcuts(tx: ActTx, tagId: TagId, shortcutIds: readonly ShortcutId[]): Promise<void> {
    await tx.need('tag', tagId, 'That tag');
    const rows = await this.rows.taggingsOf(shortcutIds, tx.manager);
    const there = new Set(rows.filter((r) => r.tag_id === tagId).map((r) => r.shortcut_id));
    for (const id of new Set(shortcutIds)) if (!there.has(id)) await this.putOnShortcut(tx, tagId, id);
  }

  /** Within the act that makes a saved search. */
  async putOnSearch(tx: ActTx, tagIds: readonly TagId[], searchId: SearchId): Promise<void> {
    for (const tag_id of new Set(tagIds)) {
      await tx.need('tag', tag_id, 'That tag');
      await tx.insert('tagging', { id: randomUUID(), tag_id, ...bearers({ searchIds: [searchId] })[0]! });
    }
  }

  /** Within an act that makes one of several shortcuts: it bears the tags of all. */
  async handOver(tx: ActTx, kept: ShortcutId, others: readonly ShortcutId[]): Promise<void> {
    const rows = await this.rows.taggingsOf([kept, ...others], tx.manager);
    const own = new Set(rows.filter((r) => r.shortcut_id === kept).map((r) => r.tag_id));
    const fresh = new Set(rows.map((r) => r.tag_id).filter((id) => !own.has(id)));
    for (const tagId of fresh) await this.putOnShortcut(tx, tagId, kept);
  }

  async take(id: TagId, request: Bearers): Promise<number> {
    const tag = await this.need(id);
    const wanted = new Set(bearers(request).map(keyOf));
    const rows = (await this.rows.taggings(id)).filter((r) => wanted.has(keyOf(r)));
    const what = rows.length === 1 ? 'one thing' : `${rows.length} things`;
    await this.journal.act({ act: 'take-tag', summary: `Removed the tag “${tag.name}” from ${what}` }, async (tx) => {
      for (const row of rows) await tx.remove('tagging', row.id);
    });
    return rows.length;
  }

  async tagged(id: TagId): Promise<TaggedView> {
    await this.need(id);
    const rows = await this.rows.bearers(id);
    const originals: TaggedView['originals'] = [];
    for (const r of rows) {
      if (r.original_id === null) continue;
      const found = await this.originals.original(r.place_id!, r.original_id).catch((error: unknown) => {
        if (error instanceof Refusal) return undefined; // gone from the index: it comes back with its original
        throw error;
      });
      if (!found) continue;
      const { path: _path, folderRoute: _folderRoute, preview: _preview, trail, ...entry } = found;
      originals.push({ ...entry, trail: trail.slice(0, -1).map((step) => step.name) });
    }
    return {
      shortcutIds: rows.filter((r) => r.shortcut_id !== null).map((r) => r.shortcut_id!),
      searchIds: rows.filter((r) => r.search_id !== null).map((r) => r.search_id!),
      originals,
    };
  }

  /** Shortcut id → tags on it. */
  ofShortcuts(ids: readonly ShortcutId[] | undefined): Promise<Map<ShortcutId, TagId[]>> {
    return this.rows.ofShortcuts(ids);
  }

  /** Names of tags by id, for the find line. */
  async names(ids: string[]): Promise<Map<string, string>> {
    const tags = await this.rows.some(ids);
    return new Map(tags.map((t) => [t.id, t.name]));
  }
}

const NONE = { shortcut_id: null, search_id: null, place_id: null, original_id: null };

function bearers({ shortcutIds = [], searchIds = [], originals = [] }: Bearers): Bearer[] {
  return [
    ...shortcutIds.map((shortcut_id) => ({ ...NONE, shortcut_id })),
    ...searchIds.map((search_id) => ({ ...NONE, search_id })),
    ...originals.map((o) => ({ ...NONE, place_id: o.placeId, original_id: o.originalId })),
  ];
}
