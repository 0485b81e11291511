/** Shortcuts as the page shows them: with slot, openings, trail and reach. Reads only. */
import { Injectable } from '@nestjs/common';
import { parentOf, segmentsOf } from '@rellin/core/paths';
import { openingsPerWeek, weightAt, weeklyCounts, NO_WEIGHT, WEEK } from '@rellin/core/usage';
import type { ReachView, RouteView, ShortcutDetail, ShortcutView } from '@rellin/contract';
import { absolute } from '../disk/paths.js';
import { BoardsRepository } from '../boards/boards.repository.js';
import { CollectionsRepository } from '../collections/collections.repository.js';
import { previewKindOf } from '../originals/previewKind.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PinsService } from '../pins/pins.service.js';
import { ReachService } from '../reach/reach.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { TagsService } from '../tags/tags.service.js';
import type { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { GoesWithService } from '../shortcuts/goesWith.service.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import { ShortcutsRepository } from '../shortcuts/shortcuts.repository.js';
import { OpeningsRepository } from '../openings/openings.repository.js';
import { PlacesRepository } from '../places/places.repository.js';

/** What a ruler needs; how a route adds up is told with the detail. */
function slim({ best, folderRoute }: ReachView): ReachView {
  const ends = (route: RouteView | null) => route && { ...route, operators: [] };
  return { best: ends(best), folderRoute: ends(folderRoute), routes: [] };
}

/** Up to this many shortcuts what belongs to them is asked for by id; beyond, all of it is read. */
const FEW = 100;

@Injectable()
export class ShortcutViewsService {
  constructor(
    private readonly shortcutRows: ShortcutsRepository,
    private readonly openings: OpeningsRepository,
    private readonly places: PlacesRepository,
    private readonly shortcuts: ShortcutsService,
    private readonly pins: PinsService,
    private readonly reach: ReachService,
    private readonly originals: OriginalsService,
    private readonly settings: SettingsService,
    private readonly collections: CollectionsRepository,
    private readonly boards: BoardsRepository,
    private readonly tags: TagsService,
    private readonly goesWith: GoesWithService,
  ) {}

  async list(removed = false): Promise<ShortcutView[]> {
    const rows = await this.shortcutRows.list(removed);
    return (await this.views(rows)).map((view) => ({ ...view, reach: slim(view.reach) }));
  }

  async some(ids: string[]): Promise<Map<string, ShortcutView>> {
    const rows = ids.length > 0 ? await this.shortcutRows.some(ids) : [];
    return new Map((await this.views(rows)).map((view) => [view.id, view]));
  }

  private async views(rows: ShortcutEntity[]): Promise<ShortcutView[]> {
    const some = rows.length <= FEW ? rows.map((s) => s.id) : undefined;
    const [usage, slots, places, settings, collections, tags] = await Promise.all([
      this.openings.usage(some),
      this.pins.slots(),
      this.places.all(),
      this.settings.all(),
      this.collections.ofShortcuts(some),
      this.tags.ofShortcuts(some),
    ]);
    const now = Date.now();
    const usageOf = new Map(usage.map((u) => [u.shortcutId, u]));
    const roots = new Map(places.map((p) => [p.id, p]));
    const weightOf = (id: string) => weightAt(usageOf.get(id) ?? NO_WEIGHT, now, settings.halfLifeDays);
    const reach = await this.reach.of(rows, (id) => weightOf(id));
    const none: ReachView = { best: null, folderRoute: null, routes: [] };
    return rows.map((s) => {
      const weight = weightOf(s.id);
      const place = s.placeId === null ? undefined : roots.get(s.placeId);
      const location =
        s.target === 'web'
          ? s.url!
          : s.target === 'program'
            ? s.programId!
            : absolute(place?.root ?? '', s.identity!.path);
      return {
        id: s.id,
        name: s.name,
        description: s.description,
        alsoCalled: s.alsoCalled,
        keys: s.keys,
        picture: s.picture,
        openWith: s.openWith,
        collections: collections.get(s.id) ?? [],
        tags: tags.get(s.id) ?? [],
        target: s.target,
        kind: s.kind,
        state: s.state,
        stateReason: s.stateReason,
        stateSince: s.stateSince.toISOString(),
        followedFrom: s.followedFrom,
        leftAlone: s.leftAlone,
        placeId: s.placeId,
        originalId: s.originalId,
        location,
        trail: place && s.identity ? [place.name, ...segmentsOf(parentOf(s.identity.path))] : [],
        size: s.identity?.type === 'file' ? s.identity.size : null,
        modified: s.identity?.mtime ?? null,
        addedAt: s.addedAt.toISOString(),
        removedAt: s.removedAt?.toISOString() ?? null,
        weight,
        perWeek: openingsPerWeek(weight, settings.halfLifeDays),
        lastOpenedAt: usageOf.get(s.id)?.lastOpened?.toISOString() ?? null,
        pinSlot: slots.get(s.id) ?? null,
        reach: reach.get(s.id) ?? none,
      };
    });
  }

  async detail(id: string): Promise<ShortcutDetail> {
    const s = await this.shortcuts.need(id);
    const view = (await this.views([s]))[0]!;
    const now = Date.now();
    const openings = await this.openings.timesOf(id, new Date(now - 12 * WEEK));
    const steps =
      s.placeId !== null && s.originalId !== null
        ? await this.originals.trail(s.placeId, s.originalId).catch(() => [])
        : [];
    const boards = await this.boards.ofShortcuts([id]);
    return {
      ...view,
      boards: boards.get(id) ?? [],
      steps,
      weekly: weeklyCounts(openings, now),
      preview: s.identity ? previewKindOf(s.kind, s.identity.path) : null,
      candidates: s.candidates,
      goesWith: await this.goesWith.of(id),
    };
  }
}
