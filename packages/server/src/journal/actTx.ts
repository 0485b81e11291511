/**
 * One act: every row it adds, changes or removes goes through here, so that the journal's line holds exactly what was
 * done, in the same transaction. Rows travel as JSON (`to_jsonb`), which makes the inverse of any change generic.
 */
import type { EntityManager } from 'typeorm';
import { changeOf, conflictOf, type Change, type Row } from '@rellin/core/journal';
import { Refusal } from '../problems/refusal.js';

const TABLES = new Set([
  'shortcut',
  'pin',
  'place',
  'setting',
  'opening',
  'collection',
  'member',
  'tag',
  'tagging',
  'companion',
  'filing',
  'quick_filter',
  'told_default',
  'saved_search',
  'alias',
  'publication',
]);

function checked(table: string): string {
  if (!TABLES.has(table)) throw new Error(`not a journaled table: ${table}`);
  return table;
}

export class ActTx {
  readonly changes: Change[] = [];

  constructor(readonly manager: EntityManager) {}

  /** The row as JSON, locked to the end of the act. */
  async load(table: string, id: string): Promise<Row | undefined> {
    const rows = (await this.manager.query(
      `SELECT to_jsonb(t) AS row FROM ${checked(table)} t WHERE id = $1 FOR UPDATE`,
      [id],
    )) as { row: Row }[];
    return rows[0]?.row;
  }

  async need(table: string, id: string, what: string): Promise<Row> {
    const row = await this.load(table, id);
    if (!row) throw new Refusal('not-found', `${what} is not in the catalogue any more.`);
    return row;
  }

  /** Adds a row; columns left out take their defaults. */
  async insert(table: string, row: Row): Promise<Row> {
    const columns = Object.keys(row)
      .filter((c) => row[c] !== undefined)
      .map((c) => `"${c}"`);
    const rows = (await this.manager.query(
      `INSERT INTO ${checked(table)} AS t (${columns.join(', ')})
       SELECT ${columns.join(', ')} FROM jsonb_populate_record(null::${table}, $1) RETURNING to_jsonb(t) AS row`,
      [JSON.stringify(row)],
    )) as { row: Row }[];
    const after = rows[0]!.row;
    this.changes.push({ table, id: String(after['id']), before: null, after });
    return after;
  }

  /** Changes some columns; nothing is written and nothing recorded where all hold already. */
  async update(table: string, id: string, patch: Row): Promise<void> {
    const before = await this.need(table, id, 'This');
    const change = changeOf(table, id, pick(before, Object.keys(patch)), normalised(patch));
    if (change?.after) await this.write(change);
  }

  /** Changes the same columns of many rows at once. */
  async updateMany(table: string, patches: readonly [string, Row][]): Promise<void> {
    const [first] = patches;
    if (!first) return;
    const columns = Object.keys(first[1]);
    // in one go, and only the columns in question: whole rows of thousands take longer to carry than to change
    const object = (row: string) => `jsonb_build_object(${columns.map((c) => `'${c}', ${row}."${c}"`).join(', ')})`;
    const list = (row: string) => columns.map((c) => `${row}"${c}"`).join(', ');
    const [rows] = (await this.manager.query(
      `UPDATE ${checked(table)} t SET (${list('')}) = ROW(${list('r.')})
       FROM jsonb_populate_recordset(null::${table}, $1) r
       JOIN LATERAL (SELECT * FROM ${table} WHERE id = r.id FOR UPDATE) o ON true
       WHERE t.id = r.id RETURNING t.id::text, ${object('o')} AS before, ${object('t')} AS after`,
      [JSON.stringify(patches.map(([id, patch]) => ({ ...patch, id })))],
    )) as [{ id: string; before: Row; after: Row }[], number];
    for (const { id, before, after } of rows) {
      const change = changeOf(table, id, before, after);
      if (change?.after) this.changes.push(change);
    }
  }

  async remove(table: string, id: string): Promise<void> {
    const before = await this.need(table, id, 'This');
    await this.manager.query(`DELETE FROM ${checked(table)} WHERE id = $1`, [id]);
    this.changes.push({ table, id, before, after: null });
  }

  /** Applies a recorded change, refusing where the row no longer is what it starts from. */
  async apply(change: Change): Promise<void> {
    const { table, id, before, after } = change;
    const current = await this.load(table, id);
    // taking an addition back removes the row whatever became of its fields: the row goes into the record as it is now
    const conflict = after === null && current ? undefined : conflictOf(withoutObserved(change), current);
    if (conflict)
      throw new Refusal(
        'changed-since',
        conflict.kind === 'field-changed-since'
          ? `It cannot be taken back: ${conflict.field.replaceAll('_', ' ')} was changed again since.`
          : 'It cannot be taken back: what it was about has been added or removed since.',
        { remedy: 'Undo the later act first; the journal lists it.' },
      );
    if (after === null) await this.remove(table, id);
    else if (before === null) await this.insert(table, after);
    else await this.write(change);
  }

  private async write({ table, id, before, after }: Change): Promise<void> {
    const keys = Object.keys(after!);
    const columns = keys.map((c) => `"${c}"`);
    const rows = (await this.manager.query(
      `UPDATE ${checked(table)} t SET (${columns.join(', ')}) =
         (SELECT ${columns.map((c) => `r.${c}`).join(', ')} FROM jsonb_populate_record(null::${table}, $2) r)
       WHERE t.id = $1 RETURNING to_jsonb(t) AS row`,
      [id, JSON.stringify(after)],
    )) as [{ row: Row }[], number];
    // as PostgreSQL spells it: a time written as "…Z" is read back as "…+00:00"
    this.changes.push({ table, id, before, after: pick(rows[0][0]!.row, keys) });
  }
}

/** Columns that Rellin itself keeps true to the disk; their drifting is no reason to refuse an undo. */
const OBSERVED = new Set(['identity', 'state', 'state_reason', 'state_since', 'candidates', 'original_id', 'rejected']);

function withoutObserved(change: Change): Change {
  if (change.table !== 'shortcut' || change.before === null) return change;
  const before = Object.fromEntries(Object.entries(change.before).filter(([key]) => !OBSERVED.has(key)));
  return { ...change, before };
}

function pick(row: Row, keys: string[]): Row {
  return Object.fromEntries(keys.map((key) => [key, row[key]]));
}

/** The patch as JSON would carry it, so that it compares with rows read as JSON. */
function normalised(patch: Row): Row {
  return JSON.parse(JSON.stringify(patch)) as Row;
}
