import type { Rows } from '../database/rows.js';
import type { JournaledTable } from './topics.js';

/**
 * One row's change, with the types of its table's columns: what was added has no `before`, what was removed no `after`,
 * and what was changed the changed columns only in both. Its table tells it from the others:
 *
 *     if (change.table === 'opening') change.after?.shortcut_id
 */
export type RowChange = {
  [T in JournaledTable]: { table: T; id: string; before: Partial<Rows[T]> | null; after: Partial<Rows[T]> | null };
}[JournaledTable];
