import type { CollectionId, PinId, SearchId, ShortcutId, TagId } from '@rellin/contract';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/**
 * A place on the strip, of one shortcut, collection or tag. `sort` is a point on a line: moving one changes one row.
 */
@Entity('pin')
export class PinEntity {
  @PrimaryColumn('uuid') id: PinId;
  @Column('uuid', { name: 'shortcut_id', nullable: true }) shortcutId: ShortcutId | null;
  @Column('uuid', { name: 'collection_id', nullable: true }) collectionId: CollectionId | null;
  @Column('uuid', { name: 'tag_id', nullable: true }) tagId: TagId | null;
  @Column('uuid', { name: 'search_id', nullable: true }) searchId: SearchId | null;
  @Column('double precision') sort: number;
  /** In the menu at the strip's end for good. */
  @Column('boolean') aside: boolean;
  /** The plan leaves it where it is. */
  @Column('boolean', { default: false }) kept: boolean;
  @Column('timestamptz', { name: 'placed_at' }) placedAt: Date;
}
