import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { Identity, ShortcutState } from '@rellin/core/identity';
import type { Kind } from '@rellin/core/kinds';
import type { OriginalId, PlaceId, ProgramId, ShortcutId, TargetType } from '@rellin/contract';

/** What the person rejected: never follow there by itself again. */
export interface RejectedCandidate {
  inode: number;
  birth: number;
}

@Entity('shortcut')
export class ShortcutEntity {
  @PrimaryColumn('uuid') id: ShortcutId;
  @Column('text') name: string;
  @Column('text') description: string;
  @Column('text', { array: true, name: 'also_called' }) alsoCalled: string[];
  @Column('text') target: TargetType;
  @Column('text') kind: Kind;
  @Column('integer', { name: 'place_id', nullable: true }) placeId: PlaceId | null;
  @Column('bigint', { name: 'original_id', nullable: true }) originalId: OriginalId | null;
  @Column('text', { name: 'program_id', nullable: true }) programId: ProgramId | null;
  @Column('text', { nullable: true }) url: string | null;
  @Column('jsonb', { nullable: true }) identity: Identity | null;
  @Column('text') state: ShortcutState;
  @Column('text', { name: 'state_reason' }) stateReason: string;
  @Column('timestamptz', { name: 'state_since' }) stateSince: Date;
  @Column('text', { name: 'followed_from', nullable: true }) followedFrom: string | null;
  @Column('jsonb') candidates: { placeId: PlaceId; originalId: OriginalId; path: string }[];
  @Column('jsonb') rejected: RejectedCandidate[];
  /** Lost or unsure, and the person does not want to hear of it. */
  @Column('boolean', { name: 'left_alone' }) leftAlone: boolean;
  @Column('text') picture: string;
  @Column('text', { name: 'open_with', nullable: true }) openWith: string | null;
  @Column('text', { nullable: true }) keys: string | null;
  @Column('timestamptz', { name: 'added_at' }) addedAt: Date;
  @Column('timestamptz', { name: 'removed_at', nullable: true }) removedAt: Date | null;
}
