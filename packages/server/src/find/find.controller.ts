import { Controller, Get, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';
import type { FindAnswerView, FindView } from '@rellin/contract';
import { OriginalsRepository } from '../originals/originals.repository.js';
import { ShortcutViewsService } from '../shortcuts/shortcutViews.service.js';
import { FindService } from './find.service.js';

export class FindQuery {
  @IsString() @MaxLength(300) q: string;
  @IsOptional() @Type(() => Number) @IsInt() @Min(1) @Max(100) limit?: number;
}

@ApiTags('find')
@Controller('find')
export class FindController {
  constructor(
    private readonly finder: FindService,
    private readonly views: ShortcutViewsService,
    private readonly originals: OriginalsRepository,
  ) {}

  @Get()
  async find(@Query() query: FindQuery): Promise<FindView> {
    const found = await this.finder.search(query.q, query.limit ?? 12);
    const shortcuts = await this.views.some(found.filter((a) => a.group === 'shortcut').map((a) => a.id));
    const answers: FindAnswerView[] = [];
    for (const a of found) {
      const base = { group: a.group, id: a.id, name: a.name, trail: a.trail, ranges: a.ranges };
      if (a.group === 'shortcut') {
        const s = shortcuts.get(a.id);
        if (!s) continue;
        answers.push({
          ...base,
          kind: s.kind,
          state: s.state,
          placeId: s.placeId,
          originalId: s.originalId,
          shortcutId: s.id,
          seconds: s.reach.best?.seconds ?? null,
          steps: s.reach.best?.steps ?? null,
        });
        continue;
      }
      if (a.group === 'collection') {
        answers.push({
          ...base,
          kind: 'folder',
          state: null,
          placeId: null,
          originalId: null,
          shortcutId: null,
          seconds: null,
          steps: null,
        });
        continue;
      }
      const [placeId, id] = a.id.split('/').map(Number) as [number, number];
      const row = await this.originals.find(placeId, id);
      if (!row) continue; // gone since the names were loaded
      const shortcut = (await this.originals.shortcutsTo(placeId, [id])).get(id);
      answers.push({
        ...base,
        kind: row.kind,
        state: null,
        placeId,
        originalId: String(id),
        shortcutId: shortcut?.id ?? null,
        seconds: null,
        steps: null,
      });
    }
    return { query: query.q, answers };
  }
}
