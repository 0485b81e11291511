import { Column, Entity, PrimaryColumn } from 'typeorm';

@Entity('setting')
export class SettingEntity {
  @PrimaryColumn('text') id: string;
  @Column('jsonb') value: unknown;
}
