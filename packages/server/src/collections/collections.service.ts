/** Collections: made, changed, filled, ordered, emptied. No act here touches a shortcut or an original. */
import { randomUUID } from 'node:crypto';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { wouldCycle } from '@rellin/core/collections';
import { compareNatural } from '@rellin/core/units';
import type {
  Additions,
  CollectionChange,
  CollectionId,
  CollectionView,
  MemberId,
  MembersView,
  NewCollection,
  SearchId,
  ShortcutId,
} from '@rellin/contract';
import type { ActTx, Patch } from '../journal/actTx.js';
import { JournalService, type WithinAct } from '../journal/journal.service.js';
import { KeysService } from '../keys/keys.service.js';
import { checkedPicture } from '../pictures/checkedPicture.js';
import { OriginalsRepository } from '../originals/originals.repository.js';
import { named } from '../problems/named.js';
import { Refusal } from '../problems/refusal.js';
import { ShortcutsService, type PreparedShortcut } from '../shortcuts/shortcuts.service.js';
import type { CollectionEntity, LastMember } from '../database/entities/collection.entity.js';
import { CollectionsRepository } from './collections.repository.js';
import { roomBefore } from './room.js';
import type { RowChange } from '../journal/rowChange.js';

/** How often ended working sets are looked for. */
const UNTIL_MS = 30_000;
const MOST_FROM_FOLDER = 5000;

const NEW_COLLECTION = {
  description: '',
  colour: '',
  picture: '',
  sort_by: 'own',
  show_as: 'auto',
  last_members: [],
  revision: 1,
};

/** Additions with everything known that an act needs. */
interface Prepared {
  /** In the order asked for, those this act makes among them. */
  shortcutIds: ShortcutId[];
  collectionIds: CollectionId[];
  searchIds: SearchId[];
  made: PreparedShortcut[];
}

@Injectable()
export class CollectionsService implements OnApplicationShutdown, WithinAct {
  private readonly log = new Logger('collections');
  private timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly repository: CollectionsRepository,
    private readonly journal: JournalService,
    private readonly shortcuts: ShortcutsService,
    private readonly originals: OriginalsRepository,
    private readonly keys: KeysService,
  ) {}

  /** The revision tells pages apart that look at the same collection; it is no part of what an undo takes back. */
  async withinAct(changes: RowChange[], tx: ActTx): Promise<void> {
    const ids = new Set<string>();
    for (const { table, id, before, after } of changes) {
      if (table === 'collection') ids.add(id);
      if (table === 'member') {
        const of = (after ?? before)?.collection_id ?? (await memberOf(tx, id));
        if (of) ids.add(of);
      }
    }
    if (ids.size > 0) await this.repository.countRevision([...ids], tx.manager);
  }

  /** Working sets whose end has come are emptied, also those that ended while Rellin was stopped. */
  async start(): Promise<void> {
    await this.endWorkingSets();
    this.timer = setInterval(
      () => void this.endWorkingSets().catch((e: Error) => this.log.warn(e.message)),
      UNTIL_MS,
    ).unref();
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
  }

  list(removed = false): Promise<CollectionView[]> {
    return this.repository.list(removed);
  }

  async one(id: CollectionId): Promise<CollectionView> {
    const view = await this.repository.one(id);
    if (!view) throw new Refusal('not-found', 'That collection is not in the catalogue any more.');
    return view;
  }

  async members(id: CollectionId): Promise<MembersView> {
    const { revision } = await this.need(id);
    return { collectionId: id, revision, members: await this.repository.members(id) };
  }

  private async need(id: CollectionId): Promise<CollectionEntity> {
    const found = await this.repository.row(id);
    if (!found) throw new Refusal('not-found', 'That collection is not in the catalogue any more.');
    return found;
  }

  /** One that takes members: not a mirror, which shows its folder. */
  private async needOpen(id: CollectionId): Promise<CollectionEntity> {
    const found = await this.need(id);
    if (found.type === 'mirror')
      throw new Refusal('conflict', `“${found.name}” is a mirror: it shows what its folder holds, nothing else.`, {
        remedy: 'File a thing into the folder, or use another collection.',
      });
    return found;
  }

  async add(request: NewCollection): Promise<string> {
    const name = named(request.name, 'collection');
    const id = randomUUID();
    const type = request.type ?? 'plain';
    const parent = request.parentId ? await this.needOpen(request.parentId) : undefined;
    const folder = type === 'mirror' ? await this.mirrored(request) : undefined;
    const prepared = await this.prepare(type === 'mirror' ? {} : request);
    const summary = parent ? `Made the collection “${name}” in “${parent.name}”` : `Made the collection “${name}”`;
    await this.journal.act({ act: 'add-collection', summary }, async (tx) => {
      if (folder?.made) await this.shortcuts.insert(tx, folder.made);
      await tx.insert('collection', {
        ...NEW_COLLECTION,
        id,
        name,
        type,
        description: request.description ?? '',
        colour: request.colour ?? '',
        picture: checkedPicture(request.picture ?? ''),
        mirror_of: folder?.id ?? null,
        until: request.until ?? null,
        added_at: new Date().toISOString(),
      });
      await this.put(tx, id, prepared);
      if (parent) await this.put(tx, parent.id, { shortcutIds: [], collectionIds: [id], searchIds: [], made: [] });
    });
    this.shortcuts.inserted();
    return id;
  }

  /** Within an act: shortcuts that are there by then, at its end. */
  async putWithin(tx: ActTx, id: CollectionId, shortcutIds: readonly ShortcutId[]): Promise<void> {
    await this.needOpen(id);
    await this.put(tx, id, { shortcutIds: [...shortcutIds], collectionIds: [], searchIds: [], made: [] });
  }

  /** Within an act: a plain collection of shortcuts that are there by then, in their order. */
  async insertPlain(tx: ActTx, name: string, shortcutIds: readonly ShortcutId[]): Promise<CollectionId> {
    const id = randomUUID();
    await tx.insert('collection', {
      ...NEW_COLLECTION,
      id,
      name,
      type: 'plain',
      added_at: new Date().toISOString(),
    });
    await this.put(tx, id, { shortcutIds: [...shortcutIds], collectionIds: [], searchIds: [], made: [] });
    return id;
  }

  /** The shortcut to the folder a mirror shows: the one there is, or a new one. */
  private async mirrored({ folder }: NewCollection): Promise<{ id: string; made?: PreparedShortcut }> {
    if (!folder) throw new Refusal('not-valid', 'A mirror needs a folder to show.');
    const id = await this.shortcuts.existing(folder);
    const made = id ? undefined : await this.shortcuts.prepare(folder);
    const kind = made ? made.row['kind'] : (await this.shortcuts.need(id!)).kind;
    if (kind !== 'folder') throw new Refusal('not-a-folder', 'A mirror shows a folder; that is none.');
    return { id: id ?? made!.id, made };
  }

  async change(id: CollectionId, change: CollectionChange, revision?: number): Promise<void> {
    const collection = await this.need(id);
    const patch = { ...change, ...(change.keys !== undefined && { keys: await this.keys.checked(change.keys, id) }) };
    const name = patch.name === undefined ? undefined : named(patch.name, 'collection');
    const renamed = name !== undefined && name !== collection.name;
    const summary = renamed
      ? `Renamed “${collection.name}” to “${name}”`
      : `Changed the collection “${collection.name}”`;
    await this.journal.act({ act: renamed ? 'rename-collection' : 'change-collection', summary }, async (tx) => {
      await this.lock(tx, id, revision);
      await tx.update('collection', id, {
        ...(name !== undefined && { name }),
        ...(patch.description !== undefined && { description: patch.description }),
        ...(patch.colour !== undefined && { colour: patch.colour }),
        ...(patch.picture !== undefined && { picture: checkedPicture(patch.picture) }),
        ...(patch.sortBy && { sort_by: patch.sortBy }),
        ...(patch.showAs && { show_as: patch.showAs }),
        ...(patch.until !== undefined && { until: patch.until }),
        ...(patch.keys !== undefined && { keys: patch.keys }),
      });
    });
  }

  /**
   * One change of a collection at a time, so that no two take the same room; refused where the page that asks has not
   * seen the latest state.
   */
  private async lock(tx: ActTx, id: CollectionId, revision?: number): Promise<void> {
    const row = await this.repository.lock(id, tx.manager);
    if (row && revision !== undefined && revision !== row.revision)
      throw new Refusal('changed-since', `“${row.name}” was changed in another window meanwhile.`, {
        remedy: 'It is shown as it is now; nothing of either change is lost. Do yours again if it is still wanted.',
        revision: row.revision,
      });
  }

  /** Into the bin, with its places in others, its pin and its members; nothing behind it is touched. */
  async remove(ids: string[]): Promise<void> {
    const found = await this.repository.present(ids);
    if (found.length === 0) throw new Refusal('not-found', 'That collection is not in the catalogue any more.');
    const summary =
      found.length === 1 ? `Removed the collection “${found[0]!.name}”` : `Removed ${found.length} collections`;
    await this.journal.act({ act: 'remove-collection', summary }, async (tx) => {
      for (const { id } of found) await tx.update('collection', id, { removed_at: new Date().toISOString() });
    });
  }

  async putBack(id: CollectionId): Promise<void> {
    const { name, keys } = await this.need(id);
    const own = await this.keys.stillFree(keys, id);
    await this.journal.act({ act: 'put-back-collection', summary: `Put back “${name}”` }, (tx) =>
      tx.update('collection', id, { removed_at: null, keys: own }),
    );
  }

  private async prepare(additions: Additions): Promise<Prepared> {
    const lying = additions.fromFolder ? await this.lyingIn(additions.fromFolder) : [];
    const { ids, made } = await this.shortcuts.gather([...(additions.targets ?? []), ...lying]);
    return {
      shortcutIds: [...(additions.shortcutIds ?? []), ...ids],
      collectionIds: additions.collectionIds ?? [],
      searchIds: additions.searchIds ?? [],
      made,
    };
  }

  private async lyingIn({ placeId, originalId, only = 'all' }: NonNullable<Additions['fromFolder']>) {
    const entries = await this.originals.childrenOf(placeId, originalId);
    const wanted = entries.filter((e) =>
      only === 'all'
        ? true
        : only === 'programs'
          ? e.kind === 'program'
          : (e.type === 'folder') === (only === 'folders'),
    );
    if (wanted.length > MOST_FROM_FOLDER)
      throw new Refusal('too-large', `${wanted.length} things lie in it; ${MOST_FROM_FOLDER} is the most at once.`, {
        remedy: 'Make a mirror of the folder instead: it shows all of it, and changes with it.',
      });
    return wanted
      .filter((e) => e.type === 'file' || e.type === 'folder')
      .sort((a, b) => compareNatural(a.name, b.name))
      .map((e) => ({ placeId, originalId: e.id }));
  }

  /** Puts things in, before a member or at the end; returns how many were not in already. */
  async addMembers(id: CollectionId, additions: Additions, before?: string): Promise<number> {
    const collection = await this.needOpen(id);
    const prepared = await this.prepare(additions);
    let count = 0;
    const what = () => (count === 1 ? 'one thing' : `${count} things`);
    await this.journal.act(
      { act: 'add-members', summary: () => `Added ${what()} to “${collection.name}”` },
      async (tx) => {
        count = await this.put(tx, id, prepared, before);
      },
    );
    this.shortcuts.inserted();
    return count;
  }

  /** Within the act that makes a saved search. */
  async addSearch(tx: ActTx, id: CollectionId, searchId: SearchId): Promise<void> {
    await this.needOpen(id);
    await this.put(tx, id, { shortcutIds: [], collectionIds: [], searchIds: [searchId], made: [] });
  }

  private async put(tx: ActTx, id: CollectionId, prepared: Prepared, before?: string): Promise<number> {
    await this.lock(tx, id);
    const rows = await this.repository.rows(id, tx.manager);
    const inside = new Set(rows.map((r) => r.shortcut_id ?? r.child_id ?? r.search_id));
    const children = prepared.collectionIds.filter((c) => !inside.has(c));
    await this.refuseCycles(tx, id, children);
    await this.shortcuts.insertAll(tx, prepared.made);
    const shortcuts = [...new Set(prepared.shortcutIds)].filter((s) => !inside.has(s));
    await this.refuseMissing(tx, shortcuts);
    const searches = [...new Set(prepared.searchIds)].filter((s) => !inside.has(s));
    for (const search of searches) await tx.need('saved_search', search, 'That saved search');
    const things = [
      ...shortcuts.map((s) => ({ shortcut_id: s, child_id: null, search_id: null })),
      ...children.map((c) => ({ shortcut_id: null, child_id: c, search_id: null })),
      ...searches.map((s) => ({ shortcut_id: null, child_id: null, search_id: s })),
    ];
    const points = await roomBefore(tx, rows, before, things.length, () => 'member');
    const added_at = new Date().toISOString();
    await tx.insertMany(
      'member',
      things.map((thing, i) => ({
        id: randomUUID(),
        collection_id: id,
        ...thing,
        sort: points[i]!,
        keep_first: false,
        added_at,
      })),
    );
    return things.length;
  }

  private async refuseCycles(tx: ActTx, parent: string, children: string[]): Promise<void> {
    if (children.length === 0) return;
    const nameOf = await this.repository.names([parent, ...children], tx.manager);
    const edges = await this.repository.edges(tx.manager);
    for (const child of children) {
      if (!nameOf.has(child)) throw new Refusal('not-found', 'That collection is not in the catalogue any more.');
      if (wouldCycle(edges, parent, child))
        throw new Refusal(
          'conflict',
          parent === child
            ? `“${nameOf.get(child)}” cannot lie in itself.`
            : `“${nameOf.get(child)}” cannot go into “${nameOf.get(parent)}”, which lies in it already.`,
          { remedy: 'Take it out of there first.' },
        );
    }
  }

  private async refuseMissing(tx: ActTx, shortcutIds: ShortcutId[]): Promise<void> {
    if (shortcutIds.length === 0) return;
    if ((await this.repository.countShortcuts(shortcutIds, tx.manager)) !== shortcutIds.length)
      throw new Refusal('not-found', 'One of these shortcuts is not in the catalogue any more; nothing was added.');
  }

  /** What is in a collection by what it is of. */
  memberBy(id: CollectionId, itemId: string): Promise<{ id: MemberId; name: string } | undefined> {
    return this.repository.memberBy(id, itemId);
  }

  /** Within an act: a person took away the link that stood for it. */
  takeOut(tx: ActTx, memberId: MemberId): Promise<void> {
    return tx.remove('member', memberId);
  }

  /** Within an act that makes one of several shortcuts: it is in each collection that one of them was in. */
  async handOver(tx: ActTx, kept: ShortcutId, others: readonly ShortcutId[]): Promise<void> {
    const rows = await this.repository.rowsOfShortcuts([kept, ...others], tx.manager);
    const inside = new Set(rows.filter((r) => r.shortcut_id === kept).map((r) => r.collection_id));
    for (const row of rows) {
      if (inside.has(row.collection_id)) continue;
      inside.add(row.collection_id);
      await tx.update('member', row.id, { shortcut_id: kept });
    }
  }

  /** Within an act: each group of shortcuts becomes a collection within this one, before what stays. */
  async split(
    tx: ActTx,
    parent: CollectionId,
    groups: readonly (readonly [name: string, shortcutIds: readonly ShortcutId[]])[],
  ): Promise<void> {
    const rows = await this.repository.rows(parent, tx.manager);
    const first = rows[0]?.sort ?? 0;
    for (const [i, [name, shortcutIds]] of groups.entries()) {
      const id = randomUUID();
      await tx.insert('collection', { ...NEW_COLLECTION, id, name, type: 'plain', added_at: new Date().toISOString() });
      for (const row of rows)
        if (row.shortcut_id !== null && shortcutIds.includes(row.shortcut_id))
          await tx.update('member', row.id, { collection_id: id });
      const sort = first - groups.length + i;
      await tx.insert('member', { id: randomUUID(), collection_id: parent, child_id: id, sort });
    }
  }

  async removeMembers(id: CollectionId, memberIds: MemberId[]): Promise<void> {
    const { name } = await this.needOpen(id);
    const rows = (await this.repository.rows(id)).filter((r) => memberIds.includes(r.id));
    if (rows.length === 0) throw new Refusal('not-found', `That is not in “${name}” any more.`);
    const what = rows.length === 1 ? 'one thing' : `${rows.length} things`;
    await this.journal.act({ act: 'remove-members', summary: `Removed ${what} from “${name}”` }, async (tx) => {
      for (const row of rows) await tx.remove('member', row.id);
    });
  }

  /** Own order: the members named stand, in their present order, before another, or at the end. */
  async moveMembers(id: CollectionId, memberIds: MemberId[], before: string | null, revision?: number): Promise<void> {
    const collection = await this.needOpen(id);
    await this.journal.act({ act: 'move-members', summary: `Reordered “${collection.name}”` }, async (tx) => {
      await this.lock(tx, id, revision);
      const rows = await this.repository.rows(id, tx.manager);
      const moving = rows.filter((r) => memberIds.includes(r.id));
      if (moving.length === 0) throw new Refusal('not-found', `That is not in “${collection.name}” any more.`);
      const rest = rows.filter((r) => !moving.includes(r));
      // what is to stand before one of those that move stands before the next that stays
      const target =
        before === null ? undefined : rows.slice(rows.findIndex((r) => r.id === before)).find((r) => rest.includes(r));
      const points = await roomBefore(tx, rest, target?.id, moving.length, () => 'member');
      for (const [i, row] of moving.entries()) await tx.update('member', row.id, { sort: points[i] });
    });
  }

  async keepFirst(id: CollectionId, memberIds: MemberId[], keepFirst: boolean): Promise<void> {
    const { name } = await this.needOpen(id);
    const summary = keepFirst ? `Keeps something first in “${name}”` : `Keeps something no longer first in “${name}”`;
    await this.journal.act({ act: 'keep-first', summary }, async (tx) => {
      for (const member of memberIds) {
        const row = await tx.need('member', member, 'That member');
        if (row.collection_id !== id) throw new Refusal('not-found', `That is not in “${name}” any more.`);
        await tx.update('member', member, { keep_first: keepFirst });
      }
    });
  }

  /** Takes everything out in one act and remembers what it was. */
  async empty(id: CollectionId, by: 'person' | 'automatic' = 'person'): Promise<number> {
    const collection = await this.needOpen(id);
    let count = 0;
    const ended = by === 'automatic' ? 'ended and was emptied' : 'emptied';
    await this.journal.act(
      {
        act: 'empty-collection',
        summary: () => `“${collection.name}” ${ended}: ${count} removed`,
        by,
        inStack: by === 'person',
      },
      async (tx) => {
        const rows = await this.repository.rows(id, tx.manager);
        count = rows.length;
        const last: LastMember[] = rows.map((r) => ({
          ...(r.shortcut_id
            ? { shortcutId: r.shortcut_id }
            : r.child_id
              ? { childId: r.child_id }
              : { searchId: r.search_id! }),
          keepFirst: r.keep_first,
        }));
        for (const row of rows) await tx.remove('member', row.id);
        const patch: Patch<'collection'> = {
          ...(count > 0 && { last_members: last }),
          ...(by === 'automatic' && { until: null }),
        };
        if (Object.keys(patch).length > 0) await tx.update('collection', id, patch);
      },
    );
    return count;
  }

  /** What was in it when it was emptied last, as far as it is still in the catalogue. */
  async bringBack(id: CollectionId): Promise<number> {
    const collection = await this.needOpen(id);
    const last = collection.lastMembers;
    if (last.length === 0)
      throw new Refusal('not-found', `“${collection.name}” was never emptied; nothing to bring back.`);
    const known = await this.repository.stillThere(last);
    const kept = last.filter((m) => known.has((m.shortcutId ?? m.childId ?? m.searchId)!));
    let count = 0;
    await this.journal.act(
      { act: 'bring-back', summary: () => `Brought ${count} back into “${collection.name}”` },
      async (tx) => {
        for (const m of kept)
          count += await this.put(tx, id, {
            shortcutIds: m.shortcutId ? [m.shortcutId] : [],
            collectionIds: m.childId ? [m.childId] : [],
            searchIds: m.searchId ? [m.searchId] : [],
            made: [],
          });
        const first = new Set(kept.filter((m) => m.keepFirst).map((m) => m.shortcutId ?? m.childId ?? m.searchId));
        for (const row of await this.repository.rows(id, tx.manager))
          if (first.has((row.shortcut_id ?? row.child_id ?? row.search_id)!))
            await tx.update('member', row.id, { keep_first: true });
      },
    );
    return count;
  }

  private async endWorkingSets(): Promise<void> {
    const ended = await this.repository.endedWorkingSets(new Date());
    for (const { id } of ended) await this.empty(id, 'automatic');
  }
}

async function memberOf(tx: ActTx, memberId: MemberId): Promise<string | undefined> {
  return (await tx.load('member', memberId))?.collection_id;
}
