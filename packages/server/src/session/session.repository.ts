/** SQL over browsers that are signed in, and over the passphrase. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { SessionEntity } from '../database/entities/session.entity.js';

/** A browser that does not come for so long is signed out. */
export const IDLE_DAYS = 30;
/** And every one after so long, however often it came. */
export const LONGEST_DAYS = 180;

/** A session as one of its tokens finds it. */
export interface FoundSession {
  id: string;
  /** Whether it is the token of now, not the one before. */
  current: boolean;
  tokenSince: Date;
  createdAt: Date;
}

@Injectable()
export class SessionRepository {
  constructor(private readonly db: DataSource) {}

  async add(row: Pick<SessionEntity, 'id' | 'tokenHash' | 'cameBy' | 'agent'>): Promise<void> {
    await this.db.getRepository(SessionEntity).insert(row);
  }

  /** The one seen last first. */
  list(): Promise<SessionEntity[]> {
    return this.db.getRepository(SessionEntity).find({ order: { lastSeenAt: 'DESC' } });
  }

  async clearOld(): Promise<void> {
    await this.db.query(
      `DELETE FROM session WHERE last_seen_at < now() - make_interval(days => $1)
         OR created_at < now() - make_interval(days => $2)`,
      [IDLE_DAYS, LONGEST_DAYS],
    );
  }

  /** Whose token this is, seen just now; the token before counts for so many seconds more. */
  async seen(tokenHash: string, formerSeconds: number): Promise<FoundSession | undefined> {
    const [rows] = (await this.db.query(
      `UPDATE session SET last_seen_at = now()
       WHERE (token_hash = $1 OR former_hash = $1 AND token_since > now() - make_interval(secs => $2))
         AND last_seen_at > now() - make_interval(days => $3) AND created_at > now() - make_interval(days => $4)
       RETURNING id::text, token_hash = $1 AS current, token_since AS "tokenSince", created_at AS "createdAt"`,
      [tokenHash, formerSeconds, IDLE_DAYS, LONGEST_DAYS],
    )) as [FoundSession[], number];
    return rows[0];
  }

  /** Puts another token in the place of one that served so many seconds; whether there was one. */
  async renew(tokenHash: string, freshHash: string, servedSeconds: number): Promise<boolean> {
    const [rows] = (await this.db.query(
      `UPDATE session SET token_hash = $2, former_hash = $1, token_since = now()
       WHERE token_hash = $1 AND token_since < now() - make_interval(secs => $3) RETURNING id`,
      [tokenHash, freshHash, servedSeconds],
    )) as [unknown[], number];
    return rows.length > 0;
  }

  /** Ends one, or all but one; the ids of those that ended. */
  async end(which: { id: string } | { allBut: string | undefined }): Promise<string[]> {
    const [rows] = (await ('id' in which
      ? this.db.query(`DELETE FROM session WHERE id = $1 RETURNING id::text`, [which.id])
      : this.db.query(`DELETE FROM session WHERE id IS DISTINCT FROM $1 RETURNING id::text`, [
          which.allBut ?? null,
        ]))) as [{ id: string }[], number];
    return rows.map((r) => r.id);
  }

  async passphraseHash(): Promise<string | undefined> {
    const rows = (await this.db.query(`SELECT hash FROM passphrase`)) as { hash: string }[];
    return rows[0]?.hash;
  }

  /** Null removes it. */
  async setPassphraseHash(hash: string | null): Promise<void> {
    if (hash === null) await this.db.query(`DELETE FROM passphrase`);
    else
      await this.db.query(
        `INSERT INTO passphrase (hash) VALUES ($1) ON CONFLICT (only_row) DO UPDATE SET hash = excluded.hash`,
        [hash],
      );
  }
}
