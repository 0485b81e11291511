/**
 * One act: every row it adds, changes or removes goes through here, so that the journal's line holds exactly what was
 * done, in the same transaction. Rows travel as JSON (`to_jsonb`), which makes the inverse of any change generic.
 */
import type { EntityManager } from 'typeorm';
import { changeOf, conflictOf, type Change, type Conflict, type JournaledRow } from '@rellin/core/journal';
import { Refusal } from '../problems/refusal.js';
import type { NewRows, Rows } from '../database/rows.js';
import { TOPICS_OF, type JournaledTable } from './topics.js';

/** Some columns of a row, as an act writes them. */
export type Patch<T extends JournaledTable> = Partial<NewRows[T]>;

/** Changes that are undone come from the journal, as text. */
function checked(table: string): JournaledTable {
  if (!Object.hasOwn(TOPICS_OF, table)) throw new Error(`not a journaled table: ${table}`);
  return table as JournaledTable;
}

export class ActTx {
  readonly changes: Change[] = [];
  /** Changes of `rewrite`: what each row was and is now stays in the database, only the columns are told. */
  readonly rewritten: Change[] = [];
  /** Of the line they belong to, where there are any. */
  lineId: number | undefined;

  constructor(readonly manager: EntityManager) {}

  /** The row as JSON, locked to the end of the act. */
  async load<T extends JournaledTable>(table: T, id: string): Promise<Rows[T] | undefined> {
    const rows = (await this.manager.query(
      `SELECT to_jsonb(t) AS row FROM ${checked(table)} t WHERE id = $1 FOR UPDATE`,
      [id],
    )) as { row: Rows[T] }[];
    return rows[0]?.row;
  }

  async need<T extends JournaledTable>(table: T, id: string, what: string): Promise<Rows[T]> {
    const row = await this.load(table, id);
    if (!row) throw new Refusal('not-found', `${what} is not in the catalogue any more.`);
    return row;
  }

  /** Adds a row; columns left out take their defaults. */
  async insert<T extends JournaledTable>(table: T, row: NewRows[T]): Promise<Rows[T]> {
    const columns = Object.entries(row)
      .filter(([, value]) => value !== undefined)
      .map(([column]) => `"${column}"`);
    const rows = (await this.manager.query(
      `INSERT INTO ${checked(table)} AS t (${columns.join(', ')})
       SELECT ${columns.join(', ')} FROM jsonb_populate_record(null::${table}, $1) RETURNING to_jsonb(t) AS row`,
      [JSON.stringify(row)],
    )) as { row: Rows[T] }[];
    const after = rows[0]!.row;
    this.changes.push({ table, id: String(after.id), before: null, after: { ...after } });
    return after;
  }

  /** Adds many rows of the same columns by one statement. */
  async insertMany<T extends JournaledTable>(table: T, rows: readonly NewRows[T][]): Promise<void> {
    const [first] = rows;
    if (!first) return;
    const columns = Object.keys(first).map((c) => `"${c}"`);
    const added = (await this.manager.query(
      `INSERT INTO ${checked(table)} AS t (${columns.join(', ')})
       SELECT ${columns.join(', ')} FROM jsonb_populate_recordset(null::${table}, $1) RETURNING to_jsonb(t) AS row`,
      [JSON.stringify(rows)],
    )) as { row: JournaledRow }[];
    for (const { row } of added) this.changes.push({ table, id: String(row['id']), before: null, after: row });
  }

  /** Changes some columns; nothing is written and nothing recorded where all hold already. */
  async update<T extends JournaledTable>(table: T, id: string, patch: Patch<T>): Promise<void> {
    const before = await this.need(table, id, 'This');
    const change = changeOf(table, id, pick({ ...before }, Object.keys(patch)), normalised(patch));
    if (change?.after) await this.write(change);
  }

  /** Changes the same columns of many different rows at once; rows that are gone or hold it already are left out. */
  async updateMany<T extends JournaledTable>(table: T, patches: readonly [string, Patch<T>][]): Promise<void> {
    const [first] = patches;
    if (!first) return;
    const columns = Object.keys(first[1]);
    const before = await this.loadMany(
      table,
      patches.map(([id]) => id),
      columns,
    );
    const changes = patches.flatMap(([id, patch]) => {
      const row = before.get(id);
      const change = row && changeOf(table, id, row, normalised(patch));
      return change?.after ? [{ change, patch }] : [];
    });
    await this.writeMany(
      table,
      columns,
      changes.map(({ change, patch }) => ({ id: change.id, patch, change })),
    );
  }

  /**
   * Changes many rows by one statement: each column by an expression over `t`, the row as it was, and `v`, a row of
   * values (all text) given for it. Rows and their record stay in the database: to carry thousands out and in again
   * takes longer than to change them.
   */
  async rewrite(
    table: string,
    ids: readonly string[],
    values: Record<string, readonly string[]>,
    set: Record<string, string>,
  ): Promise<void> {
    if (ids.length === 0) return;
    const columns = Object.keys(set);
    const object = (row: string) => `json_build_object(${columns.map((c) => `'${c}', ${row}."${c}"`).join(', ')})`;
    const names = Object.keys(values);
    this.lineId ??= await nextLineId(this.manager);
    // first locked, then read: what the record calls "before" is what was changed
    await this.manager.query(`SELECT count(*) FROM (SELECT 1 FROM ${checked(table)} WHERE id = ANY($1) FOR UPDATE) l`, [
      ids,
    ]);
    await this.manager.query(
      `WITH v AS (SELECT * FROM unnest($1::uuid[]${names.map((_, i) => `, $${i + 2}::text[]`).join('')}) v(${['given', ...names].join(', ')})),
       done AS (
         UPDATE ${table} n SET (${columns.join(', ')}) = ROW(${columns.map((c) => set[c]).join(', ')})
         FROM v JOIN ${table} t ON t.id = v.given WHERE n.id = t.id
         RETURNING n.id, ${object('t')} AS before, ${object('n')} AS after)
       INSERT INTO journal_rewritten
       SELECT $${names.length + 2}, json_build_object('table', '${table}', 'id', id, 'before', before, 'after', after) FROM done`,
      [ids, ...names.map((name) => values[name]), this.lineId],
    );
    const after = Object.fromEntries(columns.map((c) => [c, null]));
    for (const id of ids) this.rewritten.push({ table, id, before: {}, after });
  }

  async remove(table: JournaledTable, id: string): Promise<void> {
    const before = await this.need(table, id, 'This');
    await this.manager.query(`DELETE FROM ${checked(table)} WHERE id = $1`, [id]);
    this.changes.push({ table, id, before: { ...before }, after: null });
  }

  /** Applies recorded changes in their order, refusing where a row no longer is what its change starts from. */
  async applyAll(changes: readonly Change[]): Promise<void> {
    for (let i = 0; i < changes.length;) {
      const together = alikeFrom(changes, i);
      if (together.length > 1) await this.applyTogether(together);
      else await this.apply(changes[i]!);
      i += together.length;
    }
  }

  private async apply(change: Change): Promise<void> {
    const { id, before, after } = change;
    const table = checked(change.table);
    const current = await this.load(table, id);
    // taking an addition back removes the row whatever became of its fields: the row goes into the record as it is now
    refuseConflict(
      after === null && current ? undefined : conflictOf(withoutObserved(change), current && { ...current }),
    );
    if (after === null) await this.remove(table, id);
    // as it was written once
    else if (before === null) await this.insert(table, after as unknown as NewRows[typeof table]);
    else await this.write(change);
  }

  /** Changes of the same columns of different rows: one reading and one writing for them all. */
  private async applyTogether(changes: readonly Change[]): Promise<void> {
    const [{ table, after }] = changes as [Change];
    const columns = Object.keys(after!);
    const current = await this.loadMany(
      table,
      changes.map((c) => c.id),
      columns,
    );
    for (const change of changes) refuseConflict(conflictOf(withoutObserved(change), current.get(change.id)));
    await this.writeMany(
      table,
      columns,
      changes.map((change) => ({ id: change.id, patch: change.after!, change })),
    );
  }

  /** These columns of rows, as JSON, locked to the end of the act. */
  private async loadMany(
    table: string,
    ids: readonly string[],
    columns: readonly string[],
  ): Promise<Map<string, JournaledRow>> {
    const object = columns.map((c) => `'${c}', "${c}"`).join(', ');
    const rows = (await this.manager.query(
      `SELECT id::text, json_build_object(${object}) AS row FROM ${checked(table)} WHERE id = ANY($1) ORDER BY id FOR UPDATE`,
      [ids],
    )) as { id: string; row: JournaledRow }[];
    return new Map(rows.map(({ id, row }) => [id, row]));
  }

  /** Writes the same columns of many rows, and records each change; only what differs is to be in `after`. */
  private async writeMany(
    table: string,
    columns: readonly string[],
    list: readonly { id: string; patch: JournaledRow; change: Change }[],
  ): Promise<void> {
    if (list.length === 0) return;
    const names = columns.map((c) => `"${c}"`);
    await this.manager.query(
      `UPDATE ${checked(table)} t SET (${names.join(', ')}) = ROW(${names.map((c) => `r.${c}`).join(', ')})
       FROM jsonb_populate_recordset(null::${table}, $1) r WHERE t.id = r.id`,
      [JSON.stringify(list.map(({ id, patch }) => ({ ...patch, id })))],
    );
    // whole rows of thousands take longer to carry back than to write: only times may be spelt otherwise than they were
    // given
    const spelt = await this.speltTimes(list.flatMap(({ change }) => Object.values(change.after!).filter(isTime)));
    for (const { change } of list) {
      const after = { ...change.after };
      for (const [c, value] of Object.entries(after)) if (isTime(value)) after[c] = spelt.get(value) ?? value;
      this.changes.push({ ...change, after });
    }
  }

  /** How PostgreSQL writes these times in JSON. */
  private async speltTimes(times: readonly string[]): Promise<Map<string, string>> {
    const list = [...new Set(times)];
    if (list.length === 0) return new Map();
    const [row] = (await this.manager.query(`SELECT to_json($1::timestamptz[]) AS spelt`, [list])) as [
      { spelt: string[] },
    ];
    return new Map(list.map((time, i) => [time, row.spelt[i]!]));
  }

  private async write({ table, id, before, after }: Change): Promise<void> {
    const keys = Object.keys(after!);
    const columns = keys.map((c) => `"${c}"`);
    const rows = (await this.manager.query(
      `UPDATE ${checked(table)} t SET (${columns.join(', ')}) =
         (SELECT ${columns.map((c) => `r.${c}`).join(', ')} FROM jsonb_populate_record(null::${table}, $2) r)
       WHERE t.id = $1 RETURNING to_jsonb(t) AS row`,
      [id, JSON.stringify(after)],
    )) as [{ row: JournaledRow }[], number];
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

/** An ISO 8601 date and time, as rows carry it in JSON. */
const isTime = (value: unknown): value is string =>
  typeof value === 'string' && /^\d{4}-\d\d-\d\dT[\d:.]+(Z|[+-]\d\d:\d\d)$/.test(value);

/** Lines and undos are numbered in one row: clocks are set, and then say nothing of what came first. */
export const NEXT_LINE = `nextval(pg_get_serial_sequence('journal', 'id'))`;

export async function nextLineId(manager: EntityManager): Promise<number> {
  const rows = await manager.query<{ id: number }[]>(`SELECT ${NEXT_LINE} AS id`);
  return rows[0]!.id;
}

/** The changes from the `i`th on that change the same columns of the same table, each of another row. */
function alikeFrom(changes: readonly Change[], i: number): readonly Change[] {
  const { table, before, after } = changes[i]!;
  if (!before || !after) return [changes[i]!];
  const columns = Object.keys(after).sort().join();
  const ids = new Set<string>();
  let end = i;
  for (; end < changes.length; end++) {
    const c = changes[end]!;
    if (c.table !== table || !c.before || !c.after || ids.has(c.id)) break;
    if (Object.keys(c.after).sort().join() !== columns) break;
    ids.add(c.id);
  }
  return changes.slice(i, end);
}

function refuseConflict(conflict: Conflict | undefined): void {
  if (!conflict) return;
  throw new Refusal(
    'changed-since',
    conflict.kind === 'field-changed-since'
      ? `It cannot be undone: ${conflict.field.replaceAll('_', ' ')} was changed again since.`
      : 'It cannot be undone: what it was about has been added or removed since.',
    { remedy: 'Undo the later act first; the journal lists it.' },
  );
}

function pick(row: JournaledRow, keys: string[]): JournaledRow {
  return Object.fromEntries(keys.map((key) => [key, row[key]]));
}

/** The patch as JSON would carry it, so that it compares with rows read as JSON. */
function normalised(patch: JournaledRow): JournaledRow {
  const out: JournaledRow = {};
  for (const [key, value] of Object.entries(patch))
    if (value !== undefined) out[key] = value instanceof Date ? value.toJSON() : value;
  return out;
}
