import type { CollectionId, MemberId, SearchId, ShortcutId } from '@rellin/contract';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** One thing's place in one collection. `sort` is a point on a line: moving one member changes one row. */
@Entity('member')
export class MemberEntity {
  @PrimaryColumn('uuid') id: MemberId;
  @Column('uuid', { name: 'collection_id' }) collectionId: CollectionId;
  @Column('uuid', { name: 'shortcut_id', nullable: true }) shortcutId: ShortcutId | null;
  @Column('uuid', { name: 'child_id', nullable: true }) childId: CollectionId | null;
  @Column('uuid', { name: 'search_id', nullable: true }) searchId: SearchId | null;
  @Column('double precision') sort: number;
  @Column('boolean', { name: 'keep_first' }) keepFirst: boolean;
  @Column('timestamptz', { name: 'added_at' }) addedAt: Date;
}
