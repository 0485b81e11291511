import { Column, Entity, PrimaryColumn } from 'typeorm';

@Entity('opening')
export class OpeningEntity {
  @PrimaryColumn('uuid') id: string;
  @Column('timestamptz') at: Date;
  @Column('uuid', { name: 'shortcut_id', nullable: true }) shortcutId: string | null;
  @Column('integer', { name: 'place_id', nullable: true }) placeId: number | null;
  @Column('bigint', { name: 'original_id', nullable: true }) originalId: number | null;
  @Column('text', { name: 'program_id', nullable: true }) programId: string | null;
  @Column('text') name: string;
  @Column('text') how: 'viewer' | 'system';
  @Column('jsonb') argv: string[];
  @Column('text') route: string;
}
