/** Aliases and publications, as the person makes and ends them. The links themselves are `LinksService`'s to write. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { linkName } from '@rellin/core/aliases';
import { grouped } from '@rellin/core/lists';
import { nameOf, shown } from '@rellin/core/paths';
import type {
  AliasState,
  AliasView,
  NewAlias,
  OriginalId,
  PlaceId,
  PublicationView,
  PublishRequest,
  ShortcutId,
} from '@rellin/contract';
import { absolute } from '../disk/paths.js';
import { JournalService } from '../journal/journal.service.js';
import { OriginalsRepository } from '../originals/originals.repository.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { PublicationsRepository, sourceOf, type PublicationRow } from '../publications/publications.repository.js';
import { Refusal } from '../problems/refusal.js';
import { AliasesRepository } from './aliases.repository.js';
import { LinksService } from './links.service.js';
import { WrittenLinksRepository, type LinkStand } from './writtenLinks.repository.js';
import { aliasKey, publicationKey } from './linkKeys.js';
import { DesiredLinksService } from './desiredLinks.service.js';

@Injectable()
export class AliasesService {
  constructor(
    private readonly rows: AliasesRepository,
    private readonly links: LinksService,
    private readonly publicationRows: PublicationsRepository,
    private readonly records: WrittenLinksRepository,
    private readonly wanted: DesiredLinksService,
    private readonly places: PlaceRegistry,
    private readonly originals: OriginalsService,
    private readonly index: OriginalsRepository,
    private readonly journal: JournalService,
  ) {}

  async aliases(ids?: readonly string[]): Promise<AliasView[]> {
    const rows = await this.rows.list(ids);
    const written = await this.records.some(rows.map((r) => aliasKey(r.id)));
    const out: AliasView[] = [];
    for (const [placeId, some] of grouped(rows, (r) => r.place_id)) {
      const root = this.places.get(placeId)?.entity.root ?? '';
      const folders = await this.wanted.folders(placeId, some);
      for (const row of some) {
        const link = written.get(aliasKey(row.id));
        const folder = folders.get(row.folder_id)?.path ?? root;
        const path = link?.now_path == null ? absolute(folder, row.name) : absolute(root, link.now_path);
        out.push({
          id: row.id,
          shortcutId: row.shortcut_id,
          name: nameOf(path),
          placeId,
          folderId: row.folder_id,
          path,
          ...this.stand(placeId, link),
        });
      }
    }
    return out;
  }

  private stand(placeId: PlaceId, link: LinkStand | undefined): { state: AliasState; reason: string } {
    const place = this.places.get(placeId);
    if (link?.trouble) return { state: 'failed', reason: `It could not be written: ${link.trouble}.` };
    if (!place || place.state === 'away')
      return {
        state: 'waiting',
        reason: place ? `${place.entity.name} is away.` : 'Rellin does not look into its place.',
      };
    if (link?.now_path == null) return { state: 'waiting', reason: 'Its folder is not there now.' };
    return { state: 'there', reason: '' };
  }

  async add({ shortcutId, folder, name }: NewAlias): Promise<AliasView> {
    const shortcut = (await this.rows.shortcuts([shortcutId])).get(shortcutId);
    if (!shortcut) throw new Refusal('not-found', 'That shortcut is not in the catalogue any more.');
    const into = await this.folderAt(folder);
    const link = this.wanted.link(shortcut, into.placeId);
    if (!link) throw new Refusal('not-found', 'What it points to is not known now; no alias was placed.');
    const original = this.wanted.pathOf(shortcut);
    const own = linkName(
      name?.trim() ? name : shortcut.name,
      link.form,
      original === undefined ? '' : nameOf(original),
    );
    const id = randomUUID();
    await this.journal.act(
      { act: 'add-alias', summary: `Placed an alias of “${shortcut.name}” in “${into.name}”` },
      (tx) =>
        tx.insert('alias', {
          id,
          shortcut_id: shortcutId,
          place_id: into.placeId,
          folder_id: into.folderId,
          name: own,
        }),
    );
    await this.links.now(aliasKey(id));
    return (await this.aliases([id]))[0]!;
  }

  async remove(id: string): Promise<void> {
    const [alias] = await this.aliases([id]);
    if (!alias) throw new Refusal('not-found', 'That alias is there no more.');
    // from now on it is not the person's any more, to whom an undo of taking it in would give it back
    await this.records.keep(aliasKey(id));
    await this.journal.act({ act: 'remove-alias', summary: `Deleted the alias “${shown(alias.name)}”` }, (tx) =>
      tx.remove('alias', id),
    );
    await this.links.now(aliasKey(id));
  }

  /** A folder that receives links: it must lie in a place that is here. */
  private async folderAt(typed: string): Promise<{ placeId: PlaceId; folderId: OriginalId; name: string }> {
    const found = await this.originals.locate(typed);
    if (found.type !== 'folder') throw new Refusal('not-valid', 'That is no folder.');
    const place = this.places.need(found.placeId);
    if (place.state === 'away')
      throw new Refusal('original-away', `${place.entity.name} is away; nothing can be written there.`);
    const path = (await this.index.pathOf(found.placeId, found.originalId)) ?? '';
    return {
      placeId: found.placeId,
      folderId: found.originalId,
      name: path === '' ? place.entity.name : shown(nameOf(path)),
    };
  }

  async publications(id?: string): Promise<PublicationView[]> {
    const rows = await this.publicationRows.list(id);
    const out: PublicationView[] = [];
    for (const row of rows) {
      const key = publicationKey(row.id);
      const { links, failed, trouble, path } = await this.records.sumBelow(key);
      const stand: { state: AliasState; reason: string } = row.as_menu
        ? { state: 'there', reason: '' }
        : this.stand(row.place_id!, { key, form: 'folder', now_path: path, trouble });
      out.push({
        id: row.id,
        ...sourceOf(row),
        name: row.name,
        path: row.as_menu ? null : await this.pathOf(row, path),
        asMenu: row.as_menu,
        ordered: row.ordered,
        links,
        failed,
        ...stand,
      });
    }
    return out;
  }

  private async pathOf(row: PublicationRow, written: string | null): Promise<string> {
    const root = this.places.get(row.place_id!)?.entity.root ?? '';
    if (written !== null) return absolute(root, written);
    const folder = (await this.index.pathOf(row.place_id!, row.folder_id!)) ?? '';
    return absolute(root, folder === '' ? row.name : `${folder}/${row.name}`);
  }

  async publish(request: PublishRequest): Promise<PublicationView> {
    const { source, sourceId, ordered = false, asMenu = false } = request;
    const found = await this.publicationRows.source(source, sourceId);
    if (!found) throw new Refusal('not-found', 'What is to be published is not in the catalogue any more.');
    if (found.isMirror)
      throw new Refusal(
        'conflict',
        `“${found.name}” is a mirror: it shows a real folder, which every program sees already.`,
      );
    const into = asMenu ? undefined : await this.folderAt(request.folder ?? '');
    const name = linkName(request.name?.trim() || found.name, 'folder');
    const id = randomUUID();
    const summary = into
      ? `Published “${found.name}” as a folder of links in “${into.name}”`
      : `Published “${found.name}” as a menu`;
    await this.journal.act({ act: 'publish', summary }, (tx) =>
      this.publicationRows.add(tx, {
        id,
        [`${source}_id`]: sourceId,
        place_id: into?.placeId ?? null,
        folder_id: into?.folderId ?? null,
        name,
        ordered,
        as_menu: asMenu,
      }),
    );
    await this.links.now(publicationKey(id));
    return (await this.publications(id))[0]!;
  }

  async unpublish(id: string): Promise<void> {
    const [publication] = await this.publicationRows.list(id);
    if (!publication) throw new Refusal('not-found', 'It is published no more.');
    await this.journal.act({ act: 'unpublish', summary: `“${shown(publication.name)}” is published no more` }, (tx) =>
      this.publicationRows.remove(tx, id),
    );
    await this.links.now(publicationKey(id));
  }

  /** Takes an existing link over as an alias: from now on it is kept in step. */
  async take(
    shortcutId: ShortcutId,
    link: { placeId: PlaceId; originalId: OriginalId; content: string },
  ): Promise<AliasView> {
    const row = await this.index.find(link.placeId, link.originalId);
    if (!row) throw new Refusal('not-found', 'That link is there no more.');
    const id = randomUUID();
    const summary = `Added the link “${shown(row.name)}” to the catalogue`;
    // the link that lies there is adopted when links are brought in step, now and by a redo
    await this.journal.act({ act: 'take-alias', summary }, (tx) =>
      tx.insert('alias', {
        id,
        shortcut_id: shortcutId,
        place_id: link.placeId,
        folder_id: row.parentId,
        name: row.name,
        taken: link.content,
      }),
    );
    await this.links.now(aliasKey(id));
    return (await this.aliases([id]))[0]!;
  }
}
