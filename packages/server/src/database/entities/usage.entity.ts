import type { ShortcutId } from '@rellin/contract';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The decayed count of a shortcut's openings; can be rebuilt from them. */
@Entity('usage')
export class UsageEntity {
  @PrimaryColumn('uuid', { name: 'shortcut_id' }) shortcutId: ShortcutId;
  @Column('double precision') w0: number;
  @Column('double precision') t0: number;
  @Column('timestamptz', { name: 'last_opened', nullable: true }) lastOpened: Date | null;
}
