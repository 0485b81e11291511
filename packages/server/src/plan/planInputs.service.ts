/** Gathers what core's plan is calculated from: what there is, how often it is opened, and how it is reached. */
import { Injectable } from '@nestjs/common';
import type { ShortestQuery } from '@rellin/core/match';
import type { OriginalWithoutShortcut, PlanInput, PlanItem, PlanMenu } from '@rellin/core/plan';
import { bestRoute, comingBy, labelWidth, totalSeconds } from '@rellin/core/reach';
import { NO_WEIGHT, weightAt, WEEK } from '@rellin/core/usage';
import type { CollectionId, PinId, PinView, ReachView, RouteView, ShortcutId, TagId } from '@rellin/contract';
import { CheckUpService } from '../checkUp/checkUp.service.js';
import type { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { FinderService } from '../finder/finder.service.js';
import { KeysService } from '../keys/keys.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PinsService } from '../pins/pins.service.js';
import { ReachService, type Reached } from '../reach/reach.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { TagsService } from '../tags/tags.service.js';
import { PlanRepository } from './plan.repository.js';
import { usageRates, type OpenedWithoutShortcut, type UsageRates } from './usageRates.js';
import { ShortcutsRepository } from '../shortcuts/shortcuts.repository.js';
import { OpeningsRepository } from '../openings/openings.repository.js';

const MOVE_PENALTY = 4;
/** A new pin is left alone for so long. */
const NEW_WEEKS = 1;
/** Pins with a key of their own. */
const KEYED = 9;
/** Of originals opened without a shortcut so many are looked at, those opened most first. */
const MOST_WITHOUT = 50;

export interface GatheredPlan {
  input: PlanInput;
  /** Of shortcuts and collections. */
  names: Map<ShortcutId | CollectionId, string>;
  reach: Map<ShortcutId, ReachView>;
}

/** Originals without a shortcut, each as the one it might get. */
interface WouldBe {
  asShortcuts: Reached[];
  typed(id: string): ShortestQuery | undefined;
  withoutShortcut(reach: ReadonlyMap<string, ReachView>): OriginalWithoutShortcut[];
}

/** What is known of pins, and what was done with them lately. */
interface PinHistory {
  pins: PinView[];
  ages: ReadonlyMap<PinId, number>;
  unpinned: ReadonlySet<ShortcutId>;
  turns: ReadonlyMap<ShortcutId, number>;
}

const isPin = (r: RouteView) => r.kind === 'pin-key' || r.kind === 'pin-click';

@Injectable()
export class PlanInputsService {
  constructor(
    private readonly rows: PlanRepository,
    private readonly shortcuts: ShortcutsRepository,
    private readonly openings: OpeningsRepository,
    private readonly checkUp: CheckUpService,
    private readonly finder: FinderService,
    private readonly keys: KeysService,
    private readonly originals: OriginalsService,
    private readonly pins: PinsService,
    private readonly reach: ReachService,
    private readonly settings: SettingsService,
    private readonly tags: TagsService,
  ) {}

  async gather(now: number): Promise<GatheredPlan> {
    const [shortcuts, usage, settings, constants, times, history, review, tags] = await Promise.all([
      this.shortcuts.list(false),
      this.openings.usage(),
      this.settings.all(),
      this.settings.reachConstants(),
      this.rows.openingTimes(),
      this.pinHistory(),
      this.checkUp.review(),
      this.tags.ofShortcuts(undefined),
    ]);
    const usageOf = new Map(usage.map((u) => [u.shortcutId, u]));
    const weightOf = (id: ShortcutId) => weightAt(usageOf.get(id) ?? NO_WEIGHT, now, settings.halfLifeDays);
    const rates = usageRates(times, now);
    const wouldBe = await this.wouldBe(rates.withoutShortcut.slice(0, MOST_WITHOUT));
    const reach = await this.reach.of([...shortcuts, ...wouldBe.asShortcuts], weightOf, wouldBe.typed);
    const idleOf = new Map<ShortcutId, PlanItem['idle']>();
    for (const { kind, items } of review)
      if (kind === 'long-lost' || kind === 'never-opened') for (const id of items) idleOf.set(id, kind);
    const items = this.items(shortcuts, reach, weightOf, rates, history, idleOf);
    const menus = await this.menus(shortcuts, items, reach, tags);
    const withoutShortcut = wouldBe.withoutShortcut(reach);
    for (const { id } of wouldBe.asShortcuts) reach.delete(id);
    const names = new Map(shortcuts.map((s) => [s.id, s.name]));
    for (const menu of menus) names.set(menu.id, menu.name);
    return {
      names,
      reach,
      input: {
        items,
        otherSlots: history.pins.flatMap((p, slot) => (p.target === 'shortcut' ? [] : [slot])),
        menus,
        withoutShortcut,
        same: review.filter((g) => g.kind === 'same-original').map((g) => g.items),
        keys: await this.keys.free(constants, settings.coming),
        worth: settings.pinWorth,
        rules: {
          constants,
          limit: settings.pinLimit,
          keys: KEYED,
          movePenalty: MOVE_PENALTY,
          before: totalSeconds(comingBy(settings.coming, constants)),
        },
      },
    };
  }

  private async pinHistory(): Promise<PinHistory> {
    const [pins, ages, unpinned, turns] = await Promise.all([
      this.pins.list(),
      this.rows.agesOfPins(),
      this.rows.unpinnedLately(),
      this.rows.turnsLately(),
    ]);
    return { pins, ages, unpinned, turns };
  }

  /** Each shortcut that can be reached, with what it costs with and without its pin. */
  private items(
    shortcuts: readonly ShortcutEntity[],
    reach: ReadonlyMap<ShortcutId, ReachView>,
    weightOf: (id: ShortcutId) => number,
    rates: UsageRates,
    { pins, ages, unpinned, turns }: PinHistory,
    idleOf: ReadonlyMap<ShortcutId, PlanItem['idle']>,
  ): PlanItem[] {
    const pinOf = new Map(pins.map((p, slot) => [p.targetId, { ...p, slot }]));
    return shortcuts.flatMap(({ id, name, keys }): PlanItem[] => {
      const { best, folderRoute, routes } = reach.get(id)!;
      if (!best) return [];
      const pin = pinOf.get(id);
      const rate = rates.shortcuts.get(id);
      const weeksThere = pin ? (ages.get(pin.id) ?? 0) / WEEK : 0;
      return [
        {
          id,
          name,
          rate: rate?.rate ?? 0,
          mean: rate?.mean ?? 0,
          uses: weightOf(id),
          without: (bestRoute(routes.filter((r) => !isPin(r))) ?? best).seconds,
          now: best.seconds,
          byFolders: folderRoute?.seconds ?? null,
          slot: pin?.slot ?? null,
          locked: pin?.kept ?? false,
          keys,
          weeksThere,
          width: labelWidth(name),
          isNew: pin !== undefined && weeksThere < NEW_WEEKS,
          wasPinned: unpinned.has(id),
          turns: turns.get(id) ?? 0,
          idle: idleOf.get(id) ?? null,
        },
      ];
    });
  }

  /** Collections with what they hold; only what is reached through them counts in them. */
  private async menus(
    shortcuts: readonly ShortcutEntity[],
    items: readonly PlanItem[],
    reach: ReadonlyMap<ShortcutId, ReachView>,
    tags: ReadonlyMap<ShortcutId, TagId[]>,
  ): Promise<PlanMenu[]> {
    const collections = await this.rows.collections();
    const byId = new Map(shortcuts.map((s) => [s.id, s]));
    const itemOf = new Map(items.map((i) => [i.id, i]));
    const names = await this.tags.names([...new Set([...tags.values()].flat())]);
    return collections.map(({ id, name, members }) => ({
      id,
      name,
      ways: ['tag', 'kind', 'sub-folder', 'first letter'],
      items: members.map((member) => {
        const s = byId.get(member)!;
        const item = itemOf.get(member);
        const folders = s.identity?.path.split('/') ?? [];
        return {
          id: member,
          rate: reach.get(member)?.best?.kind === 'collection' ? (item?.rate ?? 0) : 0,
          uses: item?.uses ?? 0,
          groups: {
            tag: names.get(tags.get(member)?.[0] ?? ''),
            kind: s.kind,
            'sub-folder': folders[folders.length - 2],
            'first letter': s.name[0]?.toUpperCase(),
          },
        };
      }),
    }));
  }

  private async wouldBe(all: readonly OpenedWithoutShortcut[]): Promise<WouldBe> {
    const found = await this.originals.many(all.map((w) => ({ placeId: w.placeId, id: w.originalId })));
    const known = all.flatMap((w) => {
      const entry = found.get(`${w.placeId}/${w.originalId}`);
      return entry ? [{ ...w, entry, id: `without ${w.placeId}/${w.originalId}` }] : [];
    });
    const typed = await this.finder.wouldBe(
      known.map((w) => w.entry),
      known.map((w) => w.id),
    );
    return {
      asShortcuts: known.map(({ id, placeId, originalId }) => ({
        id,
        target: 'original',
        placeId,
        originalId,
        keys: null,
      })),
      typed: (id) => typed.get(id) ?? this.finder.shortestQuery(id),
      withoutShortcut: (reach) =>
        known.flatMap(({ id, placeId, originalId, times, rate, entry }) => {
          const { best, folderRoute } = reach.get(id) ?? { best: null, folderRoute: null };
          return best && folderRoute
            ? [
                {
                  placeId,
                  originalId,
                  name: entry.name,
                  times,
                  rate,
                  byFolders: folderRoute.seconds,
                  after: best.seconds,
                  steps: folderRoute.steps,
                },
              ]
            : [];
        }),
    };
  }
}
