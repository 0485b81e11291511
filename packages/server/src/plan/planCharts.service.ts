/**
 * What the charts of the plan show: openings by week, what was saved, and how long one chooses in the menus there are.
 */
import { Injectable } from '@nestjs/common';
import { flatSeconds, menuSeconds } from '@rellin/core/plan';
import { SYSTEM_ZONE } from '@rellin/core/query';
import type { RouteKind } from '@rellin/core/reach';
import { weeksOfUse } from '@rellin/core/usage';
import type { PlanChartsView, ReachView } from '@rellin/contract';
import { SettingsService } from '../settings/settings.service.js';
import { PlanRepository } from './plan.repository.js';
import { PLAN_WEEKS, PlanService } from './plan.service.js';

/** The ways openings are counted by, where a route of the same kind has another name or none. */
const KIND_OF_WAY: Record<string, RouteKind> = {
  'pin-more': 'pin-click',
  'pin-menu': 'collection',
  originals: 'folders',
  elsewhere: 'folders',
};
/** As well known as what is opened about once a day. */
const DAILY = 20;
/** The curve goes at least so far, in steps that keep its bend. */
const LENGTHS = [1, 2, 3, 5, 7, 10, 14, 20, 30, 40, 60, 80, 120];
const SHORTEST_CURVE = 40;

@Injectable()
export class PlanChartsService {
  constructor(
    private readonly rows: PlanRepository,
    private readonly plan: PlanService,
    private readonly settings: SettingsService,
  ) {}

  async view(): Promise<PlanChartsView> {
    const [weeks, constants, menus] = await Promise.all([
      this.weeks(),
      this.settings.reachConstants(),
      this.plan.crowds(),
    ]);
    const longest = Math.max(SHORTEST_CURVE, ...menus.map((menu) => menu.items.length));
    return {
      weeks,
      menus: menus.map(({ name, items }) => ({
        name,
        length: items.length,
        seconds: flatSeconds(items, constants),
      })),
      curve: [...LENGTHS.filter((n) => n < longest), longest].map((length) => ({
        length,
        unused: menuSeconds(length, 0, constants),
        daily: menuSeconds(length, DAILY, constants),
      })),
    };
  }

  private async weeks(): Promise<PlanChartsView['weeks']> {
    const [rows, reach] = await Promise.all([this.rows.openings(PLAN_WEEKS), this.plan.reachOfAll()]);
    const openings = rows.map(({ at, id, route }) => ({ at, saved: saved(reach.get(id ?? ''), route) }));
    return weeksOfUse(openings, Date.now(), PLAN_WEEKS, SYSTEM_ZONE).map(({ start, ...week }) => ({
      start: new Date(start).toISOString(),
      ...week,
    }));
  }
}

/**
 * Seconds the way that was taken is quicker than the folder route, both as they are now; another way counts as the best
 * there is.
 */
function saved(reach: ReachView | undefined, way: string): number {
  if (!reach?.folderRoute) return 0;
  const kind = KIND_OF_WAY[way] ?? way;
  const taken = reach.routes.find((r) => r.kind === kind) ?? reach.best ?? reach.folderRoute;
  return Math.max(0, reach.folderRoute.seconds - taken.seconds);
}
