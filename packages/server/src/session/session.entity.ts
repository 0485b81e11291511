import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A signed-in browser. Only the hash of its token is kept. */
@Entity('session')
export class SessionEntity {
  @PrimaryColumn('text', { name: 'token_hash' }) tokenHash: string;
  @Column('timestamptz', { name: 'created_at' }) createdAt: Date;
  @Column('timestamptz', { name: 'last_seen_at' }) lastSeenAt: Date;
}
