import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { CollectionId, CollectionType, CollectionView, MemberOrder, SearchId, ShortcutId } from '@rellin/contract';

/** A member that a working set had when it was emptied. */
export interface LastMember {
  shortcutId?: ShortcutId;
  childId?: CollectionId;
  searchId?: SearchId;
  keepFirst: boolean;
}

@Entity('collection')
export class CollectionEntity {
  @PrimaryColumn('uuid') id: CollectionId;
  @Column('text') name: string;
  @Column('text') description: string;
  @Column('text') type: CollectionType;
  @Column('text') colour: string;
  @Column('text') picture: string;
  @Column('text', { name: 'sort_by' }) sortBy: MemberOrder;
  @Column('text', { name: 'show_as' }) showAs: CollectionView['showAs'];
  @Column('uuid', { name: 'mirror_of', nullable: true }) mirrorOf: ShortcutId | null;
  @Column('timestamptz', { nullable: true }) until: Date | null;
  @Column('jsonb', { name: 'last_members' }) lastMembers: LastMember[];
  @Column('text', { nullable: true }) keys: string | null;
  @Column('bigint') revision: number;
  @Column('timestamptz', { name: 'added_at' }) addedAt: Date;
  @Column('timestamptz', { name: 'removed_at', nullable: true }) removedAt: Date | null;
}
