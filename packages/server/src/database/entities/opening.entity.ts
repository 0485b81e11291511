import type { OpeningId, OriginalId, PlaceId, ProgramId, ShortcutId } from '@rellin/contract';
import { Column, Entity, PrimaryColumn } from 'typeorm';

@Entity('opening')
export class OpeningEntity {
  @PrimaryColumn('uuid') id: OpeningId;
  @Column('timestamptz') at: Date;
  @Column('uuid', { name: 'shortcut_id', nullable: true }) shortcutId: ShortcutId | null;
  @Column('integer', { name: 'place_id', nullable: true }) placeId: PlaceId | null;
  @Column('bigint', { name: 'original_id', nullable: true }) originalId: OriginalId | null;
  @Column('text', { name: 'program_id', nullable: true }) programId: ProgramId | null;
  @Column('text') name: string;
  @Column('text') how: 'viewer' | 'system';
  @Column('jsonb') argv: string[];
  @Column('text') route: string;
}
