/**
 * Own order as points on a line: to move one member is to change one row, whatever the length of the list.
 * Points are doubles; halving a gap some fifty times uses it up, which `crowded` tells beforehand.
 */

/** The gap between neighbours of a fresh list. */
const STEP = 1;

/**
 * `count` points strictly between two neighbours, evenly spread; `undefined` stands for an end of the list.
 * Increasing; strictly between unless `crowded` says that there is no room.
 */
export function spread(before: number | undefined, after: number | undefined, count: number): number[] {
  if (before !== undefined && after !== undefined) {
    const gap = (after - before) / (count + 1);
    return Array.from({ length: count }, (_, i) => before + gap * (i + 1));
  }
  if (after !== undefined) return Array.from({ length: count }, (_, i) => after - STEP * (count - i));
  const from = before ?? 0;
  return Array.from({ length: count }, (_, i) => from + STEP * (i + 1));
}

/** Whether the points between two neighbours would no longer be distinct: the list must be numbered anew. */
export function crowded(before: number | undefined, after: number | undefined, count: number): boolean {
  const points = [...(before === undefined ? [] : [before]), ...spread(before, after, count)];
  if (after !== undefined) points.push(after);
  return points.some((p, i) => i > 0 && !(p > points[i - 1]!));
}
