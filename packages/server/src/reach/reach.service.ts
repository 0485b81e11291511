/** Prices the routes to each shortcut on the real strip, the real menus, the real matcher and the real tree. */
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { Inject, Injectable } from '@nestjs/common';
import {
  bestRoute,
  byAlias,
  byBoard,
  byCommand,
  byEntry,
  byFindLine,
  byGroup,
  byOwnEntry,
  byOwnKey,
  byPinClick,
  byPinKey,
  byFolderRoute,
  layStrip,
  wayByEntry,
  withComing,
  type Route,
} from '@rellin/core/reach';
import type { ShortestQuery } from '@rellin/core/match';
import type { ReachView } from '@rellin/contract';
import { BoardsRepository } from '../boards/boards.repository.js';
import { CONFIG, type Config } from '../config/config.js';
import { FinderService } from '../finder/finder.service.js';
import { MemoryIndexService } from '../memoryIndex/memoryIndex.service.js';
import type { WaysTo } from '../memoryIndex/messages.js';
import { PinsService } from '../pins/pins.service.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { ProgramsService } from '../programs/programs.service.js';
import { SettingsService } from '../settings/settings.service.js';
import type { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { groupsOf } from './groups.js';
import { ReachRepository } from './reach.repository.js';
import { readBoards } from './onBoards.js';

export type Reached = Pick<ShortcutEntity, 'id' | 'target' | 'placeId' | 'originalId' | 'keys'>;

@Injectable()
export class ReachService {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly rows: ReachRepository,
    private readonly pins: PinsService,
    private readonly places: PlaceRegistry,
    private readonly index: MemoryIndexService,
    private readonly programs: ProgramsService,
    private readonly settings: SettingsService,
    private readonly finder: FinderService,
    private readonly boards: BoardsRepository,
  ) {}

  /**
   * Reach by shortcut id; `uses` is the usage weight, which makes choosing quicker, `typed` what would be typed for
   * one.
   */
  async of(
    shortcuts: readonly Reached[],
    uses: (id: string) => number,
    typed: (id: string) => ShortestQuery | undefined = (id) => this.finder.shortestQuery(id),
  ): Promise<Map<string, ReachView>> {
    const [pins, settings, constants] = await Promise.all([
      this.pins.list(),
      this.settings.all(),
      this.settings.reachConstants(),
    ]);
    const strip = layStrip(pins.map((p) => p.name));
    const [menus, ways, aliases, entries, onBoards] = await Promise.all([
      this.rows.menus(),
      this.waysTo(shortcuts),
      this.aliasLevels(),
      this.ownEntries(),
      readBoards(this.boards),
    ]);
    const groups = groupsOf(menus, pins, strip, constants);
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
      if (s.keys) routes.push(byOwnKey(s.keys, constants));
      const query = typed(s.id);
      if (query) {
        routes.push(byFindLine(query.characters, query.rank, w, constants));
        routes.push(byCommand(query.characters, constants));
      }
      const to = ways.get(s.id);
      for (const [kind, ids, of] of [
        ['collection', groups.collectionsOf.get(s.id), groups.collections],
        ['tag', groups.tagsOf.get(s.id), groups.tags],
        ['search', to?.searches, groups.searches],
      ] as const) {
        const found = (ids ?? []).flatMap((id) => {
          const group = of.get(id);
          return group ? [byGroup(kind, group.way, group.n, w, constants)] : [];
        });
        const best = bestRoute(found);
        if (best) routes.push(best);
      }
      const board = bestRoute((onBoards.get(s.id) ?? []).map((on) => byBoard(on, w, constants)));
      if (board) routes.push(board);
      const alias = bestRoute((aliases.get(s.id) ?? []).map((levels) => byAlias(levels, w, constants)));
      if (alias) routes.push(alias);
      const byEntries: Route[] = [];
      const inMenu = groups.entriesOf.get(s.id);
      if (inMenu !== undefined) byEntries.push(byEntry(inMenu, w, constants));
      if (entries.has(`shortcut-${s.id}`)) byEntries.push(byOwnEntry(settings.coming, constants));
      for (const id of groups.collectionsOf.get(s.id) ?? []) {
        const n = groups.collections.get(id)?.n;
        if (n !== undefined && entries.has(`collection-${id}`))
          byEntries.push(byGroup('entry', wayByEntry(settings.coming, constants), n, w, constants));
      }
      const entry = bestRoute(byEntries);
      if (entry) routes.push(entry);
      const folderRoute = to ? byFolderRoute(places, to.levels, w, constants) : undefined;
      if (folderRoute) routes.push(folderRoute);
      const all = routes.map((r) => withComing(r, settings.coming, constants));
      const byFolders = folderRoute ? all[all.length - 1]! : null;
      out.set(s.id, { best: bestRoute(all) ?? null, folderRoute: byFolders, routes: all });
    }
    return out;
  }

  /** Pins that have a desktop entry of their own, as `rellin desktop on` names them: "shortcut-…", "collection-…". */
  private async ownEntries(): Promise<Set<string>> {
    const folder = join(this.config.xdg.dataHome, 'applications');
    const names = await readdir(folder).catch(() => []);
    return new Set(
      names.flatMap((name) => /^rellin-((?:shortcut|collection)-[0-9a-f-]{36})\.desktop$/.exec(name)?.[1] ?? []),
    );
  }

  /** Real numbers of entries on each level from the place down; for a program the length of their list. */
  private async waysTo(shortcuts: readonly Reached[]): Promise<Map<string, WaysTo>> {
    const out = new Map<string, WaysTo>();
    const asked: Reached[] = [];
    for (const s of shortcuts) {
      if (s.target === 'program') out.set(s.id, { levels: [Math.max(1, this.programs.list().length)], searches: [] });
      if (s.placeId !== null && s.originalId !== null) asked.push(s);
    }
    const ways = await this.index.ways(asked.map((s) => ({ placeId: s.placeId!, id: s.originalId! })));
    asked.forEach((s, i) => {
      const to = ways[i];
      if (to) out.set(s.id, to);
    });
    return out;
  }

  /**
   * Of each shortcut with links in folders the levels down to them: what lies beside each folder, and within the last.
   */
  private async aliasLevels(): Promise<Map<string, number[][]>> {
    const rows = await this.rows.aliases();
    const out = new Map<string, number[][]>();
    if (rows.length === 0) return out;
    const ways = await this.index.ways(rows.map((r) => ({ placeId: r.placeId, id: r.folderId })));
    rows.forEach((r, i) => {
      const to = ways[i];
      if (!to) return;
      const levels = [...to.levels, Math.max(1, r.among)];
      const list = out.get(r.shortcutId);
      if (list) list.push(levels);
      else out.set(r.shortcutId, [levels]);
    });
    return out;
  }
}
