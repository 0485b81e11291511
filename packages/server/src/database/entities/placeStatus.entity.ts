import type { PlaceId } from '@rellin/contract';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** What was observed of a place; apart from the place's own row, since no act of a person changes it. */
@Entity('place_status')
export class PlaceStatusEntity {
  @PrimaryColumn('integer', { name: 'place_id' }) placeId: PlaceId;
  /** The next id for an original; only the indexer takes from it. */
  @Column('bigint', { name: 'next_id' }) nextId: number;
  @Column('bigint') entries: number;
  @Column('text') scan: 'never' | 'running' | 'done' | 'stopped' | 'failed';
  @Column('timestamptz', { name: 'scanned_at', nullable: true }) scannedAt: Date | null;
  /** Until when the index was known to agree with the disk. */
  @Column('timestamptz', { name: 'verified_at', nullable: true }) verifiedAt: Date | null;
  /** By which tables the kinds of its originals were told. */
  @Column('text', { nullable: true }) kinds: string | null;
  @Column('timestamptz', { name: 'last_seen_at', nullable: true }) lastSeenAt: Date | null;
}
