/** The find line: the catalogue's names, kept in the memory index as they change. */
import { Injectable } from '@nestjs/common';
import { DataSource, In, IsNull } from 'typeorm';
import type { FewestCharacters } from '@rellin/core/match';
import { parentOf, segmentsOf, shown } from '@rellin/core/paths';
import type { QueryNode } from '@rellin/core/query';
import { NO_WEIGHT, weightAt } from '@rellin/core/usage';
import { CollectionEntity } from '../collections/collection.entity.js';
import { JournalService } from '../journal/journal.service.js';
import { MemoryIndexService } from '../memoryIndex/memoryIndex.service.js';
import type { CatalogueItem, FoundAnswer } from '../memoryIndex/messages.js';
import { UsageEntity } from '../openings/usage.entity.js';
import { PlacesService } from '../places/places.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { ShortcutEntity } from '../shortcuts/shortcut.entity.js';
import { TagsService } from '../tags/tags.service.js';

/** Tables whose rows the find line finds things by. */
const FOUND_BY = new Set(['shortcut', 'opening', 'collection', 'tag', 'tagging', 'saved_search']);

@Injectable()
export class FindService {
  constructor(
    private readonly db: DataSource,
    private readonly index: MemoryIndexService,
    private readonly places: PlacesService,
    private readonly settings: SettingsService,
    private readonly tags: TagsService,
    journal: JournalService,
  ) {
    journal.onCommitted((changes) => {
      if (changes.some((c) => FOUND_BY.has(c.table))) void this.sendCatalogue(changes);
    });
    places.onEvent(async (event) => {
      if (event.kind === 'state') await this.sendCatalogue([]);
    });
  }

  async start(): Promise<void> {
    await this.sendCatalogue();
  }

  find(query: string, limit: number, within: QueryNode | null): Promise<FoundAnswer[]> {
    return this.index.find(query, limit, within);
  }

  fewest(shortcutId: string): FewestCharacters | undefined {
    return this.index.fewest(shortcutId);
  }

  private async sendCatalogue(changes?: { table: string; id: string; after: unknown }[]): Promise<void> {
    const rows = await this.db.getRepository(ShortcutEntity).findBy({ removedAt: IsNull() });
    const usage = await this.db.getRepository(UsageEntity).findBy({ shortcutId: In(rows.map((r) => r.id)) });
    const usageOf = new Map(usage.map((u) => [u.shortcutId, u]));
    const { halfLifeDays } = await this.settings.all();
    const now = Date.now();
    const tagsOf = await this.tags.ofShortcuts(undefined);
    const tagNames = await this.tags.names([...new Set([...tagsOf.values()].flat())]);
    const collections = await this.db.getRepository(CollectionEntity).findBy({ removedAt: IsNull() });
    const searches = (await this.db.query(
      `SELECT id::text, name, description FROM saved_search WHERE removed_at IS NULL`,
    )) as { id: string; name: string; description: string }[];
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
      ...(s.placeId !== null &&
        s.originalId !== null && { original: { placeId: s.placeId, id: Number(s.originalId) } }),
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
    this.index.catalogue([...shortcuts, ...gathered]);
    // one more opening hardly changes what must be typed; a new or renamed shortcut does
    if (!changes || changes.some((c) => c.table === 'shortcut')) this.index.askFewest(rows.map((r) => r.id));
  }
}
