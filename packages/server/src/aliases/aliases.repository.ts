/** SQL over aliases, and over what links are made from. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { Identity } from '@rellin/core/identity';
import type { AliasId, PlaceId, ProgramId, ShortcutId } from '@rellin/contract';
import type { Rows } from '../database/rows.js';

export type AliasRow = Omit<Rows['alias'], 'added_at'>;

/** A shortcut as far as a link to it is made from it. */
export interface ShortcutRow {
  id: string;
  name: string;
  description: string;
  picture: string;
  target: 'original' | 'program' | 'web';
  place_id: PlaceId | null;
  program_id: ProgramId | null;
  url: string | null;
  identity: Identity | null;
}

@Injectable()
export class AliasesRepository {
  constructor(private readonly db: DataSource) {}

  /** All, or these, in the order they were made; those whose shortcut lies in the bin are left out. */
  async list(ids?: readonly AliasId[]): Promise<AliasRow[]> {
    return (await this.db.query(
      `SELECT a.id::text, a.shortcut_id::text, a.place_id, a.folder_id, a.name, a.taken FROM alias a
       JOIN shortcut s ON s.id = a.shortcut_id AND s.removed_at IS NULL
       WHERE $1::uuid[] IS NULL OR a.id = ANY($1) ORDER BY a.added_at, a.id`,
      [ids ?? null],
    )) as AliasRow[];
  }

  async nameOf(id: AliasId): Promise<string | undefined> {
    const rows = (await this.db.query(`SELECT name FROM alias WHERE id = $1`, [id])) as { name: string }[];
    return rows[0]?.name;
  }

  /** Those that are not in the bin, by id. */
  async shortcuts(ids: readonly ShortcutId[]): Promise<Map<ShortcutId, ShortcutRow>> {
    const rows = (await this.db.query(
      `SELECT id::text, name, description, picture, target, place_id, program_id, url, identity FROM shortcut
       WHERE id = ANY($1::uuid[]) AND removed_at IS NULL`,
      [ids],
    )) as ShortcutRow[];
    return new Map(rows.map((r) => [r.id, r]));
  }
}
