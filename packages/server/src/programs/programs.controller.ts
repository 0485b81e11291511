import { Body, Controller, Get, HttpCode, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { ProgramView } from '@rellin/contract';
import { AssociationsService } from './associations.service.js';
import { ProgramsService } from './programs.service.js';
import { SuitedQueryDto, ProgramForKindDto, TellSystemDto } from './dto/programs.dto.js';
import { ProgramsRepository } from './programs.repository.js';

@ApiTags('programs')
@Controller('programs')
export class ProgramsController {
  constructor(
    private readonly programs: ProgramsService,
    private readonly associations: AssociationsService,
    private readonly rows: ProgramsRepository,
  ) {}

  @Get()
  async list(): Promise<ProgramView[]> {
    const shortcuts = await this.rows.shortcuts();
    const of = new Map(shortcuts.map((s) => [s.programId, { id: s.id, name: s.name, state: s.state }]));
    return this.programs.list().map((p) => ({
      id: p.id,
      name: p.name,
      genericName: p.genericName ?? '',
      comment: p.comment ?? '',
      categories: p.categories,
      takesFiles: /%[fFuU]/.test(p.exec),
      shortcut: of.get(p.id) ?? null,
    }));
  }

  @Get('suited')
  suited(@Query() { mime }: SuitedQueryDto) {
    return this.associations.suited(mime);
  }

  @Post('for-kind')
  @HttpCode(204)
  forKind(@Body() { kind, programId }: ProgramForKindDto) {
    return this.associations.chooseFor(kind, programId);
  }

  /** Into the user's mimeapps.list; the answer names the MIME types. */
  @Post('tell-system')
  @HttpCode(200)
  async tellSystem(@Body() { kind, programId, mime }: TellSystemDto) {
    return { mimes: await this.associations.tell(programId, kind, mime) };
  }
}
