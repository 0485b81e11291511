/** SQL over shortcuts to programs, for the list of programs. */
import { Injectable } from '@nestjs/common';
import { DataSource, IsNull, Not } from 'typeorm';
import { ShortcutEntity } from '../database/entities/shortcut.entity.js';

@Injectable()
export class ProgramsRepository {
  constructor(private readonly db: DataSource) {}

  shortcuts(): Promise<ShortcutEntity[]> {
    return this.db.getRepository(ShortcutEntity).findBy({ programId: Not(IsNull()), removedAt: IsNull() });
  }
}
