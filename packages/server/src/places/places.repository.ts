/** SQL over places, what was observed of them, and what the index knows of their files. */
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import type { OriginalId, PlaceId } from '@rellin/contract';
import { PlaceEntity } from '../database/entities/place.entity.js';
import { PlaceStatusEntity } from '../database/entities/placeStatus.entity.js';
import { dropPartition, partitionName } from '../database/partition.js';

/** What a file was when the index saw it: by this a tree is known again under another path. */
export interface KnownFile {
  path: string;
  size: number;
  mtime: number;
  inode: number;
}

@Injectable()
export class PlacesRepository {
  constructor(private readonly db: DataSource) {}

  /** Removed ones included. */
  all(): Promise<PlaceEntity[]> {
    return this.db.getRepository(PlaceEntity).find({ order: { id: 'ASC' } });
  }

  hasRoot(root: string): Promise<boolean> {
    return this.db.getRepository(PlaceEntity).existsBy({ root });
  }

  /** Of the places that are looked into. */
  async roots(manager: EntityManager): Promise<Set<string>> {
    const rows = (await manager.query(`SELECT root FROM place WHERE removed_at IS NULL`)) as { root: string }[];
    return new Set(rows.map((r) => r.root));
  }

  /** What was observed of a place; of a new one nothing yet. */
  async status(placeId: PlaceId): Promise<PlaceStatusEntity> {
    await this.db.query(`INSERT INTO place_status (place_id) VALUES ($1) ON CONFLICT DO NOTHING`, [placeId]);
    return this.db.getRepository(PlaceStatusEntity).findOneByOrFail({ placeId });
  }

  /** How many originals the index knows of in it. */
  async entries(placeId: PlaceId): Promise<number> {
    return (await this.db.getRepository(PlaceStatusEntity).findOneBy({ placeId }))?.entries ?? 0;
  }

  /** By what a place is known again: its root folder, and its file system. */
  async saveIdentity({ id, rootInode, rootBirth, fileSystem, fileSystemPath }: PlaceEntity): Promise<void> {
    await this.db.query(
      `UPDATE place SET root_inode = $2, root_birth = $3, file_system = $4, file_system_path = $5 WHERE id = $1`,
      [id, rootInode, rootBirth, fileSystem, fileSystemPath],
    );
  }

  async saveLastSeen(placeId: PlaceId, at: Date | null): Promise<void> {
    await this.db.query(`UPDATE place_status SET last_seen_at = COALESCE($2, last_seen_at) WHERE place_id = $1`, [
      placeId,
      at,
    ]);
  }

  async saveScan(placeId: PlaceId, outcome: string): Promise<void> {
    await this.db.query(`UPDATE place_status SET scan = $2, scanned_at = now() WHERE place_id = $1`, [
      placeId,
      outcome,
    ]);
  }

  /** Until when the index agreed with the disk, in ms since 1970. */
  async saveVerified(placeId: PlaceId, at: number): Promise<void> {
    await this.db.query(
      `UPDATE place_status SET verified_at = to_timestamp($2 / 1000.0), last_seen_at = now() WHERE place_id = $1`,
      [placeId, at],
    );
  }

  /** Removes all that the index knows of a place. */
  async forget(placeId: PlaceId): Promise<void> {
    await this.db.query(dropPartition(placeId));
    await this.db.query(`UPDATE place_status SET next_id = 2, entries = 0, scan = 'never' WHERE place_id = $1`, [
      placeId,
    ]);
  }

  /** Folders that shortcuts lie in or lead to. */
  async foldersInUse(placeId: PlaceId, most: number): Promise<OriginalId[]> {
    const rows = (await this.db.query(
      `SELECT DISTINCT id FROM (
         SELECT o.parent_id AS id FROM shortcut s JOIN original o ON o.place_id = s.place_id AND o.id = s.original_id
           WHERE s.place_id = $1 AND s.removed_at IS NULL
         UNION ALL SELECT s.original_id FROM shortcut s
           WHERE s.place_id = $1 AND s.kind = 'folder' AND s.removed_at IS NULL
       ) f WHERE id IS NOT NULL LIMIT $2`,
      [placeId, most],
    )) as { id: OriginalId }[];
    return rows.map((r) => r.id);
  }

  /** The names that lie in its root, as far as it was looked through. */
  async knownNames(placeId: PlaceId): Promise<string[]> {
    const [table] = (await this.db.query(`SELECT to_regclass($1) AS there`, [partitionName(placeId)])) as {
      there: string | null;
    }[];
    if (!table?.there) return [];
    const rows = (await this.db.query(`SELECT name FROM original WHERE place_id = $1 AND parent_id = 1`, [
      placeId,
    ])) as { name: string }[];
    return rows.map((r) => r.name);
  }

  /** Some of its files, the same ones each time, from all over it. */
  async sampleOfFiles(placeId: PlaceId, count: number): Promise<KnownFile[]> {
    return (await this.db.query(
      `SELECT original_path(place_id, id) AS path, size::float8, mtime, inode FROM original
       WHERE place_id = $1 AND type = 'file' ORDER BY (id * 7919) % 10007 LIMIT $2`,
      [placeId, count],
    )) as KnownFile[];
  }
}
