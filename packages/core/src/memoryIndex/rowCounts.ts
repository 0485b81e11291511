/** What each row of the builder does to the answer, so that one sees which of them empties it. */
import { treeOf, type Group, type QueryRow } from '../query/index.js';
import { askColumns, type AskContext } from './askColumns.js';
import { Bits } from './bits.js';
import type { PlaceIndex } from './placeIndex.js';

export interface RowCount {
  /** How many originals the row lets through by itself. */
  through: number;
  /** How many more the answer would have without the row. */
  alone: number;
}

/**
 * Counts for the rows of a group, depth first, in one place; add those of several places up. Cost: each condition is
 * asked once, then a run over the bits for each row and condition.
 */
export function countRows(index: PlaceIndex, group: Group, context: AskContext): RowCount[] {
  const answers = new Map<QueryRow, Bits>();
  const rows: QueryRow[] = [];
  const gather = (part: Group | QueryRow): void => {
    if (part.type === 'group') return part.parts.forEach(gather);
    rows.push(part);
    answers.set(part, askColumns(index, treeOf(part), context));
  };
  gather(group);
  const all = index.present();
  // a group with nothing in it says nothing, as in treeOf
  const join = (part: Group | QueryRow, without: QueryRow | undefined): Bits | undefined => {
    if (part === without) return undefined;
    if (part.type === 'row') return answers.get(part)!;
    let bits: Bits | undefined;
    for (const inner of part.parts) {
      const more = join(inner, without);
      if (!more) continue;
      if (!bits) bits = more.copy();
      else if (part.of === 'all') bits.and(more);
      else bits.or(more);
    }
    return bits && part.of === 'none' ? all.copy().andNot(bits) : bits;
  };
  const whole = (join(group, undefined) ?? all).count();
  return rows.map((row) => ({
    through: answers.get(row)!.count(),
    alone: Math.max(0, (join(group, row) ?? all).count() - whole),
  }));
}
