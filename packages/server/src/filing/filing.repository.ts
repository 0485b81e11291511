/** SQL over filings: what each is to do, how far it has come, and which are under way. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { besideAct } from '../database/inAct.js';
import type { FiledItem, TaggedBelow } from './diskMoves.js';

export interface FilingRow {
  id: string;
  state: 'intent' | 'done';
  madeFolder: string | null;
  items: FiledItem[];
}

const COLUMNS = `id::text, state, made_folder AS "madeFolder", items, filed`;

@Injectable()
export class FilingRepository {
  constructor(private readonly db: DataSource) {}

  async one(id: string): Promise<FilingRow | undefined> {
    return (await this.rows(`id = $1`, id))[0];
  }

  /** Those of which the disk may not be as their row says. */
  busy(): Promise<FilingRow[]> {
    return this.rows(`id IN (SELECT filing_id FROM filing_busy)`);
  }

  /** Those that ended so many days ago. */
  ended(days: number): Promise<FilingRow[]> {
    return this.rows(`at <= now() - make_interval(days => $1) AND id NOT IN (SELECT filing_id FROM filing_busy)`, days);
  }

  private async rows(where: string, ...parameters: (string | number)[]): Promise<FilingRow[]> {
    const rows = (await this.db.query(`SELECT ${COLUMNS} FROM filing WHERE ${where}`, parameters)) as (FilingRow & {
      filed: number;
    })[];
    for (const { items, filed } of rows) for (const item of items.slice(0, filed)) item.filed = true;
    return rows;
  }

  /** The intent, with its mark that the disk may be on the way. */
  async mean({ id, madeFolder, items }: Omit<FilingRow, 'state'>): Promise<void> {
    await this.db.query(
      `WITH own AS (INSERT INTO filing (id, state, made_folder, items) VALUES ($1, 'intent', $2, $3))
       INSERT INTO filing_busy VALUES ($1)`,
      [id, madeFolder, JSON.stringify(items)],
    );
  }

  /** Of what filings carried to these paths: which of it had tags. */
  async taggedAt(paths: readonly string[]): Promise<Map<string, TaggedBelow[]>> {
    const rows = (await this.db.query(
      `SELECT i->>'to' AS to, i->'tagged' AS tagged FROM filing, jsonb_array_elements(items) i
       WHERE state = 'done' AND i->>'to' = ANY($1) AND i->'tagged' IS NOT NULL ORDER BY at`,
      [paths],
    )) as { to: string; tagged: TaggedBelow[] }[];
    return new Map(rows.map((r) => [r.to, r.tagged]));
  }

  async saveItems(id: string, items: readonly FiledItem[]): Promise<void> {
    await this.db.query(`UPDATE filing SET items = $2 WHERE id = $1`, [id, JSON.stringify(items)]);
  }

  /** How many of its items are filed, from the first. */
  async saveProgress(id: string, filed: number): Promise<void> {
    await this.db.query(`UPDATE filing SET filed = $2 WHERE id = $1`, [id, filed]);
  }

  /** Stands even where the transaction around it does not come to its end. */
  async markBusy(id: string): Promise<void> {
    await besideAct(() => this.db.query(`INSERT INTO filing_busy VALUES ($1) ON CONFLICT DO NOTHING`, [id]));
  }

  async markSettled(id: string): Promise<void> {
    await besideAct(() => this.db.query(`DELETE FROM filing_busy WHERE filing_id = $1`, [id]));
  }

  /** An intent that came to nothing; one that was done and undone is kept, so that it can be done again. */
  async removeIntent(id: string): Promise<void> {
    await this.db.query(
      `DELETE FROM filing f WHERE id = $1 AND state = 'intent' AND NOT EXISTS (SELECT 1 FROM journal j
         WHERE j.changes @> jsonb_build_array(jsonb_build_object('table', 'filing', 'id', $1::text)))`,
      [id],
    );
  }

  async remove(id: string): Promise<void> {
    await this.db.query(`DELETE FROM filing WHERE id = $1`, [id]);
  }
}
