import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A place on the strip. `sort` is a point on a line, so that moving one pin changes one row. */
@Entity('pin')
export class PinEntity {
  @PrimaryColumn('uuid') id: string;
  @Column('uuid', { name: 'shortcut_id' }) shortcutId: string;
  @Column('double precision') sort: number;
}
