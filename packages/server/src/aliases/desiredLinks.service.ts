/** Which links should stand on the disk, by what the catalogue holds. */
import { posix } from 'node:path';
import { Injectable } from '@nestjs/common';
import { applicationEntry, linkName, linkTarget, webEntry, type WantedLink } from '@rellin/core/aliases';
import { grouped } from '@rellin/core/lists';
import { nameOf } from '@rellin/core/paths';
import type { OriginalId, PlaceId } from '@rellin/contract';
import { CollectionsRepository } from '../collections/collections.repository.js';
import { absolute, below } from '../disk/paths.js';
import { OriginalsRepository } from '../originals/originals.repository.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { ProgramsService } from '../programs/programs.service.js';
import { SearchAnswersService } from '../searches/searchAnswers.service.js';
import { SearchesService } from '../searches/searches.service.js';
import { aliasKey, publicationKey, type Unit } from './linkKeys.js';
import { WrittenLinksRepository } from './writtenLinks.repository.js';
import { AliasesRepository, type ShortcutRow } from './aliases.repository.js';
import { PublicationsRepository, sourceOf, type PublicationRow } from '../publications/publications.repository.js';
import { TagsRepository } from '../tags/tags.repository.js';

export interface Original {
  type: 'original';
  placeId: PlaceId;
  originalId: OriginalId;
  /** Absolute. */
  path: string;
}

/** Something a publication shows, in order. */
export type Shown =
  { type: 'shortcut'; shortcut: ShortcutRow } | Original | { type: 'group'; id: string; name: string; items: Shown[] };

/** What should stand on the disk. */
export interface Wanted {
  links: WantedLink[];
  /** Keys of aliases and publications whose folder the index does not know now: nothing is done to them. */
  adrift: string[];
}

/** Answers of a saved search that are published at most. */
const MOST_ANSWERS = 1000;

@Injectable()
export class DesiredLinksService {
  constructor(
    private readonly rows: AliasesRepository,
    private readonly publicationRows: PublicationsRepository,
    private readonly tags: TagsRepository,
    private readonly collections: CollectionsRepository,
    private readonly index: OriginalsRepository,
    private readonly places: PlaceRegistry,
    private readonly programs: ProgramsService,
    private readonly searches: SearchesService,
    private readonly searchAnswers: SearchAnswersService,
    private readonly written: WrittenLinksRepository,
  ) {}

  /** The links of a unit that should lie in a place, each folder before what lies in it. */
  of(placeId: PlaceId, unit: Unit): Promise<Wanted> {
    return 'publication' in unit
      ? this.ofPublication(placeId, unit.publication)
      : this.ofAliases(placeId, unit.aliases);
  }

  private async ofAliases(placeId: PlaceId, ids: readonly string[]): Promise<Wanted> {
    const aliases = (await this.rows.list(ids)).filter((a) => a.place_id === placeId);
    const shortcuts = await this.rows.shortcuts(aliases.map((a) => a.shortcut_id));
    const folders = await this.folders(placeId, aliases);
    const links: WantedLink[] = [];
    const adrift: string[] = [];
    for (const alias of aliases) {
      const key = aliasKey(alias.id);
      const shortcut = shortcuts.get(alias.shortcut_id);
      const folder = folders.get(alias.folder_id);
      const link = shortcut && this.link(shortcut, placeId);
      if (!folder) adrift.push(key);
      else if (link) links.push({ key, in: folder, ...link, name: alias.name, before: alias.taken });
    }
    return { links, adrift };
  }

  private async ofPublication(placeId: PlaceId, id: string): Promise<Wanted> {
    const publication = (await this.publicationRows.list(id)).find((p) => p.place_id === placeId);
    if (!publication) return { links: [], adrift: [] };
    const key = publicationKey(id);
    const folder = (await this.folders(placeId, [publication])).get(publication.folder_id!);
    if (!folder) return { links: [], adrift: [key] };
    const links = [asFolder(key, folder, publication.name)];
    this.spread(links, key, await this.shown(publication), publication.ordered, placeId);
    return { links, adrift: [] };
  }

  private spread(out: WantedLink[], key: string, items: readonly Shown[], ordered: boolean, placeId: PlaceId): void {
    const width = String(items.length).length;
    for (const [i, item] of items.entries()) {
      const named = (name: string) => (ordered ? `${String(i + 1).padStart(width, '0')} ${name}` : name);
      if (item.type === 'group') {
        const own = `${key}/${item.id}`;
        out.push(asFolder(own, { key }, named(linkName(item.name, 'folder'))));
        this.spread(out, own, item.items, ordered, placeId);
        continue;
      }
      const link = item.type === 'shortcut' ? this.link(item.shortcut, placeId) : this.linkTo(item, placeId);
      if (!link) continue;
      const own = item.type === 'shortcut' ? item.shortcut.id : `${item.placeId}-${item.originalId}`;
      out.push({ key: `${key}/${own}`, in: { key }, ...link, name: named(link.name) });
    }
  }

  /** What a publication shows, collections within it as groups. */
  async shown(publication: PublicationRow): Promise<Shown[]> {
    const { source, sourceId } = sourceOf(publication);
    if (source === 'collection') return this.members(sourceId);
    if (source === 'search') return this.answers(sourceId);
    const rows = await this.tags.bearers(sourceId);
    const shortcuts = await this.rows.shortcuts(rows.flatMap((r) => r.shortcut_id ?? []));
    const originals = await this.originals(
      rows.flatMap((r) => (r.original_id === null ? [] : [{ placeId: r.place_id!, id: r.original_id }])),
    );
    return [
      ...rows.flatMap((r): Shown[] => {
        const shortcut = r.shortcut_id === null ? undefined : shortcuts.get(r.shortcut_id);
        return shortcut ? [{ type: 'shortcut', shortcut }] : [];
      }),
      ...originals,
    ];
  }

  private async members(id: string): Promise<Shown[]> {
    const members = await this.collections.members(id);
    members.sort((a, b) => Number(b.keepFirst) - Number(a.keepFirst));
    const shortcuts = await this.rows.shortcuts(members.flatMap((m) => (m.type === 'shortcut' ? m.itemId : [])));
    const out: Shown[] = [];
    for (const { type, itemId } of members) {
      if (type === 'shortcut') {
        const shortcut = shortcuts.get(itemId);
        if (shortcut) out.push({ type, shortcut });
      } else if (type === 'search') {
        const search = await this.searches.one(itemId);
        out.push({ type: 'group', id: itemId, name: search.name, items: await this.answers(itemId) });
      } else {
        const child = await this.collections.one(itemId);
        if (!child) continue;
        const mirrored =
          child.mirror && (await this.rows.shortcuts([child.mirror.shortcutId])).get(child.mirror.shortcutId);
        if (mirrored) out.push({ type: 'shortcut', shortcut: { ...mirrored, id: itemId, name: child.name } });
        else out.push({ type: 'group', id: itemId, name: child.name, items: await this.members(itemId) });
      }
    }
    return out;
  }

  /**
   * Links of ours lie in the index as well, and a search may find them: what it publishes must not be its own answer.
   */
  private async answers(id: string): Promise<Shown[]> {
    const { answers } = await this.searchAnswers.answers(id, 0, MOST_ANSWERS);
    const found = await this.originals(answers.map((a) => ({ placeId: a.placeId, id: a.id })));
    const ours = new Map<number, Set<string>>();
    for (const { entity } of this.places.all()) ours.set(entity.id, await this.written.paths(entity.id));
    return found.filter((o) => !ours.get(o.placeId)?.has(below(this.places.need(o.placeId).entity.root, o.path)));
  }

  /** In the order asked; those the index does not know any more are left out. */
  private async originals(refs: readonly { placeId: PlaceId; id: number }[]): Promise<Original[]> {
    const paths = new Map<string, string>();
    for (const [placeId, some] of grouped(refs, (r) => r.placeId)) {
      const place = this.places.get(placeId);
      if (!place) continue;
      const located = await this.index.located(
        placeId,
        some.map((r) => r.id),
      );
      for (const [id, { path }] of located) paths.set(`${placeId}/${id}`, absolute(place.entity.root, path));
    }
    return refs.flatMap(({ placeId, id }) => {
      const path = paths.get(`${placeId}/${id}`);
      return path === undefined ? [] : [{ type: 'original', placeId, originalId: id, path } as const];
    });
  }

  /** The folders that links lie in, by absolute paths; what the index does not know as a folder is left out. */
  async folders(
    placeId: PlaceId,
    holders: readonly { folder_id: OriginalId | null }[],
  ): Promise<Map<number, { path: string; inode: number }>> {
    const root = this.places.get(placeId)?.entity.root;
    if (root === undefined) return new Map();
    const ids = new Set(holders.flatMap((h) => h.folder_id ?? []));
    const located = await this.index.located(placeId, [...ids]);
    return new Map(
      [...located].flatMap(([id, { row, path }]) =>
        row.type === 'folder' ? [[id, { path: absolute(root, path), inode: row.inode }] as const] : [],
      ),
    );
  }

  /** Where a shortcut's original is, as an absolute path; undefined for what is none. */
  pathOf(s: ShortcutRow): string | undefined {
    const root = s.place_id === null ? undefined : this.places.get(s.place_id)?.entity.root;
    return root === undefined || !s.identity ? undefined : absolute(root, s.identity.path);
  }

  /** The link for a shortcut that is to lie in a place. */
  link(s: ShortcutRow, placeId: PlaceId): Omit<WantedLink, 'key' | 'in'> | undefined {
    if (s.target === 'web') return asEntry(s.name, webEntry(s.name, s.url!));
    if (s.target === 'program') {
      const program = this.programs.find(s.program_id!);
      return (
        program &&
        asEntry(s.name, applicationEntry({ ...program, name: s.name, comment: s.description || program.comment }))
      );
    }
    const path = this.pathOf(s);
    return path === undefined ? undefined : this.linkAt(s.name, path, s.place_id!, placeId);
  }

  private linkTo(item: Original, placeId: PlaceId): Omit<WantedLink, 'key' | 'in'> {
    return this.linkAt(nameOf(item.path), item.path, item.placeId, placeId);
  }

  private linkAt(name: string, path: string, itsPlace: number, placeId: PlaceId): Omit<WantedLink, 'key' | 'in'> {
    const root = itsPlace === placeId ? this.places.need(placeId).entity.root : undefined;
    return {
      name: linkName(name, 'link', nameOf(path)),
      form: 'link',
      content: (folder) => linkTarget(folder, path, root),
      leads: (folder, content) => posix.resolve(folder, content) === path,
      before: null,
    };
  }
}

function asEntry(name: string, text: string): Omit<WantedLink, 'key' | 'in'> {
  return {
    name: linkName(name, 'entry'),
    form: 'entry',
    content: () => text,
    leads: (_, content) => content === text,
    before: null,
  };
}

function asFolder(key: string, where: WantedLink['in'], name: string): WantedLink {
  return { key, in: where, name, form: 'folder', content: () => '', leads: () => true, before: null };
}
