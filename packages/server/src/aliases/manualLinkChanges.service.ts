/** What a person did to links on disk becomes an act of the catalogue, which the journal takes back. */
import type { PlaceId } from '@rellin/contract';
import { posix } from 'node:path';
import { Injectable } from '@nestjs/common';
import type { SeenEntry, WrittenLink } from '@rellin/core/aliases';
import { parseKeyFile, unescapeValue } from '@rellin/core/desktop';
import { parentOf, shown } from '@rellin/core/paths';
import { CollectionsService } from '../collections/collections.service.js';
import { DiskService } from '../disk/disk.service.js';
import { absolute, below } from '../disk/paths.js';
import { IndexerService } from '../indexing/indexer.service.js';
import { JournalService } from '../journal/journal.service.js';
import { OriginalsRepository } from '../originals/originals.repository.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { PublicationsRepository, sourceOf, type PublicationRow } from '../publications/publications.repository.js';
import { Refusal } from '../problems/refusal.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import { TagsRepository } from '../tags/tags.repository.js';
import { TagsService } from '../tags/tags.service.js';
import { partsOf } from './linkKeys.js';
import { AliasesRepository } from './aliases.repository.js';
import { WrittenLinksRepository } from './writtenLinks.repository.js';

@Injectable()
export class ManualLinkChangesService {
  constructor(
    private readonly rows: AliasesRepository,
    private readonly written: WrittenLinksRepository,
    private readonly disk: DiskService,
    private readonly places: PlaceRegistry,
    private readonly index: OriginalsRepository,
    private readonly indexer: IndexerService,
    private readonly originals: OriginalsService,
    private readonly shortcuts: ShortcutsService,
    private readonly collections: CollectionsService,
    private readonly tags: TagsService,
    private readonly tagRows: TagsRepository,
    private readonly publications: PublicationsRepository,
    private readonly journal: JournalService,
  ) {}

  /** Of what is not where it was: aliases and published folders that a person moved. Whether there were any. */
  async moved(
    placeId: PlaceId,
    root: string,
    missing: readonly string[],
    written: readonly WrittenLink[],
  ): Promise<boolean> {
    // another place may be where it went
    await Promise.all(
      this.places.all().flatMap(({ state, entity }) => (state === 'here' ? this.indexer.settle(entity.id) : [])),
    );
    const records = new Map(written.map((w) => [w.key, w]));
    let any = false;
    for (const key of missing) {
      const { kind, id, way } = partsOf(key);
      const record = records.get(key);
      if (record?.inode == null || way.length > 0) continue;
      if (kind === 'publication') {
        if (await this.folderMoved(record, id, written)) any = true;
        continue;
      }
      const [row] = (await this.index.withInodes(placeId, [record.inode])).filter((r) => r.type !== 'folder');
      const path = row && (await this.index.pathOf(placeId, row.id));
      if (!row || path === undefined) continue;
      const [listing] = await this.disk.links(placeId, [parentOf(absolute(root, path))]);
      const entry = listing?.entries.find((e) => e.name === row.name && e.inode === record.inode);
      if (entry?.form !== record.form || entry.content !== record.now?.content) continue;
      await this.journal.act(
        {
          act: 'alias-moved',
          summary: `The alias “${shown(row.name)}” was moved on disk`,
          by: 'automatic',
          inStack: false,
        },
        (tx) => tx.update('alias', id, { folder_id: row.parentId, name: row.name }),
      );
      await this.written.movedTo(key, placeId, path, row.name);
      any = true;
    }
    return any;
  }

  /**
   * A published folder stands elsewhere, in this place or another: it is known by its inode and by a link of ours that
   * lies in it still.
   */
  private async folderMoved(record: WrittenLink, id: string, written: readonly WrittenLink[]): Promise<boolean> {
    const inodes = new Set(written.flatMap((w) => (w.form === 'folder' ? [] : (w.inode ?? []))));
    for (const { entity, state } of this.places.all()) {
      if (state !== 'here') continue;
      const rows = await this.index.withInodes(entity.id, [record.inode!]);
      for (const row of rows.filter((r) => r.type === 'folder')) {
        const path = await this.index.pathOf(entity.id, row.id);
        if (path === undefined) continue;
        const [listing] = await this.disk.links(entity.id, [absolute(entity.root, path)]);
        const isIt = listing?.inode === record.inode && listing.entries.some((e) => inodes.has(e.inode));
        if (!isIt) continue;
        await this.journal.act(
          {
            act: 'publication-moved',
            summary: `The published folder “${shown(row.name)}” was moved on disk`,
            by: 'automatic',
            inStack: false,
          },
          (tx) => this.publications.moveTo(tx, id, entity.id, row.parentId),
        );
        await this.written.movedTo(record.key, entity.id, path, record.name);
        return true;
      }
    }
    return false;
  }

  /** A person took a link away on disk: the shortcut stays, what the link stood for ends. */
  async wasDeleted(key: string): Promise<void> {
    const { kind, id, way } = partsOf(key);
    if (kind === 'alias') {
      const name = await this.rows.nameOf(id);
      if (name === undefined) return;
      await this.journal.act(
        {
          act: 'alias-gone',
          summary: `The alias “${shown(name)}” was deleted on disk; its shortcut stays`,
          by: 'automatic',
          inStack: false,
        },
        (tx) => tx.remove('alias', id),
      );
      return;
    }
    const [publication] = await this.publications.list(id);
    if (!publication) return;
    const item = way[way.length - 1];
    if (item === undefined) {
      await this.journal.act(
        {
          act: 'unpublish',
          summary: `The folder “${shown(publication.name)}” was deleted on disk; it is published no more`,
          by: 'automatic',
          inStack: false,
        },
        (tx) => this.publications.remove(tx, id),
      );
      return;
    }
    const holder = this.holderOf(publication, way.slice(0, -1));
    const left = (what: string) => `“${what}” left “${shown(publication.name)}”: its link was deleted on disk`;
    if (holder.source === 'collection') {
      const member = await this.collections.memberBy(holder.sourceId, item);
      if (member)
        await this.journal.act(
          { act: 'remove-members', summary: left(member.name), by: 'automatic', inStack: false },
          (tx) => this.collections.takeOut(tx, member.id),
        );
    } else if (holder.source === 'tag') {
      const tagging = await this.tagRows.taggingBy(holder.sourceId, item);
      if (tagging)
        await this.journal.act(
          { act: 'take-tag', summary: left(tagging.name || 'An original'), by: 'automatic', inStack: false },
          (tx) => this.tags.takeOff(tx, tagging.id),
        );
    } // what a saved search finds is not a person's to take out: its link is written again
  }

  /** What a folder of a publication shows: the collection of the innermost group, or the source itself. */
  private holderOf(publication: PublicationRow, groups: readonly string[]) {
    const group = groups[groups.length - 1];
    return group === undefined ? sourceOf(publication) : { source: 'collection' as const, sourceId: group };
  }

  /** A person put a link into a published folder: what it leads to joins what the folder shows. */
  async wasDropped(placeId: PlaceId, root: string, folderKey: string, path: string, entry: SeenEntry): Promise<void> {
    const { id, way } = partsOf(folderKey);
    const [publication] = await this.publications.list(id);
    if (!publication) return;
    const holder = this.holderOf(publication, way);
    if (holder.source === 'search') return;
    try {
      const target = await this.targetOf(placeId, path, entry);
      if (!target) return;
      const shortcutId = (await this.shortcuts.existing(target)) ?? (await this.shortcuts.add(target));
      if (holder.source === 'collection')
        await this.collections.addMembers(holder.sourceId, { shortcutIds: [shortcutId] });
      else
        await this.journal.act({ act: 'put-tag', summary: `Tagged one thing by its link`, by: 'automatic' }, (tx) =>
          this.tags.putOnShortcut(tx, holder.sourceId, shortcutId),
        );
      await this.written.addForeign(`${folderKey}/${shortcutId}`, placeId, below(root, path), entry);
    } catch (error) {
      // it leads nowhere, or out of all places: it stays as it is, and the check-up lists it
      if (!(error instanceof Refusal)) throw error;
    }
  }

  private async targetOf(placeId: PlaceId, path: string, entry: SeenEntry) {
    if (entry.form === 'entry') {
      const group = parseKeyFile(entry.content).groups.get('Desktop Entry');
      const url = group?.get('URL');
      return group?.get('Type') === 'Link' && url ? { url: unescapeValue(url) } : undefined;
    }
    const real = await this.disk.real(placeId, posix.resolve(parentOf(path), entry.content));
    const found = await this.originals.locate(real);
    return { placeId: found.placeId, originalId: found.originalId };
  }
}
