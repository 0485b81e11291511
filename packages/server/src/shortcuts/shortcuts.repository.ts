/** SQL over shortcuts as a person keeps them, and over what goes with them. */
import { Injectable } from '@nestjs/common';
import { DataSource, In, IsNull, type EntityManager } from 'typeorm';
import type { OriginalId, PlaceId, ProgramId, ShortcutDetail, ShortcutId } from '@rellin/contract';
import { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { plainRows } from '../database/plainRows.js';

/** What a shortcut leads to, where it is an original or a program. */
export interface LeadsTo {
  placeId: PlaceId | null;
  originalId: OriginalId | null;
  programId: ProgramId | null;
}

@Injectable()
export class ShortcutsRepository {
  constructor(private readonly db: DataSource) {}

  /** In the bin or not. */
  one(id: ShortcutId): Promise<ShortcutEntity | null> {
    return this.db.getRepository(ShortcutEntity).findOneBy({ id });
  }

  some(ids: readonly ShortcutId[]): Promise<ShortcutEntity[]> {
    return this.db.getRepository(ShortcutEntity).findBy({ id: In([...ids]) });
  }

  /** Of these, those that are not in the bin. */
  present(ids: readonly ShortcutId[]): Promise<ShortcutEntity[]> {
    return this.db.getRepository(ShortcutEntity).findBy({ id: In([...ids]), removedAt: IsNull() });
  }

  /** In the order of their names. */
  list(removed: boolean): Promise<ShortcutEntity[]> {
    return plainRows(
      this.db.getRepository(ShortcutEntity),
      `WHERE removed_at IS ${removed ? 'NOT NULL' : 'NULL'} ORDER BY name`,
    );
  }

  /** Those that lead to a program. */
  ofPrograms(): Promise<ShortcutEntity[]> {
    return this.db.getRepository(ShortcutEntity).findBy({ target: 'program', removedAt: IsNull() });
  }

  /** What those that are not in the bin lead to: a program, an address, or a place and a path in it. */
  async targets(manager: EntityManager): Promise<Set<string>> {
    const rows = (await manager.query(
      `SELECT coalesce(program_id, url, place_id || ' ' || (identity->>'path')) AS target
       FROM shortcut WHERE removed_at IS NULL`,
    )) as { target: string }[];
    return new Set(rows.map((r) => r.target));
  }

  async count(): Promise<number> {
    return this.db.getRepository(ShortcutEntity).count();
  }

  /** The newest shortcut there is to one of these. */
  async newestTo(to: LeadsTo): Promise<ShortcutId | undefined> {
    const rows = (await this.db.query(
      `SELECT id::text FROM shortcut WHERE removed_at IS NULL
         AND ((place_id = $1 AND original_id = $2) OR program_id = $3) ORDER BY added_at DESC LIMIT 1`,
      [to.placeId, to.originalId, to.programId],
    )) as { id: ShortcutId }[];
    return rows[0]?.id;
  }

  /** All shortcuts there are to these originals and programs, the oldest first. */
  async leadingTo(all: readonly LeadsTo[]): Promise<(LeadsTo & { id: ShortcutId })[]> {
    return (await this.db.query(
      `SELECT id::text, place_id AS "placeId", original_id AS "originalId", program_id AS "programId" FROM shortcut
       WHERE removed_at IS NULL AND (program_id = ANY($3)
         OR (place_id, original_id) IN (SELECT * FROM unnest($1::int[], $2::bigint[]))) ORDER BY added_at`,
      [all.map((t) => t.placeId), all.map((t) => t.originalId), all.flatMap((t) => t.programId ?? [])],
    )) as (LeadsTo & { id: ShortcutId })[];
  }

  /**
   * Gone for good after so many days in the bin; one that a mirror shows its folder by waits as long as the mirror is
   * there. Returns how many.
   */
  async clearBin(manager: EntityManager, days: number): Promise<number> {
    const [, gone] = (await manager.query(
      `DELETE FROM shortcut s WHERE removed_at <= now() - make_interval(days => $1)
         AND NOT EXISTS (SELECT 1 FROM collection c WHERE c.mirror_of = s.id)`,
      [days],
    )) as [unknown, number];
    return gone;
  }

  /** What is offered beside a shortcut, in the order it was added. */
  async goingWith(shortcutId: ShortcutId): Promise<ShortcutDetail['goesWith']> {
    return (await this.db.query(
      `SELECT w.id::text, s.id::text AS "shortcutId", s.name, s.kind, s.state FROM companion w
       JOIN shortcut s ON s.id = w.with_id WHERE w.shortcut_id = $1 AND s.removed_at IS NULL ORDER BY w.sort, w.id`,
      [shortcutId],
    )) as ShortcutDetail['goesWith'];
  }

  /** The last point on the line of what goes with it. */
  async lastOfGoingWith(shortcutId: ShortcutId): Promise<number> {
    const [row] = (await this.db.query(`SELECT coalesce(max(sort), 0) AS last FROM companion WHERE shortcut_id = $1`, [
      shortcutId,
    ])) as [{ last: number }];
    return row.last;
  }
}
