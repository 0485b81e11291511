import { Controller, Get } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { DataSource, IsNull, Not } from 'typeorm';
import type { ProgramView } from '@rellin/contract';
import { ShortcutEntity } from '../shortcuts/shortcut.entity.js';
import { ProgramsService } from './programs.service.js';

@ApiTags('programs')
@Controller('programs')
export class ProgramsController {
  constructor(
    private readonly programs: ProgramsService,
    private readonly db: DataSource,
  ) {}

  @Get()
  async list(): Promise<ProgramView[]> {
    const shortcuts = await this.db
      .getRepository(ShortcutEntity)
      .find({ where: { programId: Not(IsNull()), removedAt: IsNull() } });
    const of = new Map(shortcuts.map((s) => [s.programId, { id: s.id, name: s.name, state: s.state }]));
    return this.programs.list().map((p) => ({
      id: p.id,
      name: p.name,
      genericName: p.genericName ?? '',
      comment: p.comment ?? '',
      categories: p.categories,
      shortcut: of.get(p.id) ?? null,
    }));
  }
}
