import { Controller, Get, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { nameRanges, queryWords } from '@rellin/core/match';
import { shown } from '@rellin/core/paths';
import { parseQuery, type QueryNode } from '@rellin/core/query';
import type { FindAnswerView, FindView } from '@rellin/contract';
import { CollectionsService } from '../collections/collections.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import { Refusal } from '../problems/refusal.js';
import { SearchesService } from '../searches/searches.service.js';
import { ShortcutViewsService } from '../catalogue/shortcutViews.service.js';
import { FinderService } from '../finder/finder.service.js';
import { FindQueryDto } from './dto/find.dto.js';

@ApiTags('find')
@Controller('find')
export class FindController {
  constructor(
    private readonly finder: FinderService,
    private readonly views: ShortcutViewsService,
    private readonly collections: CollectionsService,
    private readonly searches: SearchesService,
    private readonly originals: OriginalsService,
  ) {}

  @Get()
  async find(@Query() { q, limit = 12, where }: FindQueryDto): Promise<FindView> {
    const within = where === undefined ? null : this.readable(where);
    const found = await this.finder.find(q, limit, within);
    const ids = (group: FindAnswerView['group']) => found.filter((a) => a.group === group).map((a) => a.id);
    const shortcuts = await this.views.some(ids('shortcut'));
    const named = new Map<string, { name: string; trail: string; count: number }>();
    if (ids('collection').length > 0)
      for (const c of await this.collections.list()) named.set(c.id, { name: c.name, trail: '', count: c.count });
    if (ids('search').length > 0)
      for (const s of await this.searches.list()) named.set(s.id, { name: s.name, trail: s.query, count: s.count });
    const refs = ids('original').map((id) => {
      const [placeId, original] = id.split('/').map(Number) as [number, number];
      return { placeId, id: original };
    });
    const [originals, folderRoutes] = await Promise.all([this.originals.many(refs), this.originals.folderRoutes(refs)]);
    const words = queryWords(q);
    return {
      query: q,
      answers: found.flatMap((a): FindAnswerView[] => {
        const base = { group: a.group, id: a.id };
        if (a.group === 'shortcut') {
          const s = shortcuts.get(a.id);
          if (!s) return [];
          return [
            {
              ...base,
              name: s.name,
              trail: s.target === 'original' ? s.trail.join(' › ') : s.location,
              ranges: nameRanges(words, s.name),
              kind: s.kind,
              state: s.state,
              placeId: s.placeId,
              originalId: s.originalId,
              shortcutId: s.id,
              seconds: s.reach.best?.seconds ?? null,
              steps: s.reach.best?.steps ?? null,
            },
          ];
        }
        const nowhere = { placeId: null, originalId: null, shortcutId: null, state: null, seconds: null, steps: null };
        const known = named.get(a.id);
        if (known) return [{ ...base, ...nowhere, ...known, kind: 'folder', ranges: nameRanges(words, known.name) }];
        const o = originals.get(a.id);
        if (!o) return []; // gone meanwhile
        const name = shown(o.name);
        return [
          {
            ...base,
            ...nowhere,
            name,
            trail: o.trail.map(shown).join(' › '),
            ranges: nameRanges(words, name),
            kind: o.kind,
            placeId: o.placeId,
            originalId: o.id,
            shortcutId: o.shortcut?.id ?? null,
            seconds: folderRoutes.get(a.id)?.seconds ?? null,
            steps: folderRoutes.get(a.id)?.steps ?? null,
          },
        ];
      }),
    };
  }

  private readable(where: string): QueryNode {
    const parsed = parseQuery(where);
    if (!parsed.ok) throw new Refusal('not-valid', `This cannot be narrowed by: ${parsed.error.message}`);
    return parsed.tree;
  }
}
