/** The find line: the catalogue's names, kept in the memory index as they change. */
import type { ShortcutId } from '@rellin/contract';
import { Injectable, Logger } from '@nestjs/common';
import type { ShortestQuery } from '@rellin/core/match';
import { parentOf, segmentsOf, shown, nameWithoutExtension } from '@rellin/core/paths';
import type { QueryNode } from '@rellin/core/query';
import { NO_WEIGHT, weightAt } from '@rellin/core/usage';
import type { AfterAct } from '../journal/journal.service.js';
import { MemoryIndexService } from '../memoryIndex/memoryIndex.service.js';
import type { CatalogueItem, FoundAnswer } from '../memoryIndex/messages.js';
import type { FoundEntry } from '../originals/originals.service.js';
import type { AfterDisk, PlaceEvent } from '../places/placeNews.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { SettingsService } from '../settings/settings.service.js';
import { TagsService } from '../tags/tags.service.js';
import type { RowChange } from '../journal/rowChange.js';
import { FinderRepository } from './finder.repository.js';

@Injectable()
export class FinderService implements AfterAct, AfterDisk {
  private readonly log = new Logger('find');
  private sending: Promise<void> = Promise.resolve();

  constructor(
    private readonly rows: FinderRepository,
    private readonly index: MemoryIndexService,
    private readonly places: PlaceRegistry,
    private readonly settings: SettingsService,
    private readonly tags: TagsService,
  ) {}

  afterAct(changes: RowChange[]): void {
    const touched = touchedBy(changes);
    const told = touched === 'all' ? this.sendAll() : touched.length > 0 ? this.send(touched) : undefined;
    told?.catch((error: Error) => this.log.warn(error.message));
  }

  async afterDisk(event: PlaceEvent): Promise<void> {
    if (event.kind === 'state') await this.sendAll();
  }

  start(): Promise<void> {
    return this.sendAll();
  }

  /** Use of these changed otherwise than by an act. */
  async readAnew(ids: string[]): Promise<void> {
    if (ids.length > 0) await this.send(ids);
  }

  find(query: string, limit: number, within: QueryNode | null): Promise<FoundAnswer[]> {
    return this.index.find(query, limit, within);
  }

  /** What would be typed for originals under these ids if each had a shortcut. */
  async wouldBe(entries: readonly FoundEntry[], ids: readonly string[]): Promise<Map<string, ShortestQuery>> {
    const items = entries.map((e, i): CatalogueItem => ({
      id: ids[i]!,
      group: 'shortcut',
      name: nameWithoutExtension(e.name, e.type === 'folder'),
      alsoCalled: [],
      description: '',
      trail: e.trail.map(shown).join(' › '),
      weight: 0,
      original: { placeId: e.placeId, id: e.id },
    }));
    const found = await this.index.wouldBe(items);
    return new Map(ids.flatMap((id, i) => (found[i] ? [[id, found[i]] as const] : [])));
  }

  shortestQuery(shortcutId: ShortcutId): ShortestQuery | undefined {
    return this.index.shortestQuery(shortcutId);
  }

  private sendAll(): Promise<void> {
    return this.after(async () => this.index.catalogue(await this.items(), 'others'));
  }

  private send(ids: string[]): Promise<void> {
    return this.after(async () => {
      const items = await this.items(ids);
      const there = new Set(items.map((item) => item.id));
      this.index.catalogue(
        items,
        ids.filter((id) => !there.has(id)),
      );
    });
  }

  /** One after another, so that what was read first is not said last. */
  private after(work: () => Promise<void>): Promise<void> {
    return (this.sending = this.sending.catch(() => undefined).then(work));
  }

  /** What the find line finds: all of it, or those with these ids that are there. */
  private async items(ids?: string[]): Promise<CatalogueItem[]> {
    const { shortcuts: rows, usage, collections, searches } = await this.rows.findable(ids);
    const usageOf = new Map(usage.map((u) => [u.shortcutId, u]));
    const { halfLifeDays } = await this.settings.all();
    const now = Date.now();
    const tagsOf = await this.tags.ofShortcuts(ids);
    const tagNames = await this.tags.names([...new Set([...tagsOf.values()].flat())]);
    const shortcuts = rows.map((s): CatalogueItem => ({
      id: s.id,
      group: 'shortcut',
      name: s.name,
      alsoCalled: s.alsoCalled,
      tags: tagsOf.get(s.id)?.map((id) => tagNames.get(id) ?? ''),
      description: s.description,
      trail:
        s.placeId !== null && s.identity
          ? [this.places.get(s.placeId)?.entity.name ?? '', ...segmentsOf(parentOf(s.identity.path)).map(shown)].join(
              ' › ',
            )
          : (s.url ?? 'Programs'),
      weight: weightAt(usageOf.get(s.id) ?? NO_WEIGHT, now, halfLifeDays),
      ...(s.placeId !== null && s.originalId !== null && { original: { placeId: s.placeId, id: s.originalId } }),
    }));
    const gathered = [
      ...collections.map((c): CatalogueItem => ({
        id: c.id,
        group: 'collection',
        name: c.name,
        description: c.description,
      })),
      ...searches.map((s): CatalogueItem => ({ ...s, group: 'search' })),
    ];
    return [...shortcuts, ...gathered];
  }
}

/** The items whose names, tags or use a change may be seen in; all of them where a tag they bear changed. */
function touchedBy(changes: readonly RowChange[]): string[] | 'all' {
  const ids = new Set<string>();
  for (const { table, id, before, after } of changes) {
    if (table === 'tag' && before && after) return 'all';
    if (table === 'shortcut' || table === 'collection' || table === 'saved_search') ids.add(id);
    else if (table === 'opening' || table === 'tagging') {
      const shortcut = (after ?? before)?.shortcut_id;
      if (shortcut) ids.add(shortcut);
    }
  }
  return [...ids];
}
