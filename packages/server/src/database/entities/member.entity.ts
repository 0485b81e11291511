import { Column, Entity, PrimaryColumn } from 'typeorm';

/** One thing's place in one collection. `sort` is a point on a line: moving one member changes one row. */
@Entity('member')
export class MemberEntity {
  @PrimaryColumn('uuid') id: string;
  @Column('uuid', { name: 'collection_id' }) collectionId: string;
  @Column('uuid', { name: 'shortcut_id', nullable: true }) shortcutId: string | null;
  @Column('uuid', { name: 'child_id', nullable: true }) childId: string | null;
  @Column('uuid', { name: 'search_id', nullable: true }) searchId: string | null;
  @Column('double precision') sort: number;
  @Column('boolean', { name: 'keep_first' }) keepFirst: boolean;
  @Column('timestamptz', { name: 'added_at' }) addedAt: Date;
}
