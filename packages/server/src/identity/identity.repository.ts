/** SQL over what shortcuts are known by, and how they stand: what is observed, not what a person says of them. */
import { Injectable } from '@nestjs/common';
import { DataSource, In, IsNull } from 'typeorm';
import type { Identity } from '@rellin/core/identity';
import type { Kind } from '@rellin/core/kinds';
import { parentOf } from '@rellin/core/paths';
import type { OriginalId, PlaceId, ShortcutId } from '@rellin/contract';
import { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { plainRows } from '../database/plainRows.js';
import type { ActTx } from '../journal/actTx.js';

/** What a shortcut is known by, as others are compared with it. */
export interface KnownBy {
  id: ShortcutId;
  inode: number;
  birth: number;
  path: string;
  state: string;
  followedFrom: string | null;
}

export interface SameContent {
  placeId: PlaceId;
  fingerprint: string;
  path: string;
  followedFrom: string | null;
}

/** How a shortcut stands from now on. */
export interface Stand {
  id: ShortcutId;
  state: string;
  reason: string;
  candidates: ShortcutEntity['candidates'];
}

@Injectable()
export class IdentityRepository {
  constructor(private readonly db: DataSource) {}

  some(ids: readonly ShortcutId[]): Promise<ShortcutEntity[]> {
    return plainRows(this.db.getRepository(ShortcutEntity), 'WHERE id = ANY($1)', [ids]);
  }

  async ofPlace(placeId: PlaceId): Promise<ShortcutId[]> {
    const [row] = (await this.db.query(
      `SELECT coalesce(json_agg(id), '[]') AS ids FROM shortcut WHERE place_id = $1 AND removed_at IS NULL`,
      [placeId],
    )) as [{ ids: ShortcutId[] }];
    return row.ids;
  }

  /** Those that are recorded at one of these paths, relative to the place, or below one. */
  async atOrBelow(placeId: PlaceId, paths: ReadonlySet<string>): Promise<ShortcutId[]> {
    const rows = (await this.db.query(
      `SELECT id, identity->>'path' AS path FROM shortcut WHERE place_id = $1 AND removed_at IS NULL AND identity IS NOT NULL`,
      [placeId],
    )) as { id: ShortcutId; path: string }[];
    const isWithin = (path: string): boolean => paths.has(path) || (path !== '' && isWithin(parentOf(path)));
    return rows.filter((row) => isWithin(row.path)).map((row) => row.id);
  }

  /** Those that lead to one of these originals. */
  async ofOriginals(placeId: PlaceId, originalIds: readonly OriginalId[]): Promise<ShortcutId[]> {
    const rows = await this.db.getRepository(ShortcutEntity).find({
      select: { id: true },
      where: { placeId, originalId: In([...originalIds]), removedAt: IsNull() },
    });
    return rows.map((s) => s.id);
  }

  async ofPrograms(): Promise<ShortcutId[]> {
    const rows = await this.db
      .getRepository(ShortcutEntity)
      .find({ select: { id: true }, where: { target: 'program', removedAt: IsNull() } });
    return rows.map((s) => s.id);
  }

  /** The id that the next new original of a place gets. */
  async nextId(placeId: PlaceId): Promise<OriginalId | undefined> {
    const rows = (await this.db.query(`SELECT next_id FROM place_status WHERE place_id = $1`, [placeId])) as {
      next_id: OriginalId;
    }[];
    return rows[0]?.next_id;
  }

  /**
   * All that are lost or unsure; where some originals are told, only those that one of them may be by inode, size or
   * name.
   */
  async waiting(came?: {
    placeId: PlaceId;
    /** These, and all from one id on. */
    ids: readonly OriginalId[];
    from: OriginalId;
  }): Promise<ShortcutId[]> {
    const among = `JOIN original o ON o.place_id = $1 AND (o.id = ANY($2) OR o.id >= $3)
      AND (o.inode = (s.identity->>'inode')::float8 OR o.size = (s.identity->>'size')::bigint
        OR o.name = regexp_replace(s.identity->>'path', '^.*/', ''))`;
    const rows = (await this.db.query(
      `SELECT DISTINCT s.id::text FROM shortcut s ${came ? among : ''}
       WHERE s.state IN ('lost', 'unsure') AND s.removed_at IS NULL`,
      came ? [came.placeId, came.ids, came.from] : [],
    )) as { id: ShortcutId }[];
    return rows.map((r) => r.id);
  }

  /** Those of a place that are known by one of these inodes. */
  async withInodes(placeId: PlaceId, inodes: readonly number[]): Promise<KnownBy[]> {
    if (inodes.length === 0) return [];
    return (await this.db.query(
      `SELECT id::text, (identity->>'inode')::float8 AS inode, (identity->>'birth')::float8 AS birth,
         identity->>'path' AS path, state, followed_from AS "followedFrom" FROM shortcut
       WHERE place_id = $1 AND removed_at IS NULL AND (identity->>'inode')::float8 = ANY($2)`,
      [placeId, inodes],
    )) as KnownBy[];
  }

  /** Those whose content, as far as it was read, is one of these. */
  async withFingerprints(fingerprints: readonly string[]): Promise<SameContent[]> {
    if (fingerprints.length === 0) return [];
    return (await this.db.query(
      `SELECT place_id AS "placeId", identity->>'fingerprint' AS fingerprint, identity->>'path' AS path,
         followed_from AS "followedFrom" FROM shortcut
       WHERE removed_at IS NULL AND identity->>'fingerprint' = ANY($1)`,
      [fingerprints],
    )) as SameContent[];
  }

  /** The oldest whose file has no digest yet and a size between two bounds in bytes; `but` are passed over. */
  async withoutDigest(
    places: readonly PlaceId[],
    but: readonly ShortcutId[],
    above: number,
    most: number,
  ): Promise<{ id: ShortcutId; identity: Identity; placeId: PlaceId } | undefined> {
    const rows = (await this.db.query(
      `SELECT id::text, identity, place_id AS "placeId" FROM shortcut
       WHERE target = 'original' AND removed_at IS NULL AND state IN ('ready', 'followed', 'saved-over')
         AND place_id = ANY($1) AND NOT id = ANY($2) AND identity->>'type' = 'file' AND NOT identity ? 'digest'
         AND (identity->>'size')::bigint > $3 AND (identity->>'size')::bigint <= $4
       ORDER BY added_at LIMIT 1`,
      [places, but, above, most],
    )) as { id: ShortcutId; identity: Identity; placeId: PlaceId }[];
    return rows[0];
  }

  /** Of the file as it was when it was read; whether that is the one it is known by still. */
  async saveDigest(id: ShortcutId, { mtime, inode }: Identity, digest: string): Promise<boolean> {
    const [, kept] = (await this.db.query(
      `UPDATE shortcut SET identity = identity || jsonb_build_object('digest', $2::text)
       WHERE id = $1 AND identity->>'mtime' = $3 AND identity->>'inode' = $4`,
      [id, digest, JSON.stringify(mtime), String(inode)],
    )) as [unknown, number];
    return kept > 0;
  }

  async saveIdentity(id: ShortcutId, identity: Identity, originalId: OriginalId | null, kind: Kind): Promise<void> {
    await this.db.getRepository(ShortcutEntity).update(id, { identity, originalId, kind });
  }

  async saveStands(rows: readonly Stand[]): Promise<void> {
    await this.db.query(
      `UPDATE shortcut s SET state = o.state, state_reason = o.reason, state_since = now(), candidates = o.candidates,
         left_alone = s.left_alone AND s.state = o.state
       FROM jsonb_to_recordset($1) o(id uuid, state text, reason text, candidates jsonb) WHERE s.id = o.id`,
      [JSON.stringify(rows)],
    );
  }

  /** What shortcuts never go to by themselves again. */
  async reject(
    tx: ActTx,
    rows: readonly { id: ShortcutId; rejected: { inode: number; birth: number }[] }[],
  ): Promise<void> {
    await tx.manager.query(
      `UPDATE shortcut s SET rejected = s.rejected || r.rejected
       FROM jsonb_to_recordset($1) r(id uuid, rejected jsonb) WHERE s.id = r.id`,
      [JSON.stringify(rows)],
    );
  }
}
