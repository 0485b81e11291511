/** Room in own order. */
import { crowded, spread } from '@rellin/core/collections';
import type { ActTx } from '../journal/actTx.js';
import type { JournaledTable } from '../journal/topics.js';
import { Refusal } from '../problems/refusal.js';

/**
 * Points for new rows before one, or at the end; `rows` in their order. Where there is no room the whole list is
 * numbered anew, each row in its table.
 */
export async function roomBefore<T extends { id: string; sort: number }>(
  tx: ActTx,
  rows: readonly T[],
  before: string | undefined,
  count: number,
  tableOf: (row: T) => JournaledTable,
): Promise<number[]> {
  const at = before === undefined ? rows.length : rows.findIndex((r) => r.id === before);
  if (at < 0) throw new Refusal('changed-since', 'What it was to stand before is not there any more.');
  const ends = [rows[at - 1]?.sort, rows[at]?.sort] as const;
  if (!crowded(...ends, count)) return spread(...ends, count);
  for (const [i, row] of rows.entries())
    await tx.update(tableOf(row), row.id, { sort: i < at ? i + 1 : i + 1 + count });
  return Array.from({ length: count }, (_, i) => at + 1 + i);
}
