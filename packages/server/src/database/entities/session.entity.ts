import type { SessionId } from '@rellin/contract';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A signed-in browser. Only the hashes of its tokens are kept. */
@Entity('session')
export class SessionEntity {
  @PrimaryColumn('text', { name: 'token_hash' }) tokenHash: string;
  @Column('uuid') id: SessionId;
  @Column('text', { name: 'came_by' }) cameBy: 'address' | 'passphrase';
  /** What the browser calls itself (User-Agent). */
  @Column('text') agent: string;
  @Column('timestamptz', { name: 'created_at' }) createdAt: Date;
  @Column('timestamptz', { name: 'last_seen_at' }) lastSeenAt: Date;
  @Column('timestamptz', { name: 'token_since' }) tokenSince: Date;
  /** The token before, taken for a moment more: requests that were under way when it changed. */
  @Column('text', { name: 'former_hash', nullable: true }) formerHash: string | null;
}
