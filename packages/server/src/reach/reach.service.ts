/** Prices the routes to each shortcut on the real strip, the real matcher and the real tree. */
import { Injectable } from '@nestjs/common';
import { bestRoute, byFindLine, byPinClick, byPinKey, byWalk, layStrip, type Route } from '@rellin/core/reach';
import type { ReachView } from '@rellin/contract';
import { FindService } from '../find/find.service.js';
import { OriginalsRepository } from '../originals/originals.repository.js';
import { PinsService } from '../pins/pins.service.js';
import { PlacesService } from '../places/places.service.js';
import { ProgramsService } from '../programs/programs.service.js';
import { SettingsService } from '../settings/settings.service.js';
import type { ShortcutEntity } from '../shortcuts/shortcut.entity.js';

@Injectable()
export class ReachService {
  constructor(
    private readonly pins: PinsService,
    private readonly places: PlacesService,
    private readonly originals: OriginalsRepository,
    private readonly programs: ProgramsService,
    private readonly settings: SettingsService,
    private readonly finder: FindService,
  ) {}

  /** Reach by shortcut id; `uses` is the usage weight, which makes choosing quicker. */
  async of(shortcuts: ShortcutEntity[], uses: (id: string) => number): Promise<Map<string, ReachView>> {
    const [pins, constants, siblings] = await Promise.all([
      this.pins.list(),
      this.settings.reachConstants(),
      this.siblings(shortcuts),
    ]);
    const strip = layStrip(pins.map((p) => p.name));
    const slotOf = new Map(pins.map((p, i) => [p.targetId, i]));
    const places = this.places.all().length + 1;
    const out = new Map<string, ReachView>();
    for (const s of shortcuts) {
      const routes: Route[] = [];
      const slot = slotOf.get(s.id);
      const w = uses(s.id);
      if (slot !== undefined) {
        if (pins[slot]!.key) routes.push(byPinKey(1, constants));
        routes.push(byPinClick(slot, strip, w, constants));
      }
      const typed = this.finder.fewest(s.id);
      if (typed) routes.push(byFindLine(typed.characters, typed.rank, w, constants));
      const levels = siblings.get(s.id);
      const walk = levels ? byWalk(places, levels, w, constants) : undefined;
      if (walk) routes.push(walk);
      out.set(s.id, { best: bestRoute(routes) ?? null, walk: walk ?? null, routes });
    }
    return out;
  }

  /** Real numbers of entries on each level from the place down; for a program the length of their list. */
  private async siblings(shortcuts: ShortcutEntity[]): Promise<Map<string, number[]>> {
    const out = new Map<string, number[]>();
    const byPlace = new Map<number, ShortcutEntity[]>();
    for (const s of shortcuts) {
      if (s.target === 'program') out.set(s.id, [Math.max(1, this.programs.list().length)]);
      if (s.placeId === null || s.originalId === null) continue;
      const list = byPlace.get(s.placeId);
      if (list) list.push(s);
      else byPlace.set(s.placeId, [s]);
    }
    for (const [placeId, list] of byPlace) {
      const ancestors = await this.originals.ancestors(
        placeId,
        list.map((s) => s.originalId!),
      );
      for (const s of list) {
        const steps = ancestors.get(s.originalId!);
        // the first is the place itself, chosen among the places
        if (steps)
          out.set(
            s.id,
            steps.slice(1).map((step) => step.among),
          );
      }
    }
    return out;
  }
}
