/** Going through the places: listings, trails, and from a typed path to an original. */
import { join as joinPath } from 'node:path';
import { Inject, Injectable } from '@nestjs/common';
import { kindRank } from '@rellin/core/kinds';
import { isWithin, nameOf, normalizeAbsolute, parentOf, typedPath, shown, fromBytes } from '@rellin/core/paths';
import { parseUserDirs } from '@rellin/core/desktop';
import { compareNatural } from '@rellin/core/units';
import { byFolderRoute } from '@rellin/core/reach';
import type {
  EntryView,
  FolderView,
  LocatedView,
  OriginalId,
  OriginalRef,
  OriginalView,
  PlaceId,
  RouteView,
  StandardFolderView,
  TrailStep,
} from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { absolute } from '../disk/paths.js';
import { IndexerService } from '../indexing/indexer.service.js';
import type { AfterDisk } from '../places/placeNews.js';
import { PlaceRegistry, type LivePlace } from '../places/placeRegistry.js';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from '../settings/settings.service.js';
import { OriginalsRepository, type OriginalRecord } from './originals.repository.js';
import { previewKindOf } from './previewKind.js';
import { DiskHangs, DiskService } from '../disk/disk.service.js';
import { refusalOf } from '../disk/refusals.js';
import { readSystemFile } from '../disk/systemFile.js';

export type EntrySort = 'name' | 'kind' | 'size' | 'modified';

/** An original out of its folder: with where it lies. */
export type FoundEntry = EntryView & { created: number; path: string; trail: string[] };

interface Listing {
  key: string;
  rows: OriginalRecord[];
}

const isHidden = (row: OriginalRecord) => row.name.startsWith('.');

@Injectable()
export class OriginalsService implements AfterDisk {
  /** The last sorted listings: paging through a large folder sorts it once. */
  private readonly listings = new Map<string, Listing>();
  private generation = 0;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly repository: OriginalsRepository,
    private readonly places: PlaceRegistry,
    private readonly indexer: IndexerService,
    private readonly settings: SettingsService,
    private readonly disk: DiskService,
  ) {}

  afterDisk(): void {
    this.generation++;
    this.listings.clear();
  }

  async folder(
    placeId: PlaceId,
    folderId: OriginalId,
    options: { sort: EntrySort; descending: boolean; offset: number; limit: number; at?: OriginalId; hidden?: boolean },
  ): Promise<FolderView> {
    const place = this.places.need(placeId);
    let trouble: string | null = null;
    if (place.state === 'away') trouble = `${place.entity.name} is away: ${place.awayReason}. This is what was there.`;
    else if (options.offset === 0) trouble = await this.refresh(place, folderId);
    const folder = await this.needOriginal(placeId, folderId);
    if (folder.type !== 'folder') throw new Refusal('not-a-folder', `${shown(folder.name)} is not a folder.`);
    const all = await this.sorted(placeId, folderId, options.sort, options.descending);
    // one that somebody was led to is shown in any case, and with it the others
    const isLedThere = options.at !== undefined && all.some((r) => r.id === options.at && isHidden(r));
    const { showHidden } = await this.settings.all();
    const rows = (options.hidden ?? showHidden) || isLedThere ? all : all.filter((r) => !isHidden(r));
    const page = rows.slice(options.offset, options.offset + options.limit);
    const path = (await this.repository.pathOf(placeId, folderId)) ?? '';
    const atIndex = options.at === undefined ? -1 : rows.findIndex((r) => r.id === options.at);
    return {
      placeId,
      folderId,
      path: absolute(place.entity.root, path),
      trail: await this.trail(placeId, folderId),
      total: rows.length,
      offset: options.offset,
      atIndex: atIndex < 0 ? null : atIndex,
      entries: await this.views(placeId, page),
      hidden: all.length - rows.length,
      trouble,
    };
  }

  /** Takes up what changed in a folder since the last event; returns what stands against reading it. */
  private async refresh(place: LivePlace, folderId: OriginalId): Promise<string | null> {
    if (place.scan !== 'running') await this.indexer.settle(place.entity.id, folderId).catch(() => undefined);
    const path = await this.repository.pathOf(place.entity.id, folderId);
    if (path === undefined) return null;
    try {
      await this.disk.readable(place.entity.id, absolute(place.entity.root, path));
      return null;
    } catch (error) {
      if (error instanceof DiskHangs) return 'The disk does not answer. This is what Rellin knew.';
      const isShut = error instanceof Refusal && error.kind === 'no-access';
      return isShut ? 'The system does not let Rellin read this folder. This is what it knew.' : null;
    }
  }

  private async sorted(placeId: PlaceId, folderId: OriginalId, sort: EntrySort, descending: boolean) {
    const key = `${placeId}/${folderId}/${sort}/${descending}`;
    const known = this.listings.get(key);
    if (known) return known.rows;
    const generation = this.generation;
    const rows = await this.repository.childrenOf(placeId, folderId);
    const names = new Map(rows.map((r) => [r, r.name]));
    const byName = (a: OriginalRecord, b: OriginalRecord) => compareNatural(names.get(a)!, names.get(b)!);
    const foldersFirst = (a: OriginalRecord, b: OriginalRecord) =>
      Number(b.type === 'folder') - Number(a.type === 'folder');
    const order: Record<EntrySort, (a: OriginalRecord, b: OriginalRecord) => number> = {
      name: byName,
      kind: (a, b) => kindRank(a.kind) - kindRank(b.kind) || byName(a, b),
      size: (a, b) => a.size - b.size || byName(a, b),
      modified: (a, b) => a.mtime - b.mtime || byName(a, b),
    };
    const sign = descending ? -1 : 1;
    rows.sort((a, b) => foldersFirst(a, b) || sign * order[sort](a, b));
    if (generation === this.generation) {
      if (this.listings.size > 8) this.listings.delete(this.listings.keys().next().value!);
      this.listings.set(key, { key, rows });
    }
    return rows;
  }

  private async views(placeId: PlaceId, rows: OriginalRecord[]): Promise<EntryView[]> {
    const ids = rows.map((r) => r.id);
    const [shortcuts, tags, counts] = await Promise.all([
      this.repository.shortcutsTo(placeId, ids),
      this.repository.tagsOn(placeId, ids),
      this.repository.childCounts(
        placeId,
        rows.filter((r) => r.type === 'folder').map((r) => r.id),
      ),
    ]);
    return rows.map((r) => ({
      id: r.id,
      placeId,
      name: r.name,
      type: r.type,
      kind: r.kind,
      mime: r.mime,
      size: r.size,
      modified: r.mtime,
      children: r.type === 'folder' ? (counts.get(r.id) ?? 0) : null,
      shortcut: shortcuts.get(r.id) ?? null,
      tags: tags.get(r.id) ?? [],
    }));
  }

  /** Originals of several places with path and trail, under "place/id"; those gone meanwhile are left out. */
  async many(refs: readonly { placeId: PlaceId; id: OriginalId }[]): Promise<Map<string, FoundEntry>> {
    const out = new Map<string, FoundEntry>();
    for (const placeId of new Set(refs.map((r) => r.placeId))) {
      const place = this.places.get(placeId);
      if (!place) continue;
      const ids = refs.filter((r) => r.placeId === placeId).map((r) => r.id);
      const [rows, trails] = await Promise.all([
        this.repository.some(placeId, ids),
        this.repository.trails(placeId, ids),
      ]);
      const views = await this.views(placeId, rows);
      for (const [i, row] of rows.entries()) {
        const folders = (trails.get(row.id) ?? []).slice(1);
        out.set(`${placeId}/${row.id}`, {
          ...views[i]!,
          created: row.birth,
          path: absolute(place.entity.root, [...folders, row.name].join('/')),
          trail: [place.entity.name, ...folders],
        });
      }
    }
    return out;
  }

  /** The route through the folders to originals of several places, under "place/id". */
  async folderRoutes(refs: readonly { placeId: PlaceId; id: OriginalId }[]): Promise<Map<string, RouteView>> {
    const constants = await this.settings.reachConstants();
    const out = new Map<string, RouteView>();
    for (const placeId of new Set(refs.map((r) => r.placeId))) {
      const ids = refs.filter((r) => r.placeId === placeId).map((r) => r.id);
      for (const [id, steps] of await this.repository.ancestors(placeId, ids))
        out.set(
          `${placeId}/${id}`,
          byFolderRoute(
            this.places.all().length,
            steps.slice(1).map((step) => step.among),
            0,
            constants,
          ),
        );
    }
    return out;
  }

  /** From the place down to the original, each with how many lie beside it. */
  async trail(placeId: PlaceId, id: OriginalId): Promise<TrailStep[]> {
    const place = this.places.need(placeId);
    const steps = (await this.repository.ancestors(placeId, [id])).get(id) ?? [];
    return steps.map((step, i) =>
      i === 0
        ? { id: step.id, name: place.entity.name, among: this.places.all().length }
        : { id: step.id, name: step.name, among: step.among },
    );
  }

  async needOriginal(placeId: PlaceId, id: OriginalId): Promise<OriginalRecord> {
    const place = this.places.need(placeId);
    const row = await this.repository.find(placeId, id);
    if (row) return row;
    if (place.scan === 'running')
      throw new Refusal(
        'not-found',
        `${place.entity.name} is being looked through for the first time; it shows in a moment.`,
      );
    throw new Refusal('not-found', 'That original is not where it was; it was moved out of its place or removed.');
  }

  async original(placeId: PlaceId, id: OriginalId): Promise<OriginalView> {
    const place = this.places.need(placeId);
    const row = await this.needOriginal(placeId, id);
    const trail = await this.trail(placeId, id);
    const constants = await this.settings.reachConstants();
    return {
      ...(await this.views(placeId, [row]))[0]!,
      name: row.name || place.entity.name,
      path: absolute(place.entity.root, (await this.repository.pathOf(placeId, id)) ?? ''),
      trail,
      folderRoute: byFolderRoute(
        this.places.all().length,
        trail.slice(1).map((step) => step.among),
        0,
        constants,
      ),
      preview: previewKindOf(row.kind, row.name),
    };
  }

  /** Absolute path text from what a person typed or pasted: a path, "~/…" or a file URI. */
  typedPath(typed: string): string {
    const read = typedPath(typed, this.config.xdg.home);
    if (read.ok) return read.path;
    if (read.kind !== 'not-absolute')
      throw new Refusal('not-valid', `That file address cannot be read (${read.kind}).`);
    throw new Refusal('not-valid', 'A path starts with “/” or “~/”, or is a file address.', {
      remedy: 'Paste the whole path, or go there in Originals.',
    });
  }

  async locate(typed: string): Promise<LocatedView> {
    const path = this.typedPath(typed);
    // a blank at its end may be the name's, and mostly came along
    if (!path.endsWith(' ')) return this.locatePath(path);
    return this.locatePath(path).catch((error: unknown) => {
      if (error instanceof Refusal && error.kind === 'not-found') return this.locatePath(this.typedPath(typed.trim()));
      throw error;
    });
  }

  private async locatePath(path: string): Promise<LocatedView> {
    const place = this.places.placeOf(path);
    if (!place)
      throw new Refusal('outside-places', `${shown(path)} lies outside every place that Rellin may look into.`, {
        remedy: 'Add a folder above it as a place in Settings.',
        path,
      });
    const { root } = place.entity;
    const relative = path === root ? '' : path.slice(root === '/' ? 1 : root.length + 1);
    const row = (await this.repository.at(place.entity.id, relative)) ?? (await this.lookAgain(place, path, relative));
    return {
      placeId: place.entity.id,
      originalId: row.id,
      type: row.type,
      folderId: row.type === 'folder' ? row.id : row.parentId,
    };
  }

  /** The index does not know it: perhaps it is new, perhaps left out, perhaps not there. */
  private async lookAgain(place: LivePlace, path: string, relative: string): Promise<OriginalRecord> {
    if (place.state === 'away')
      throw new Refusal(
        'original-away',
        `${place.entity.name} is away (${place.awayReason}), and nothing of that path is known.`,
      );
    const parent = await this.repository.at(place.entity.id, parentOf(relative));
    if (parent) await this.indexer.settle(place.entity.id, parent.id);
    else await this.indexer.settle(place.entity.id);
    const row = await this.repository.at(place.entity.id, relative);
    if (row) return row;
    if (!(await this.disk.stands(place.entity.id, path)))
      throw refusalOf(Object.assign(new Error('gone'), { code: 'ENOENT' }), path);
    if (place.scan === 'running' || place.scan === 'never')
      throw new Refusal(
        'not-found',
        `${place.entity.name} is still being looked through. Try again when that is done.`,
      );
    throw new Refusal(
      'not-found',
      `${shown(nameOf(path))} is there, but the place “${place.entity.name}” leaves it out.`,
      {
        remedy: 'Change the patterns that the place leaves out, in Settings.',
      },
    );
  }

  /** Folders and files that continue a typed path, at most 12. */
  async complete(typed: string): Promise<string[]> {
    const text = typed.startsWith('~/') ? this.config.xdg.home + typed.slice(1) : typed;
    if (!text.startsWith('/')) return [];
    const folder = normalizeAbsolute(text.slice(0, text.lastIndexOf('/') + 1)) ?? '/';
    const begun = text.slice(text.lastIndexOf('/') + 1).toLowerCase();
    const roots = this.places.all().map((p) => p.entity.root);
    const place = this.places.placeOf(folder);
    if (!place) {
      // above the places: only the way down to them
      return roots.filter((root) => root.startsWith(text)).slice(0, 12);
    }
    const { root } = place.entity;
    const relative = folder === root ? '' : folder.slice(root === '/' ? 1 : root.length + 1);
    const row = await this.repository.at(place.entity.id, relative);
    if (!row) return [];
    const rows = await this.repository.childrenOf(place.entity.id, row.id);
    return rows
      .filter((r) => r.name.toLowerCase().startsWith(begun))
      .sort((a, b) => Number(b.type === 'folder') - Number(a.type === 'folder') || compareNatural(a.name, b.name))
      .slice(0, 12)
      .map((r) => absolute(folder, r.name) + (r.type === 'folder' ? '/' : ''));
  }

  /** The user's standard folders that lie in a place. */
  async standardFolders(): Promise<StandardFolderView[]> {
    const { home, configHome } = this.config.xdg;
    let bytes: Buffer;
    try {
      bytes = readSystemFile(joinPath(configHome, 'user-dirs.dirs'));
    } catch {
      return []; // a system that keeps no such list
    }
    const out: StandardFolderView[] = [];
    for (const { path } of parseUserDirs(fromBytes(bytes), home)) {
      const place = this.places.all().find((p) => isWithin(p.entity.root, path));
      if (!place) continue;
      const relative = path === place.entity.root ? '' : path.slice(place.entity.root.length + 1);
      const row = await this.repository.at(place.entity.id, relative);
      if (row?.type === 'folder') out.push({ name: nameOf(path), placeId: place.entity.id, originalId: row.id });
    }
    return out;
  }

  /** An original and its absolute path, in a place that is here. */
  async whereabouts(placeId: PlaceId, id: OriginalId): Promise<{ row: OriginalRecord; path: string }> {
    const place = this.places.need(placeId);
    const row = await this.needOriginal(placeId, id);
    if (place.state === 'away')
      throw new Refusal('original-away', `${place.entity.name} is away: ${place.awayReason}.`, {
        remedy: 'Connect it; everything on it comes back by itself.',
      });
    const path = absolute(place.entity.root, (await this.repository.pathOf(placeId, id)) ?? '');
    return { row, path };
  }

  /** Those of many that are known and in places that are here, under "place/id". */
  async located(refs: readonly OriginalRef[]): Promise<Map<string, { row: OriginalRecord; path: string }>> {
    const found = new Map<string, { row: OriginalRecord; path: string }>();
    for (const placeId of new Set(refs.map((r) => r.placeId))) {
      const place = this.places.get(placeId);
      if (place?.state !== 'here') continue;
      const ids = refs.flatMap((r) => (r.placeId === placeId ? [r.originalId] : []));
      for (const [id, { row, path }] of await this.repository.located(placeId, ids))
        found.set(`${placeId}/${id}`, { row, path: absolute(place.entity.root, path) });
    }
    return found;
  }

  /** The same of many at once, in their order. */
  async wherever(
    refs: readonly { placeId: PlaceId; originalId: OriginalId }[],
  ): Promise<{ row: OriginalRecord; path: string }[]> {
    const found = await this.located(refs);
    const out: { row: OriginalRecord; path: string }[] = [];
    // where a place is away, or one of them is not known, that is said as of one
    for (const { placeId, originalId } of refs)
      out.push(found.get(`${placeId}/${originalId}`) ?? (await this.whereabouts(placeId, originalId)));
    return out;
  }
}
